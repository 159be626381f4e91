// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.OrphansScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Preview;
import io.vacancy.preview.RowSample;
import io.vacancy.request.Request;
import io.vacancy.schema.Relation;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "orphans",
        description = "Lists rows whose parent is missing; erases them, or sets their link to NULL, through the same"
                + " preview and question as any deletion.")
final class OrphansCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(
            index = "0",
            arity = "0..1",
            paramLabel = "RELATION",
            description = "One relation, such as fee.mooring_id; all unless given.")
    private @Nullable String relation;

    @Option(names = "--erase", description = "Erase them, with what depends on them.")
    private boolean erase;

    @Option(names = "--set-null", description = "Keep them, and set their link to NULL.")
    private boolean setNull;

    @Option(names = "--because", paramLabel = "WHY", description = "Why; it stands on the receipt.")
    private @Nullable String because;

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    OrphansCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        if (erase && setNull) {
            throw new MisuseException("--erase and --set-null contradict each other.", "Give one of them.");
        }
        if ((erase || setNull) && relation == null) {
            throw new MisuseException("No relation is named whose orphans are meant.", "Give one, as they are listed.");
        }
        boolean json = output.json();
        Vacancy vacancy = database.open(answers.who(), screen);
        return relation != null && (erase || setNull) ? mend(vacancy, relation, json) : list(vacancy, json);
    }

    private int list(Vacancy vacancy, boolean json) {
        Map<Relation, RowSample> orphans = screen.working(() ->
                relation == null ? vacancy.tables().orphans() : vacancy.tables().orphans(relation));
        if (json) {
            screen.printAll(database.json().orphans(orphans));
        } else {
            new OrphansScreen(vacancy, output.layout(screen)).lines(orphans).forEach(screen::print);
            if (!orphans.isEmpty()) {
                String first = orphans.keySet().iterator().next().name();
                screen.next(
                        "To erase the first, after a preview and a question; --set-null keeps the rows:",
                        NextStep.of(List.of("orphans", first, "--erase"), database.given()));
            }
        }
        return orphans.isEmpty() ? ExitCode.DONE : ExitCode.FOUND_WRONG;
    }

    private int mend(Vacancy vacancy, String of, boolean json) {
        Relation meant = vacancy.schema().relation(of);
        Request selected = setNull
                ? Request.unlinkOrphans(of)
                : Request.erase(meant.child().toString()).orphansOf(of);
        Request request = answers.in(because == null ? selected : selected.because(because));
        Preview preview = screen.working(() -> vacancy.preview(request));
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        return asking.tell(vacancy, asking.outcome(vacancy, preview));
    }
}
