// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.HistoryScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.trail.Bypass;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.Verification;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "verify",
        description =
                "Checks whether the audit history is what was sealed, and where it first is not. A tail that was cut"
                        + " off shows only against a head that was kept elsewhere. Lists what triggers of `setup triggers`"
                        + " recorded of deletions without a receipt.")
final class HistoryVerifyCommand implements Callable<Integer> {

    private static final int MOST_BYPASSES = 100;

    private final Screen screen;

    @Option(
            names = "--head",
            paramLabel = "HEAD",
            description = "A head that was kept elsewhere, as history seal or an earlier history verify printed it.")
    private @Nullable String head;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    HistoryVerifyCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        ChainHead kept = head == null ? database.rememberedHead() : ChainHead.read(head);
        Vacancy vacancy = database.open(screen);
        Verification found = screen.working(() -> vacancy.trail().verify(kept));
        List<Bypass> bypasses = vacancy.trail().bypasses(MOST_BYPASSES);
        if (json) {
            screen.printAll(database.json().verification(found, bypasses));
        } else {
            HistoryScreen history = new HistoryScreen(output.layout(screen));
            history.verification(found, kept).forEach(screen::print);
            history.bypasses(bypasses, MOST_BYPASSES).forEach(screen::print);
        }
        return found.verified() ? ExitCode.DONE : ExitCode.FOUND_WRONG;
    }
}
