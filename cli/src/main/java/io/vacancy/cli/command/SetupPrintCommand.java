// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

@Command(
        name = "print",
        description = "Prints the statements that setup would run, for a migration tool; runs none of them.")
final class SetupPrintCommand implements Callable<Integer> {

    private final Screen screen;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    SetupPrintCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Vacancy vacancy = database.open(screen);
        List<String> script = vacancy.archive().script();
        if (json) {
            screen.printAll(database.json().statements(script));
            return ExitCode.DONE;
        }
        script.forEach(statement -> screen.printAll(statement + ";"));
        if (script.isEmpty()) {
            screen.tell(SetupCommand.UP_TO_DATE);
        }
        return ExitCode.DONE;
    }
}
