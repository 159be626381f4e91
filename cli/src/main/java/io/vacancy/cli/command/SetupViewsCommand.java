// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.schema.TableName;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(
        name = "views",
        description = "Prints the statements that make a view of the active rows of each table with a marker; runs none"
                + " of them.")
final class SetupViewsCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only that of this table.")
    private @Nullable String table;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    SetupViewsCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Vacancy vacancy = database.open(screen);
        List<String> tables = table != null
                ? List.of(table)
                : vacancy.rules().marked().stream().map(TableName::toString).toList();
        Map<String, String> views = new LinkedHashMap<>();
        for (String each : tables) {
            String name = vacancy.schema().table(each).name().name();
            views.put(each, vacancy.tables().activeView(each, "active_" + name));
        }
        if (output.json()) {
            screen.printAll(database.json().views(views));
        } else if (views.isEmpty()) {
            screen.print("The rule book gives no table a marker, so there is nothing that a view would leave out.");
        } else {
            views.values().forEach(view -> screen.printAll(view + ";\n"));
        }
        return views.isEmpty() ? ExitCode.NOTHING : ExitCode.DONE;
    }
}
