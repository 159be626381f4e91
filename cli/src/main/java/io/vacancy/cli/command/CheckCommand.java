// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.access.Scope;
import io.vacancy.access.TableScope;
import io.vacancy.advice.Advice;
import io.vacancy.advice.Advisor;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.AnsiStyle;
import io.vacancy.cli.screen.ScopesScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.Problem;
import io.vacancy.jobs.submit.ScheduleCheck;
import io.vacancy.json.JsonWriter;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import io.vacancy.spi.Store;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(name = "check", description = "Tells whether the rule book is right for the database.")
final class CheckCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    CheckCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Store store = database.store();
        ResolvedRules rules = ResolvedRules.check(database.ruleBook(), store.schema());
        List<Problem> problems = new ArrayList<>(rules.problems());
        problems.addAll(ScheduleCheck.of(rules));
        boolean wrong = problems.stream().anyMatch(Problem::error);
        // Beside errors only what may mend one of them is told.
        List<Advice> advice = new Advisor(rules, store)
                .all().stream()
                        .filter(each -> !wrong || each.kind() == Advice.Kind.NO_MARKER)
                        .toList();
        Scope scope = database.scope();
        List<TableScope> scopes = scope == null ? List.of() : TableScope.of(scope, rules.schema());
        if (output.json()) {
            screen.printAll(new JsonWriter().problems(problems, advice, scopes));
        } else {
            show(rules, problems, advice);
            new ScopesScreen().lines(scopes).forEach(screen::print);
        }
        return wrong ? ExitCode.FOUND_WRONG : ExitCode.DONE;
    }

    /** Whether a note says of a relation what is told of all of them together. */
    private static boolean isThat(Problem problem, Relation relation) {
        return !problem.error() && problem.message().startsWith("No rule mentions " + relation + ";");
    }

    /** What no rule mentions, by what the schema says of it: one line each would hide what else there is. */
    private List<String> following(ResolvedRules rules, List<Relation> unmentioned) {
        if (unmentioned.isEmpty()) {
            return List.of();
        }
        Map<String, List<String>> byRule = new TreeMap<>();
        for (Relation relation : unmentioned) {
            String word = rules.rulesFor(relation).get(0).action().word();
            byRule.computeIfAbsent(word, each -> new ArrayList<>()).add(relation.name());
        }
        List<String> lines = new ArrayList<>();
        lines.add(screen.style().aside("  note   ")
                + (unmentioned.size() == 1
                        ? "No rule mentions one relation, which follows the schema:"
                        : "No rule mentions " + unmentioned.size() + " relations, which follow the schema:"));
        byRule.forEach((word, relations) -> {
            lines.add("           " + word);
            relations.forEach(relation -> lines.add("             " + relation));
        });
        return lines;
    }

    private void show(ResolvedRules rules, List<Problem> problems, List<Advice> advice) {
        AnsiStyle style = screen.style();
        List<Relation> unmentioned = rules.schema().relations().stream()
                .filter(relation -> !rules.mentions(relation))
                .toList();
        for (Problem problem : problems) {
            if (unmentioned.stream().anyMatch(relation -> isThat(problem, relation))) {
                continue;
            }
            screen.print((problem.error() ? style.problem("! wrong  ") : style.aside("  note   ")) + problem);
        }
        if (problems.stream().noneMatch(Problem::error)) {
            following(rules, unmentioned).forEach(line -> screen.print(line));
        }
        for (Advice each : advice) {
            screen.print(style.aside("  note   ") + each.message());
            if (each.statement() != null) {
                screen.print("           " + each.statement() + ";");
            }
        }
        long errors = problems.stream().filter(Problem::error).count();
        screen.print(
                errors == 0
                        ? "The rule book is right for this database: "
                                + rules.schema().tables().size() + " tables, "
                                + rules.schema().relations().size() + " relations."
                        : errors + (errors == 1 ? " thing is" : " things are")
                                + " wrong; the rule book cannot be used.");
    }
}
