// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.access.Permission;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.resolve.ResolvedMerge;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.request.Key;
import io.vacancy.request.KeyList;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Order;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a request selects, read against the schema: every name looked up, every value of its column's type.
 *
 * @param mode how the selected rows go, or come back
 */
record TargetFactory(ResolvedRules rules, AccessRights visibility, ResolvedRequest resolved, OperationKind mode) {

    Target target() {
        Request request = resolved.request();
        Table table = resolved.table();
        if (mode == OperationKind.RESTORE
                && !resolved.planned().selectsArchived()
                && request.onBlocked() == OnBlocked.SKIP) {
            throw new MisuseException(
                    "Soft-deleted rows are restored together; none of them is skipped.",
                    "Leave those out that are blocked.");
        }
        boolean truncates = resolved.operation() == OperationKind.TRUNCATE;
        boolean drops = resolved.operation() == OperationKind.DROP;
        if (truncates && rules.marker(table.name()) != null && !request.includesMarked()) {
            throw new MisuseException(
                    "Table " + table + " is emptied at once, and its soft-deleted rows with it.",
                    "Say that these are meant as well, by includingMarked().");
        }
        Selection selection = resolved.selection();
        Target.Keys keys = selection instanceof Selection.ByKeys by ? keys(by.keys(), table) : null;
        Condition which = null;
        if (selection instanceof Selection.ByCondition by) {
            which = by.condition();
        } else if (selection instanceof Selection.ByMatch match) {
            which = match.condition();
        }
        Condition further = resolved.narrowing().condition();
        if (further != null) {
            which = which == null ? further : which.and(further);
        }
        List<Order> order = resolved.narrowing().order().stream()
                .map(by -> new Order(table.column(by.column()).name(), by.descending()))
                .toList();
        Long first = resolved.narrowing().first();
        if (first == null && !order.isEmpty()) {
            throw new MisuseException(
                    "An order of rows is given, and no number of rows to take in it.", "Give a limit as well.");
        }
        return new Target(
                keys,
                which == null ? null : read(which, table),
                truncates || drops ? null : seen(),
                resolved.narrowing().filter(),
                first,
                order,
                selection instanceof Selection.Orphans orphans ? orphaning(orphans, table) : null,
                into(table));
    }

    /** Which rows are selected from at all, or null for every row. */
    private @Nullable Condition seen() {
        Table table = resolved.table();
        if (resolved.planned().selectsArchived()) {
            return null;
        }
        if (mode == OperationKind.RESTORE) {
            return rules.requiredMarker(table.name()).deleted();
        }
        if (mode == OperationKind.SOFT_DELETE || mode == OperationKind.REPLACE) {
            return rules.requiredMarker(table.name()).active();
        }
        ResolvedMarker marker = rules.marker(table.name());
        return marker == null || resolved.request().includesMarked()
                ? null
                : marker.deleted().not();
    }

    /** The row that the selected one is merged into, as the caller may see it; null where nothing is merged. */
    private @Nullable Condition into(Table table) {
        ResolvedMerge merge = resolved.merge();
        if (merge == null) {
            return null;
        }
        List<Condition> all = new ArrayList<>();
        for (int i = 0; i < merge.key().size(); i++) {
            all.add(ColumnRef.column(table.identity().columns().get(i))
                    .equalTo(merge.key().get(i)));
        }
        Condition scope = visibility.condition(table);
        if (scope != null) {
            all.add(new Condition.IsTrue(scope));
        }
        ResolvedMarker marker = rules.marker(table.name());
        if (marker != null) {
            all.add(new Condition.IsTrue(marker.active()));
        }
        return new Condition.All(all);
    }

    private Relation orphaning(Selection.Orphans orphans, Table table) {
        Relation relation = rules.schema().relation(orphans.relation());
        if (!relation.child().equals(table.name())) {
            throw new MisuseException(
                    "Rows of " + table + " have no parent by " + relation + ".",
                    "Its child rows are those of " + relation.child() + ".");
        }
        if (resolved.operation() == OperationKind.UNLINK_ORPHANS && relation.list()) {
            throw new MisuseException(
                    "No key is taken out of the lists of " + relation + ".", "Mend them, or have the rows go.");
        }
        if (resolved.operation() == OperationKind.UNLINK_ORPHANS && !table.anyNullable(relation.childColumns())) {
            throw new MisuseException(
                    "The link " + relation + " cannot be NULL.", "Give the rows a parent, or have them go.");
        }
        return relation;
    }

    private Condition read(Condition condition, Table table) {
        for (String parameter : condition.parameters()) {
            throw new MisuseException(
                    "The condition requires a value for its parameter " + parameter + ", and none is given.",
                    "Parameters belong to the named deletions of a rule book.");
        }
        return condition.readFor(table, rules.schema()).restrictRelated(this::seenRelated);
    }

    /** What holds for the related rows that a condition may look at; null where it may look at all. */
    private @Nullable Condition seenRelated(Table related) {
        visibility.wants(related, Permission.Act.LOOK);
        Condition scope = visibility.condition(related);
        Condition inScope = scope == null ? null : new Condition.IsTrue(scope);
        ResolvedMarker marker = rules.marker(related.name());
        boolean all = mode == OperationKind.RESTORE || resolved.request().includesMarked();
        if (marker == null || all) {
            return inScope;
        }
        Condition active = new Condition.IsTrue(marker.deleted()).not();
        return inScope == null ? active : active.and(inScope);
    }

    /** Read key by key whenever they are gone through, so that a million of them take no room but their own. */
    private static Target.Keys keys(KeyList given, Table table) {
        // Once before anything else, so that a wrong one is told before any of them reaches the database.
        given.forEach(key -> key.valuesFor(table));
        return new Target.Keys(given.size(), () -> {
            Iterator<Key> keys = given.iterator();
            return new Iterator<>() {
                @Override
                public boolean hasNext() {
                    return keys.hasNext();
                }

                @Override
                public List<Object> next() {
                    return keys.next().valuesFor(table);
                }
            };
        });
    }
}
