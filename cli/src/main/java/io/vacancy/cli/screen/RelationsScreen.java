package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.rules.Rule;
import io.vacancy.schema.Relation;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Tables and relations for people: what hangs on what, and the rule that holds on each relation. */
public final class RelationsScreen {

    private final Schema schema;
    private final Vacancy vacancy;
    private final Ink ink;

    public RelationsScreen(Vacancy vacancy, Ink ink) {
        this.schema = vacancy.schema();
        this.vacancy = vacancy;
        this.ink = ink;
    }

    /** All tables, each with its key and the relations that lead to it. */
    public List<String> all() {
        List<String> lines = new ArrayList<>();
        lines.add(ink.strong(
                schema.tables().size() + " tables, " + schema.relations().size() + " relations"));
        lines.add("");
        TextTable table = new TextTable(false, false, false);
        for (Table each : schema.tables()) {
            table.line()
                    .cell(each.toString(), ink::strong)
                    .cell(identity(each), ink::quiet)
                    .cell("");
            for (Relation relation : schema.relationsTo(each.name())) {
                table.line().cell("  " + relation.name()).cell(word(relation)).cell(meaning(relation), ink::quiet);
            }
        }
        lines.addAll(table.lines("  "));
        return lines;
    }

    /** What hangs on one table, level by level, and what it hangs on itself. */
    public List<String> of(Table table) {
        List<String> lines = new ArrayList<>();
        lines.add(ink.strong("What hangs on a row of " + table) + ink.quiet("  " + identity(table)));
        TextTable tree = new TextTable(false, false, false);
        tree.line().cell(table.toString(), ink::strong).cell("").cell("");
        below(table.name(), "", new HashSet<>(Set.of(table.name())), tree);
        lines.addAll(tree.lines("  "));
        List<Relation> up = schema.relationsFrom(table.name());
        if (!up.isEmpty()) {
            lines.add("");
            lines.add(ink.strong("What " + table + " itself hangs on, and what becomes of its rows when that goes"));
            TextTable parents = new TextTable(false, false, false);
            for (Relation relation : up) {
                parents.line()
                        .cell(relation.parent().toString())
                        .cell(word(relation))
                        .cell("through " + relation.name(), ink::quiet);
            }
            lines.addAll(parents.lines("  "));
        }
        return lines;
    }

    private void below(TableName parent, String stem, Set<TableName> shown, TextTable tree) {
        List<Relation> relations = schema.relationsTo(parent);
        for (int i = 0; i < relations.size(); i++) {
            Relation relation = relations.get(i);
            boolean last = i == relations.size() - 1;
            boolean goesOn = rule(relation) instanceof Rule.Cascade;
            boolean first = goesOn && shown.add(relation.child());
            tree.line()
                    .cell(stem + (last ? "└─ " : "├─ ") + relation.child(), goesOn ? ink::leaving : text -> text)
                    .cell(word(relation))
                    .cell("through " + relation.name() + (goesOn && !first ? ", see there" : ""), ink::quiet);
            if (first) {
                below(relation.child(), stem + (last ? "   " : "│  "), shown, tree);
            }
        }
    }

    private Rule rule(Relation relation) {
        return vacancy.rules().ruleFor(relation);
    }

    private String word(Relation relation) {
        return rule(relation).word();
    }

    private String meaning(Relation relation) {
        Rule rule = rule(relation);
        if (rule instanceof Rule.Block) {
            return relation.child() + " rows stop the deletion";
        }
        return rule instanceof Rule.SetNull
                ? relation.child() + " rows stay and lose the link"
                : relation.child() + " rows go too";
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
