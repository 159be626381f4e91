// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.Screen;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Receipt;
import java.util.List;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(
        name = "definition",
        description = "Prints the statements that make again what was dropped under a receipt, as a script of SQL; runs"
                + " none of them. Then vacancy restore fills it.")
final class ArchiveDefinitionCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", paramLabel = "RECEIPT", description = "The receipt under which it was dropped.")
    private String receipt = "";

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    ArchiveDefinitionCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        ReceiptId id = ReceiptId.of(receipt);
        Vacancy vacancy = database.open(screen);
        List<String> definition = vacancy.receipt(id).map(Receipt::definition).orElse(List.of());
        if (definition.isEmpty()) {
            throw new MisuseException(
                    "Nothing was dropped under receipt " + id + ", as far as you may see.",
                    "vacancy history --kind drop lists what was.");
        }
        definition.stream()
                .map(statement -> statement.startsWith("--") ? statement : statement + ";")
                .flatMap(String::lines)
                .forEach(screen::print);
        return ExitCode.DONE;
    }
}
