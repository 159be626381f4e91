// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.rows.RowWriter;
import io.vacancy.cli.screen.RowsScreen;
import io.vacancy.cli.screen.Screen;
import io.vacancy.schema.Row;
import java.io.BufferedWriter;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.stream.Stream;

/** Any number of rows on standard output, for people or for programs. */
record RowList(Screen screen, ListOptions output, DatabaseOptions database) {

    /** Writes every row. Returns how many. */
    long write(Stream<Row> rows, List<String> columns) {
        if (output.ofRows() == OutputOptions.Format.text) {
            return new RowsScreen(output.layout(screen)).write(rows, screen::print);
        }
        Writer out = new BufferedWriter(new OutputStreamWriter(screen.out(), StandardCharsets.UTF_8));
        RowWriter writer =
                switch (output.ofRows()) {
                    case csv -> RowWriter.csv(out, columns, output.textsOfCsv(screen));
                    case jsonl -> RowWriter.jsonLines(out);
                    default -> RowWriter.json(out, database.json());
                };
        long[] written = {0};
        rows.forEachOrdered(row -> {
            writer.write(row);
            written[0]++;
        });
        writer.end();
        try {
            out.flush();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        return written[0];
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
