// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.screen.Screen;
import io.vacancy.preview.Preview;
import io.vacancy.request.ReplacementStep;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "replace",
        description = "Ends one row and has a successor take its place, in one transaction; for tables of versions or"
                + " with end dates.")
final class ReplaceCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final SelectionOptions selection = new SelectionOptions();

    @Option(
            names = "--set",
            paramLabel = "COL=VALUE",
            description = "What the successor has in a column, instead of what the row has; repeatable.")
    private List<String> values = new ArrayList<>();

    @Option(
            names = "--from",
            paramLabel = "DATE",
            description = "When the one ends and the other begins; now unless given.")
    private @Nullable String from;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    ReplaceCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        selection.check();
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        ReplacementStep.Start start = selection.row().with(NamedValues.read(values, "--set"));
        Request request = answers.in(selection.settled(from == null ? start.fromNow() : start.from(from)));
        Preview preview = screen.working(() -> vacancy.preview(request));
        return asking.tell(vacancy, asking.outcome(vacancy, preview));
    }
}
