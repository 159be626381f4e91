// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(name = "release", description = "Ends a hold, by its number.")
final class ArchiveReleaseCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", paramLabel = "NUMBER", description = "The number of the hold, as archive hold lists it.")
    private long number;

    @Mixin
    private final ActorOptions who = new ActorOptions();

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    ArchiveReleaseCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Vacancy vacancy = database.open(who, screen);
        vacancy.archive().release(number);
        if (json) {
            screen.printAll(database.json().holds(vacancy.archive().holds()));
            return ExitCode.DONE;
        }
        screen.print(screen.style().settled("Done.") + " Hold " + number + " is released.");
        return ExitCode.DONE;
    }
}
