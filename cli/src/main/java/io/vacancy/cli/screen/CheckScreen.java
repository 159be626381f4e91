// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.advice.Advice;
import io.vacancy.failure.Problem;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** What is wrong with a rule book, and what is worth mending in its database; what is alike is said once. */
public final class CheckScreen {

    private static final String WRONG = "! wrong  ";
    private static final String NOTE = "  note   ";
    private static final String BELOW = "           ";

    private final TextLayout layout;
    private final AnsiStyle style;

    public CheckScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    /** @param brief whether only what is wrong is told */
    public List<String> lines(ResolvedRules rules, List<Problem> problems, List<Advice> advice, boolean brief) {
        List<Relation> unmentioned = rules.schema().relations().stream()
                .filter(relation -> !rules.mentions(relation))
                .toList();
        List<String> lines = new ArrayList<>();
        for (Problem problem : problems) {
            if (unmentioned.stream().noneMatch(relation -> isThat(problem, relation))) {
                String word = problem.error() ? style.problem(WRONG) : style.aside(NOTE);
                lines.addAll(layout.hanging(word, problem.toString()));
            }
        }
        long errors = problems.stream().filter(Problem::error).count();
        if (errors == 0 && !brief) {
            following(rules, unmentioned, lines);
        }
        advice(advice, lines);
        lines.add(
                errors == 0
                        ? "The rule book is right for this database: " + looked(rules) + "."
                        : (errors == 1 ? "1 thing is" : errors + " things are") + " wrong, and the rule book cannot be"
                                + " used; it was checked against " + looked(rules) + ".");
        return lines;
    }

    private static String looked(ResolvedRules rules) {
        return rules.schema().tables().size() + " tables, "
                + rules.schema().relations().size() + " relations";
    }

    /** Whether a note says of a relation what is told of all of them together. */
    private static boolean isThat(Problem problem, Relation relation) {
        return !problem.error() && problem.message().startsWith("No rule mentions " + relation + ";");
    }

    /** What no rule mentions, by what the schema says of it: one line each would hide what else there is. */
    private void following(ResolvedRules rules, List<Relation> unmentioned, List<String> lines) {
        if (unmentioned.isEmpty()) {
            return;
        }
        Map<String, List<String>> byRule = new TreeMap<>();
        for (Relation relation : unmentioned) {
            String word = rules.rulesFor(relation).get(0).action().word();
            byRule.computeIfAbsent(word, each -> new ArrayList<>()).add(relation.name());
        }
        note(
                unmentioned.size() == 1
                        ? "No rule mentions one relation, which follows the schema:"
                        : "No rule mentions " + unmentioned.size() + " relations, which follow the schema:",
                lines);
        TextTable table = new TextTable(false, false);
        byRule.forEach((word, relations) -> {
            for (int i = 0; i < relations.size(); i++) {
                table.line().cell(i == 0 ? word : "").cell(relations.get(i));
            }
        });
        lines.addAll(table.lines(BELOW, layout));
    }

    /** Of several that say the same of other tables, the first words stand once. */
    private void advice(List<Advice> advice, List<String> lines) {
        Map<String, List<Advice>> alike = new LinkedHashMap<>();
        advice.forEach(each ->
                alike.computeIfAbsent(title(each), title -> new ArrayList<>()).add(each));
        alike.forEach((title, all) -> {
            note(all.size() == 1 ? all.get(0).message() : title, lines);
            for (Advice each : all) {
                String statement = each.statement();
                if (statement != null) {
                    lines.add(BELOW + style.command(statement + ";"));
                } else if (all.size() > 1) {
                    lines.addAll(layout.hanging(BELOW, each.message()));
                }
            }
        });
    }

    private static String title(Advice advice) {
        return switch (advice.kind()) {
            case NO_INDEX ->
                "No index leads to the rows that refer to a parent, and the whole table is read whenever one"
                        + " is deleted:";
            case NO_MARKER -> "Rows of these tables depend on rows that can be soft-deleted, and cannot be themselves:";
            case VALUE_HELD, ACTIVE_CHILDREN, NULL_FLAG -> advice.message();
        };
    }

    private void note(String text, List<String> lines) {
        lines.addAll(layout.hanging(style.aside(NOTE), text));
    }
}
