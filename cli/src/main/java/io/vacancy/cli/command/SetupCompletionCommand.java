// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.concurrent.Callable;
import picocli.AutoComplete;
import picocli.CommandLine.Command;

/** Prints what has a shell complete commands and options. */
@Command(
        name = "completion",
        description =
                "Prints a script by which bash and zsh complete commands, options and files; to be sourced when a shell starts.")
final class SetupCompletionCommand implements Callable<Integer> {

    private final Screen screen;

    SetupCompletionCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        screen.out().println(AutoComplete.bash("vacancy", VacancyCommand.described(screen)));
        return ExitCode.DONE;
    }
}
