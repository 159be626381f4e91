package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

@Command(
        name = "setup",
        description =
                "Makes the few tables in which Vacancy keeps receipts and images of rows that go, or brings them up"
                        + " to date.")
final class SetupCommand implements Callable<Integer> {

    private static final String UP_TO_DATE = "Nothing to do: Vacancy's own tables are there and up to date.";

    private final Screen screen;

    @Option(names = "--print", description = "Only print the statements, for a migration tool; run none.")
    private boolean print;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    SetupCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Vacancy vacancy = database.open(screen);
        if (print) {
            List<String> script = vacancy.archive().script();
            script.forEach(statement -> screen.print(statement + ";"));
            if (script.isEmpty()) {
                screen.tell(UP_TO_DATE);
            }
            return ExitCode.DONE;
        }
        List<String> run = vacancy.archive().setUp();
        long tables = run.stream().filter(sql -> sql.startsWith("CREATE TABLE")).count();
        screen.print(
                run.isEmpty()
                        ? UP_TO_DATE
                        : screen.ink().settled("Done.") + " " + tables + " tables of Vacancy's own were made. What is"
                                + " erased from now on is kept there, and can be brought back.");
        return ExitCode.DONE;
    }
}
