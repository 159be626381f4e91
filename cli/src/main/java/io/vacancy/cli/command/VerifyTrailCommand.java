package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.HistoryScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.text.json.JsonWriter;
import io.vacancy.trail.Head;
import io.vacancy.trail.Verification;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "verify-trail",
        description =
                "Tells whether the audit history is what was sealed, and where it first is not. A tail that was cut"
                        + " off shows only against a head that was kept elsewhere.")
final class VerifyTrailCommand implements Callable<Integer> {

    private final Screen screen;

    @Option(
            names = "--head",
            paramLabel = "HEAD",
            description = "A head that was kept elsewhere, as seal-trail or an earlier verify-trail printed it.")
    private @Nullable String head;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    VerifyTrailCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Head kept = head == null ? null : Head.read(head);
        Vacancy vacancy = database.open(screen);
        Verification found = screen.working(() -> vacancy.trail().verify(kept));
        if (json) {
            screen.print(new JsonWriter().verification(found));
        } else {
            new HistoryScreen(screen.ink()).verification(found, kept).forEach(screen::print);
        }
        return found.sound() ? ExitCode.DONE : ExitCode.FOUND_WRONG;
    }
}
