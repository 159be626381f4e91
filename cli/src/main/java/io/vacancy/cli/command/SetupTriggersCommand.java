// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import java.util.List;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
        name = "triggers",
        description =
                "Prints the statements that make triggers which record, or refuse, what is deleted or marked without a"
                        + " receipt; runs none of them. history verify lists what they recorded.")
final class SetupTriggersCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", arity = "0..1", paramLabel = "TABLE", description = "Only those of this table.")
    private @Nullable String table;

    @Option(names = "--refuse", description = "Triggers that refuse such a statement instead of recording it.")
    private boolean refuse;

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final OutputOptions output = new OutputOptions();

    SetupTriggersCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        boolean json = output.json();
        Vacancy vacancy = database.open(screen);
        List<String> script = table == null
                ? vacancy.trail().bypassTriggers(refuse)
                : vacancy.trail().bypassTriggers(refuse, table);
        if (json) {
            screen.printAll(database.json().statements(script));
        } else {
            script.forEach(this::print);
        }
        return ExitCode.DONE;
    }

    /** What has statements within it ends with another sign for clients that read scripts, as MariaDB's does. */
    private void print(String statement) {
        boolean within = statement.endsWith("END IF");
        screen.printAll(within ? "DELIMITER //\n" + statement + "//\nDELIMITER ;" : statement + ";");
    }
}
