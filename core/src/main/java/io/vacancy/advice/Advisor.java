// SPDX-License-Identifier: Apache-2.0
package io.vacancy.advice;

import io.vacancy.condition.Condition;
import io.vacancy.preview.CountText;
import io.vacancy.request.Mode;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Marker;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import io.vacancy.spi.DdlSuggestion;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Store;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Looks for what is worth mending in a database; changes nothing. */
public final class Advisor {

    private final ResolvedRules rules;
    private final Store store;

    public Advisor(ResolvedRules rules, Store store) {
        this.rules = rules;
        this.store = store;
    }

    /** Everything that was found, by kind. */
    public List<Advice> all() {
        List<Advice> all = new ArrayList<>(indexes());
        all.addAll(markers());
        rules.marked().forEach(table -> traps(table, all));
        return all;
    }

    /** Tables that want a marker: for themselves, or because rows that they depend on have one. */
    private List<Advice> markers() {
        Map<TableName, Advice> advice = new TreeMap<>();
        for (Table table : rules.schema().tables()) {
            TableName name = table.name();
            if (rules.usualMode(name) == Mode.SOFT_DELETE && rules.marker(name) == null) {
                advice.put(
                        name,
                        new Advice(
                                Advice.Kind.NO_MARKER,
                                name,
                                null,
                                "Rows of " + table + " are to be soft-deleted, and nothing says how they are marked.",
                                store.written(new DdlSuggestion.MarkerColumn(name, null))));
            }
        }
        for (Relation relation : rules.schema().relations()) {
            Table child = rules.schema().table(relation.child());
            boolean mixed = rules.marker(relation.parent()) != null && rules.marker(child.name()) == null;
            if (mixed && !child.view()) {
                advice.put(
                        child.name(),
                        new Advice(
                                Advice.Kind.NO_MARKER,
                                child.name(),
                                relation.name(),
                                "Rows of " + relation.parent() + " can be soft-deleted, and rows of " + child
                                        + " that depend on them cannot.",
                                store.written(new DdlSuggestion.MarkerColumn(child.name(), null))));
            }
        }
        return List.copyOf(advice.values());
    }

    private void traps(TableName name, List<Advice> all) {
        Table table = rules.schema().table(name);
        ResolvedMarker marker = rules.marker(name);
        if (marker == null) {
            return;
        }
        for (UniqueKey key : table.uniqueKeys()) {
            String statement =
                    store.written(new DdlSuggestion.UniqueWhileActive(table, key.columns(), marker.active()));
            if (!(marker.sign() instanceof Marker.Versions)) {
                all.add(new Advice(
                        Advice.Kind.VALUE_HELD,
                        name,
                        null,
                        "A soft-deleted row of " + table + " still holds its " + String.join(", ", key.columns())
                                + ", and no other row can have it. "
                                + (statement == null
                                        ? "This engine has no unique index over active rows alone."
                                        : "Over active rows alone:"),
                        statement));
            }
        }
        for (Relation relation : rules.schema().relationsTo(name)) {
            ResolvedMarker child = rules.marker(relation.child());
            boolean followed = rules.rulesFor(relation, OperationKind.SOFT_DELETE).stream()
                    .noneMatch(rule -> rule.action() instanceof RuleAction.Leave);
            long active = child == null || !followed
                    ? 0
                    : store.children(relation, child.active(), marker.deleted(), new ExecutionMonitor() {});
            if (active > 0) {
                all.add(new Advice(
                        Advice.Kind.ACTIVE_CHILDREN,
                        relation.child(),
                        relation.name(),
                        CountText.rows(active) + " of " + relation.child() + (active == 1 ? " is" : " are")
                                + " active and depend" + (active == 1 ? "s" : "") + ", by " + relation
                                + ", on soft-deleted rows of " + table + ".",
                        null));
            }
        }
        if (marker.sign() instanceof Marker.Flag flag
                && table.column(flag.column()).nullable()) {
            Condition isNull = new Condition.IsNull(flag.column());
            long unsaid = store.counts(List.of(name), Map.of(name, isNull), new ExecutionMonitor() {})
                    .getOrDefault(name, 0L);
            if (unsaid > 0) {
                all.add(new Advice(
                        Advice.Kind.NULL_FLAG,
                        name,
                        null,
                        CountText.rows(unsaid) + " of " + table + (unsaid == 1 ? " has" : " have") + " NULL in "
                                + flag.column() + ". They count as active here; a query for " + flag.column() + " = "
                                + flag.active() + " leaves them out.",
                        null));
            }
        }
    }

    /** The relations by which child rows have to be looked for in the whole table, whenever a parent goes. */
    public List<Advice> indexes() {
        List<Advice> advice = new ArrayList<>();
        for (Relation relation : rules.schema().relations()) {
            Table child = rules.schema().table(relation.child());
            // No index leads into a list.
            if (!child.view() && !relation.list() && !child.indexed(relation.childColumns())) {
                advice.add(new Advice(
                        Advice.Kind.NO_INDEX,
                        child.name(),
                        relation.name(),
                        "No index leads to the rows of " + child + " by " + String.join(", ", relation.childColumns())
                                + ": the whole table is read whenever a row of " + relation.parent() + " is deleted.",
                        store.written(new DdlSuggestion.Index(child.name(), relation.childColumns()))));
            }
        }
        return advice;
    }
}
