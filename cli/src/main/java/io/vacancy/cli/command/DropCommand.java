// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "drop",
        description =
                "Removes a table, or a column of one, from the database itself: shows what uses it and what it holds,"
                        + " asks for its name, archives it and drops it.")
final class DropCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", paramLabel = "TABLE", description = "The table; SCHEMA.TABLE if it is in another schema.")
    private String table = "";

    @Option(names = "--column", paramLabel = "C", description = "Drop this column of it; its rows stay.")
    private @Nullable String column;

    @Option(names = "--look", description = "Show what it would do, and change nothing.")
    private boolean look;

    @Option(names = "--no-archive", description = "Archive nothing of what it holds.")
    private boolean noArchive;

    @Mixin
    private final LimitOptions limits = new LimitOptions();

    @Option(names = "--because", paramLabel = "WHY", description = "Why; it stands on the receipt.")
    private @Nullable String because;

    @Option(
            names = "--wait",
            paramLabel = "SECONDS",
            description =
                    "How long to wait for whoever uses the table just now; as long as the database does unless given.")
    private @Nullable Integer wait;

    @Mixin
    private final AnswerOptions answers = new AnswerOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    DropCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        ConfirmationFlow asking = new ConfirmationFlow(screen, output, answers, database);
        Vacancy vacancy = database.open(answers.who(), screen);
        Request request = request();
        Preview preview = screen.working(() -> vacancy.preview(request));
        if (!look) {
            return asking.tell(vacancy, asking.outcome(vacancy, preview));
        }
        if (output.json()) {
            screen.printAll(database.json().write(preview));
        } else {
            asking.show(vacancy, preview);
        }
        return ExitCode.of(preview);
    }

    private Request request() {
        Request request = column == null ? Request.drop(table) : Request.dropColumn(table, column);
        request = noArchive ? request.withoutArchive() : request;
        request = because == null ? request : request.because(because);
        request = wait == null ? request : request.lockTimeout(Duration.ofSeconds(wait));
        return answers.in(request.limits(limits.limits()));
    }
}
