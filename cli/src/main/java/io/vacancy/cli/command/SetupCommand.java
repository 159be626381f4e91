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
        name = "setup",
        description = "Makes the few tables in which Vacancy keeps receipts, archived rows and the audit history, or"
                + " brings them up to date.")
final class SetupCommand implements Callable<Integer> {

    static final String UP_TO_DATE = "Nothing to do: Vacancy's own tables are there and up to date.";

    private final Screen screen;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    SetupCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Vacancy vacancy = database.open(screen);
        List<String> run = vacancy.archive().setUp();
        if (json) {
            screen.printAll(database.json().statements(run));
            return ExitCode.DONE;
        }
        long tables = run.stream().filter(sql -> sql.startsWith("CREATE TABLE")).count();
        screen.print(
                run.isEmpty()
                        ? UP_TO_DATE
                        : screen.style().settled("Done.") + " " + tables + " tables of Vacancy's own were made. What is"
                                + " erased from now on is archived there, and can be restored.");
        return ExitCode.DONE;
    }
}
