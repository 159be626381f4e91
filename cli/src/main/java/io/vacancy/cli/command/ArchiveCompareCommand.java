// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.RowComparison;
import io.vacancy.cli.ExitCode;
import io.vacancy.cli.rows.RowWriter;
import io.vacancy.cli.screen.ComparisonScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.json.JsonWriter;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
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
        Writer out = new BufferedWriter(new OutputStreamWriter(screen.out(), StandardCharsets.UTF_8));
        try {
            switch (output.ofRows()) {
                case csv -> {
                    RowWriter csv = RowWriter.csv(out, ComparisonScreen.COLUMNS, output.textsOfCsv(screen));
                    compared.forEachOrdered(each -> ComparisonScreen.rows(each).forEach(csv::write));
                }
                case json -> {
                    out.write(database.json().listBegin("comparisons"));
                    String[] between = {""};
                    compared.forEachOrdered(each -> {
                        line(out, between[0] + JsonWriter.comparison(each));
                        between[0] = ",";
                    });
                    out.write(JsonWriter.LIST_END);
                }
                default -> compared.forEachOrdered(each -> line(out, JsonWriter.comparison(each)));
            }
            out.flush();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static void line(Writer out, String json) {
        try {
            out.write(json);
            out.write('\n');
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
