// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.rows.RowWriter;
import io.vacancy.cli.screen.RowsScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.json.JsonWriter;
import io.vacancy.schema.Row;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Stream;

/** Any number of rows or other items on standard output, for people or for programs. */
record RowList(Screen screen, ListOptions output, DatabaseOptions database) {

    /** Writes every row. Returns how many. */
    long write(Stream<Row> rows, List<String> columns) {
        if (output.ofRows() == OutputOptions.Format.text) {
            return new RowsScreen(output.layout(screen)).write(rows, screen::print);
        }
        return write(rows, ListedItem.row(columns));
    }

    /** Writes every item for a program: as one JSON document, as JSON Lines, or as CSV. Returns how many. */
    <T> long write(Stream<T> items, ListedItem<T> item) {
        Writer out = new BufferedWriter(new OutputStreamWriter(screen.out(), StandardCharsets.UTF_8));
        long[] written = {0};
        try {
            if (output.ofRows() == OutputOptions.Format.csv) {
                RowWriter csv = RowWriter.csv(out, item.columns(), output.textsOfCsv(screen));
                items.forEachOrdered(each -> {
                    item.rows().apply(each).forEach(csv::write);
                    written[0]++;
                });
            } else {
                boolean document = output.ofRows() == OutputOptions.Format.json;
                out.write(document ? database.json().listBegin(item.name()) : "");
                items.forEachOrdered(each -> {
                    line(
                            out,
                            (document && written[0] > 0 ? "," : "")
                                    + item.json().apply(each));
                    written[0]++;
                });
                out.write(document ? JsonWriter.LIST_END : "");
            }
            out.flush();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return written[0];
    }

    private static void line(Writer out, String json) {
        try {
            out.write(json);
            out.write('\n');
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** What a program reads holds rows alone; words are for people. */
    void tell(String words) {
        if (output.ofRows() == OutputOptions.Format.text) {
            screen.print(words);
        } else {
            screen.tell(words);
        }
    }
}
