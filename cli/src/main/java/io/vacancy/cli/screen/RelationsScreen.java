// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.advice.Advice;
import io.vacancy.diagram.RelationsDiagram;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;

/** Tables and relations for people: what depends on what, and the rule that holds on each relation. */
public final class RelationsScreen {

    private final Schema schema;
    private final ResolvedRules rules;
    private final List<Advice> slow;
    private final TextLayout layout;
    private final AnsiStyle style;

    public RelationsScreen(Vacancy vacancy, TextLayout layout) {
        this.schema = vacancy.schema();
        this.rules = vacancy.rules();
        this.slow = vacancy.tables().advisor().indexes();
        this.layout = layout;
        this.style = layout.style();
    }

    /** All tables, each with its key and the relations that lead to it. */
    public List<String> all() {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong(
                schema.tables().size() + " tables, " + schema.relations().size() + " relations"));
        lines.add("");
        TextTable table = new TextTable(false, false, false);
        for (Table each : schema.tables()) {
            String heading = each + "  " + identity(each);
            table.line().cell(heading, text -> style.strong(each.toString()) + style.quiet("  " + identity(each)));
            for (Relation relation : schema.relationsTo(each.name())) {
                table.line().cell("  " + relation.name()).cell(words(relation)).cell(meaning(relation), style::quiet);
            }
        }
        lines.addAll(table.lines("  ", layout));
        advice(slow, lines);
        return lines;
    }

    /**
     * What depends on one table, level by level, and what it depends on itself.
     *
     * @param depth how many levels
     */
    public List<String> of(Table table, int depth) {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong("What depends on a row of " + table) + style.quiet("  " + identity(table)));
        TextTable tree = new TextTable(false, false, false);
        tree.line().cell(table.toString(), style::strong).cell("").cell("");
        below(table.name(), "", depth, new HashSet<>(Set.of(table.name())), tree);
        lines.addAll(tree.lines("  ", layout));
        List<Relation> up = schema.relationsFrom(table.name());
        if (!up.isEmpty()) {
            lines.add("");
            lines.add(style.strong(
                    "What " + table + " itself depends on, and what becomes of its rows when that is deleted"));
            TextTable parents = new TextTable(false, false, false);
            for (Relation relation : up) {
                parents.line()
                        .cell(relation.parent().toString())
                        .cell(words(relation))
                        .cell("through " + relation.name(), style::quiet);
            }
            lines.addAll(parents.lines("  ", layout));
        }
        Set<String> shown = tables(table.name());
        advice(
                slow.stream()
                        .filter(each -> shown.contains(String.valueOf(each.relation())))
                        .toList(),
                lines);
        return lines;
    }

    /** The relations by which anything depends on a table, at any distance. */
    private Set<String> tables(TableName top) {
        return RelationsDiagram.tables(rules, schema.table(top)).stream()
                .flatMap(table -> schema.relationsTo(table).stream())
                .map(Relation::name)
                .collect(Collectors.toSet());
    }

    /** What is worth mending, each with the statement that would. */
    private void advice(List<Advice> advice, List<String> lines) {
        for (Advice each : advice) {
            lines.add("");
            lines.addAll(layout.hanging(style.aside("Note: "), each.message()));
            if (each.statement() != null) {
                lines.add("    " + style.command(each.statement() + ";"));
            }
        }
    }

    private void below(TableName parent, String stem, int depth, Set<TableName> shown, TextTable tree) {
        List<Relation> relations = schema.relationsTo(parent);
        for (int i = 0; i < relations.size(); i++) {
            Relation relation = relations.get(i);
            boolean last = i == relations.size() - 1;
            boolean goesOn =
                    rules.rulesFor(relation).stream().anyMatch(rule -> rule.action() instanceof RuleAction.Cascade);
            boolean deeper = goesOn && depth > 1;
            boolean first = deeper && shown.add(relation.child());
            tree.line()
                    .cell(stem + (last ? "└─ " : "├─ ") + relation.child(), goesOn ? style::leaving : text -> text)
                    .cell(words(relation))
                    .cell(
                            "through " + relation.name()
                                    + (deeper && !first ? ", see there" : below(relation, goesOn && !deeper, shown)),
                            style::quiet);
            if (first) {
                below(relation.child(), stem + (last ? "   " : "│  "), depth - 1, shown, tree);
            }
        }
    }

    /** Of what lies below the depth that was asked for, how many relations there are. */
    private String below(Relation relation, boolean hidden, Set<TableName> shown) {
        int more = hidden && !shown.contains(relation.child())
                ? schema.relationsTo(relation.child()).size()
                : 0;
        return more == 0 ? "" : ", " + more + " more below";
    }

    /** The rules in the order in which they are tried; a conditional one is marked. */
    private String words(Relation relation) {
        return rules.rulesFor(relation).stream()
                .map(rule -> rule.action().word() + (rule.when() == null ? "" : "?"))
                .collect(Collectors.joining(", "));
    }

    private String meaning(Relation relation) {
        List<Rule> all = rules.rulesFor(relation);
        String whose = relation.child() + " rows";
        RuleAction last = all.get(all.size() - 1).action();
        String meaning = last instanceof RuleAction.Cascade
                ? whose + " go too"
                : last instanceof RuleAction.SetNull
                        ? whose + " stay and lose the link"
                        : last instanceof RuleAction.Reassign
                                ? whose + " get another parent"
                                : last instanceof RuleAction.Blank
                                        ? whose + " stay and are blanked"
                                        : last instanceof RuleAction.Leave
                                                ? whose + " stay as they are"
                                                : whose + " stop the deletion";
        return meaning
                + (all.size() > 1 ? ", unless a condition holds" : "")
                + (relation.enforced() ? "" : "; declared in the rule book");
    }

    private static String identity(Table table) {
        RowIdentity identity = table.identity();
        return switch (identity.kind()) {
            case PRIMARY_KEY -> "key " + String.join(", ", identity.columns());
            case UNIQUE_KEY -> "unique " + String.join(", ", identity.columns());
            case ENGINE_ROW_ID -> "no key";
            case NONE -> table.view() ? "view" : "no key, no row id";
        };
    }
}
