// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.RowComparison;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.screen.ComparisonScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.json.JsonWriter;
import java.util.concurrent.Callable;
import java.util.stream.Stream;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Parameters;

@Command(
        name = "compare",
        description = "Shows what the rows that were deleted under a receipt were, beside what stands under their keys"
                + " now; changes nothing.")
final class ArchiveCompareCommand implements Callable<Integer> {

    private final Screen screen;

    @Parameters(index = "0", paramLabel = "RECEIPT", description = "The receipt, as vacancy archive lists it.")
    private String receipt = "";

    @Mixin
    private final DatabaseOptions database = new DatabaseOptions();

    @Mixin
    private final ListOptions output = new ListOptions();

    ArchiveCompareCommand(Screen screen) {
        this.screen = screen;
    }

    @Override
    public Integer call() {
        Vacancy vacancy = database.open(screen);
        screen.working(() -> {
            try (Stream<RowComparison> compared = vacancy.compare(ReceiptId.of(receipt))) {
                write(compared);
            }
            return null;
        });
        return ExitCode.DONE;
    }

    private void write(Stream<RowComparison> compared) {
        if (output.ofRows() == OutputOptions.Format.text) {
            new ComparisonScreen(output.layout(screen)).lines(compared).forEach(screen::print);
            screen.next(
                    "To see what restoring them would do, and be asked:",
                    NextStep.restore(ReceiptId.of(receipt), database.given()));
            return;
        }
        new RowList(screen, output, database)
                .write(
                        compared,
                        new ListedItem<>(
                                "comparisons",
                                JsonWriter::comparison,
                                ComparisonScreen.COLUMNS,
                                ComparisonScreen::rows));
    }
}
