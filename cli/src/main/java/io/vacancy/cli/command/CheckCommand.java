// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.access.Scope;
import io.vacancy.access.TableScope;
import io.vacancy.advice.Advice;
import io.vacancy.advice.Advisor;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.CheckScreen;
import io.vacancy.cli.screen.ScopesScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.jobs.submit.ScheduleCheck;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.spi.Store;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "check",
        description = "Checks whether the rule book is right for the database, and says what is worth mending in it.")
final class CheckCommand implements Callable<Integer> {

    private final Screen screen;

    @Option(names = "--brief", description = "Only what is wrong; no notes.")
    private boolean brief;

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
        RuleBookFile.Reading reading = reading();
        ResolvedRules rules = ResolvedRules.check(reading.book(), store.schema());
        List<Problem> problems = new ArrayList<>(reading.problems());
        // Beside what is wrong as it is written, notes would say of it that it is not there.
        rules.problems().stream()
                .filter(each -> each.error() || reading.problems().isEmpty())
                .forEach(problems::add);
        problems.addAll(ScheduleCheck.of(rules));
        problems.sort(Comparator.comparing(Problem::error)
                .reversed()
                .thenComparingInt(
                        each -> each.place() == null ? 0 : each.place().line()));
        boolean wrong = problems.stream().anyMatch(Problem::error);
        // Beside errors only what may mend one of them is told.
        List<Advice> advice = new Advisor(rules, store)
                .all().stream()
                        .filter(each -> !wrong || each.kind() == Advice.Kind.NO_MARKER)
                        .toList();
        if (brief) {
            problems.removeIf(each -> !each.error());
            advice = List.of();
        }
        Scope scope = database.scope();
        List<TableScope> scopes = scope == null ? List.of() : TableScope.of(scope, rules.schema());
        if (output.json()) {
            screen.printAll(database.json().problems(problems, advice, scopes));
        } else {
            new CheckScreen(output.layout(screen))
                    .lines(rules, problems, advice, brief)
                    .forEach(screen::print);
            new ScopesScreen(output.layout(screen)).lines(scopes).forEach(screen::print);
        }
        return wrong ? ExitCode.FOUND_WRONG : ExitCode.DONE;
    }

    /** What is no rule book at all is one thing that is wrong, and not a wrong use of the tool. */
    private RuleBookFile.Reading reading() {
        try {
            return database.reading();
        } catch (RuleBookException wrong) {
            if (wrong.problems().stream().allMatch(each -> each.place() == null)) {
                throw wrong;
            }
            return new RuleBookFile.Reading(RuleBook.empty(), wrong.problems());
        }
    }
}
