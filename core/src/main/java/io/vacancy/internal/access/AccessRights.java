// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.access;

import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Receipt;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.TrailEntry;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What is there for one who asks, during one call: by the scope, and by the permissions. The one place where that is
 * decided for tables, for what is archived of them, and for what the trail tells of them.
 *
 * @param actor asked for only where a permission is
 */
public record AccessRights(Schema schema, Scope scope, Permission permission, Supplier<String> actor) {

    /** The permission of an application that has none. */
    public static final Permission ANYTHING = (who, table, act) -> null;

    /** What holds for the rows of a table that are there, with its own names and types; null where all are. */
    public @Nullable Condition condition(Table table) {
        Condition condition = scope.on(table);
        return condition == null ? null : condition.readFor(table, schema);
    }

    /** The conditions on tables, without those of which all rows are there. */
    public Map<TableName, Condition> conditions(Stream<TableName> tables) {
        Map<TableName, Condition> conditions = new HashMap<>();
        tables.forEach(name -> {
            Condition condition = condition(schema.table(name));
            if (condition != null) {
                conditions.put(name, condition);
            }
        });
        return conditions;
    }

    /** Why the actor may not do this to a table, or null. */
    public @Nullable String refusal(TableName table, Act act) {
        return permission == ANYTHING ? null : permission.refusal(actor.get(), table, act);
    }

    /**
     * @throws MisuseException if the actor may not do this to the table, or the scope says nothing of it
     */
    public void wants(Table table, Act act) {
        String refusal = refusal(table.name(), act);
        if (refusal != null) {
            throw new MisuseException(refusal);
        }
        wantsOpen(table);
    }

    /** @throws MisuseException if nobody has said who may see the table */
    public void wantsOpen(Table table) {
        if (scope.closed(table.name())) {
            throw new MisuseException(
                    "Table " + table + " is closed: it has no column of the scope, and nobody has said how its rows are"
                            + " reached.",
                    "Say so on the scope: through(\"" + table + ".parent_id\", …) names the relations that lead to a"
                            + " table with the column, and open(\"" + table + "\") shares all of it.");
        }
    }

    /** Whether the actor may do this to every table, and no scope hides a row of any. */
    private boolean everything(Act act) {
        return schema.tables().stream()
                .allMatch(table -> refusal(table.name(), act) == null && scope.on(table) == null);
    }

    /** @throws MisuseException if something of any table is hidden from the actor */
    public void wantsEverything(Act act) {
        if (!everything(act)) {
            throw new MisuseException("This tells of every table, and not all of them are open to the one who asks.");
        }
    }

    /** Whether what is archived of a table is there. */
    public boolean sees(ArchivedRows rows) {
        return sees(rows.table().toString(), rows.scopeMark(), Act.READ_ARCHIVE);
    }

    /** Whether a receipt is there: all that it tells was there for a scope with the same conditions, or is for anybody. */
    public boolean sees(Receipt receipt, ScopeMarks marks) {
        return Stream.concat(
                        Stream.of(receipt.table()), receipt.effects().stream().map(effect -> effect.table()))
                .distinct()
                .allMatch(table -> sees(table.toString(), marks.of(table), Act.READ_ARCHIVE));
    }

    /** An entry without what is not there; null where its selected table is not. */
    public @Nullable TrailEntry seen(TrailEntry entry) {
        String table = entry.table();
        if (table == null && !everything(Act.READ_HISTORY)) {
            // A hold on a receipt names no table, and its reason may tell of any.
            return null;
        }
        if (table != null && !sees(table, entry.scopes().digests().get(table), Act.READ_HISTORY)) {
            return null;
        }
        List<AffectedRows> shown = entry.affected().stream()
                .filter(rows -> sees(rows.table(), entry.scopes().digests().get(rows.table()), Act.READ_HISTORY))
                .toList();
        return shown.size() == entry.affected().size() ? entry : entry.cut(shown);
    }

    /** What a scope said of a table that is gone nobody knows; it is there for those from whom nothing is hidden. */
    private boolean sees(String name, @Nullable String mark, Act act) {
        Table table = schema.tables().stream()
                .filter(each -> each.toString().equals(name))
                .findFirst()
                .orElse(null);
        if (table == null) {
            return mark == null && everything(act);
        }
        return refusal(table.name(), act) == null && ScopeMarks.covers(mark, condition(table));
    }
}
