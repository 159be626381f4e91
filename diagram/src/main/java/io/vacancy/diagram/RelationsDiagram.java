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
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Tables and relations as a diagram, with the rule that holds on each relation. */
public final class RelationsDiagram {

    /** More tables than a picture has room for with every line of its own. */
    private static final int MANY = 30;

    private RelationsDiagram() {}

    /** The tables that {@link #of} draws: all, or one and whatever depends on it, level by level. */
    public static Set<TableName> tables(ResolvedRules rules, @Nullable Table only) {
        return tables(rules, only, Integer.MAX_VALUE);
    }

    /**
     * The same so many levels below the one.
     *
     * @param depth from 1; of no meaning where all are drawn
     */
    public static Set<TableName> tables(ResolvedRules rules, @Nullable Table only, int depth) {
        if (only == null) {
            return rules.schema().tables().stream()
                    .filter(table -> !table.view())
                    .map(Table::name)
                    .collect(Collectors.toCollection(LinkedHashSet::new));
        }
        Set<TableName> reached = new LinkedHashSet<>(List.of(only.name()));
        List<TableName> level = List.of(only.name());
        for (int below = 0; below < depth && !level.isEmpty(); below++) {
            level = level.stream()
                    .flatMap(table -> rules.schema().relationsTo(table).stream())
                    .map(Relation::child)
                    .filter(reached::add)
                    .toList();
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
        return of(rules, only, Integer.MAX_VALUE, counts);
    }

    /**
     * Draws so many levels of it. Where there are many tables, relations between the same two with the same rule are one
     * line, and those of a table to itself stand in its box.
     *
     * @param depth how many levels below the one table, from 1
     */
    public static Diagram of(ResolvedRules rules, @Nullable Table only, int depth, Map<TableName, Long> counts) {
        Set<TableName> shown = tables(rules, only, depth);
        List<Relation> relations = rules.schema().relations().stream()
                .filter(relation -> shown.contains(relation.parent()) && shown.contains(relation.child()))
                .toList();
        boolean many = shown.size() > MANY;
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
            if (many) {
                relations.stream()
                        .filter(relation ->
                                relation.toItself() && relation.child().equals(table))
                        .forEach(relation -> lines.add("\u21ba " + words(rules, relation) + " " + columns(relation)));
            }
            boolean selected = only != null && only.name().equals(table);
            Look look = rules.neverDeleted(table) ? Look.BLOCKS : selected ? Look.SELECTED : Look.PLAIN;
            boxes.add(new Box(table.toString(), lines, look));
        }
        String title = only == null
                ? boxes.size() + " tables, " + relations.size() + " relations"
                : "What depends on a row of " + only;
        return new Diagram(
                title,
                List.of("An arrow leads from a parent to its children, and says what becomes of them when the parent"
                        + " is deleted."),
                boxes,
                many
                        ? merged(rules, relations)
                        : relations.stream()
                                .map(each -> arrow(rules, List.of(each)))
                                .toList());
    }

    /** One arrow for all relations between two tables that have the same rule. */
    private static List<Arrow> merged(ResolvedRules rules, List<Relation> relations) {
        Map<List<Object>, List<Relation>> parallel = new LinkedHashMap<>();
        relations.stream().filter(relation -> !relation.toItself()).forEach(relation -> parallel.computeIfAbsent(
                        List.of(relation.parent(), relation.child(), words(rules, relation)), each -> new ArrayList<>())
                .add(relation));
        return parallel.values().stream().map(same -> arrow(rules, same)).toList();
    }

    private static Arrow arrow(ResolvedRules rules, List<Relation> relations) {
        Relation first = relations.get(0);
        List<Rule> own = rules.rulesFor(first);
        List<String> label = new ArrayList<>(List.of(words(rules, first)));
        relations.forEach(relation -> label.add(columns(relation)));
        return new Arrow(
                first.parent().toString(),
                first.child().toString(),
                label,
                look(own.get(own.size() - 1).action()));
    }

    private static String words(ResolvedRules rules, Relation relation) {
        return rules.rulesFor(relation).stream()
                .map(rule -> rule.action().word() + (rule.when() == null ? "" : "?"))
                .collect(Collectors.joining(", "));
    }

    private static String columns(Relation relation) {
        return String.join(", ", relation.childColumns()) + (relation.enforced() ? "" : " (declared)");
    }

    private static Look look(RuleAction action) {
        return action instanceof RuleAction.Cascade
                ? Look.GOES
                : action instanceof RuleAction.SetNull
                        ? Look.SET_NULL
                        : action instanceof RuleAction.Reassign
                                ? Look.REASSIGN
                                : action instanceof RuleAction.Blank
                                        ? Look.BLANK
                                        : action instanceof RuleAction.Leave ? Look.LEAVE : Look.BLOCKS;
    }
}
