// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.trail.ChainHead;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "seal",
        description =
                "Seals the entries of the audit history that are not sealed yet, and prints the head of the chain, to"
                        + " be kept where nobody can change it who can change the database.")
final class HistorySealCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    HistorySealCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Vacancy vacancy = database.open(screen);
        ChainHead head = screen.working(() -> vacancy.trail().seal());
        if (json) {
            screen.printAll(database.json().head(head));
            return ExitCode.DONE;
        }
        screen.print(head.toString());
        return ExitCode.DONE;
    }
}
