// SPDX-License-Identifier: Apache-2.0
package io.vacancy.diagram;

import io.vacancy.diagram.Diagram.Arrow;
import io.vacancy.diagram.Diagram.Box;
import io.vacancy.diagram.Diagram.Look;
import io.vacancy.preview.CountText;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Tables and relations as a diagram, with the rule that holds on each relation. */
public final class RelationsDiagram {

    private RelationsDiagram() {}

    /** The tables that {@link #of} draws: all, or one and whatever hangs on it, level by level. */
    public static Set<TableName> tables(ResolvedRules rules, @Nullable Table only) {
        if (only == null) {
            return rules.schema().tables().stream()
                    .filter(table -> !table.view())
                    .map(Table::name)
                    .collect(Collectors.toCollection(LinkedHashSet::new));
        }
        Set<TableName> reached = new LinkedHashSet<>();
        Deque<TableName> next = new ArrayDeque<>(List.of(only.name()));
        while (!next.isEmpty()) {
            TableName table = next.remove();
            if (reached.add(table)) {
                rules.schema().relationsTo(table).forEach(relation -> next.add(relation.child()));
            }
        }
        return reached;
    }

    /**
     * Draws the schema.
     *
     * @param only a table, or null for all
     * @param counts how many rows the tables have; those that are not counted show none
     */
    public static Diagram of(ResolvedRules rules, @Nullable Table only, Map<TableName, Long> counts) {
        Set<TableName> shown = tables(rules, only);
        List<Box> boxes = new ArrayList<>();
        for (TableName table : shown) {
            Long rows = counts.get(table);
            List<String> lines = new ArrayList<>();
            if (rows != null) {
                lines.add(CountText.rows(rows));
            }
            if (rules.neverDeleted(table)) {
                lines.add("! never deleted from");
            }
            boolean selected = only != null && only.name().equals(table);
            Look look = rules.neverDeleted(table) ? Look.BLOCKS : selected ? Look.SELECTED : Look.PLAIN;
            boxes.add(new Box(table.toString(), lines, look));
        }
        List<Arrow> arrows = new ArrayList<>();
        for (Relation relation : rules.schema().relations()) {
            if (shown.contains(relation.parent()) && shown.contains(relation.child())) {
                arrows.add(arrow(relation, rules.rulesFor(relation)));
            }
        }
        String title = only == null
                ? boxes.size() + " tables, " + arrows.size() + " relations"
                : "What depends on a row of " + only;
        return new Diagram(
                title,
                List.of("An arrow leads from a parent to its children, and says what becomes of them when the parent"
                        + " is deleted."),
                boxes,
                arrows);
    }

    private static Arrow arrow(Relation relation, List<Rule> rules) {
        String words = rules.stream()
                .map(rule -> rule.action().word() + (rule.when() == null ? "" : "?"))
                .collect(Collectors.joining(", "));
        String columns = String.join(", ", relation.childColumns()) + (relation.enforced() ? "" : " (declared)");
        RuleAction last = rules.get(rules.size() - 1).action();
        return new Arrow(
                relation.parent().toString(), relation.child().toString(), List.of(words, columns), look(last));
    }

    private static Look look(RuleAction action) {
        return action instanceof RuleAction.Cascade
                ? Look.GOES
                : action instanceof RuleAction.SetNull
                        ? Look.SET_NULL
                        : action instanceof RuleAction.Reassign
                                ? Look.REASSIGN
                                : action instanceof RuleAction.Leave ? Look.LEAVE : Look.BLOCKS;
    }
}
