// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.rows;

import io.vacancy.json.JsonWriter;
import io.vacancy.schema.Row;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.util.Collection;
import java.util.function.UnaryOperator;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.QuoteMode;

/**
 * Writes rows one after the other, however many they are. One thread only; does not close what it writes to.
 */
public final class RowWriter {

    private interface Form {
        void write(Row row) throws IOException;
    }

    private final Form form;

    private RowWriter(Form form) {
        this.form = form;
    }

    /** JSON Lines: an object a row, a row a line. */
    public static RowWriter jsonLines(Appendable to) {
        JsonWriter writer = new JsonWriter();
        return new RowWriter(row -> to.append(writer.line(row)).append('\n'));
    }

    /**
     * CSV (RFC 4180) with a header. NULL is nothing at all between two commas, an empty text is {@code ""};
     * dates are ISO 8601, binary is base64.
     *
     * @param texts what becomes of texts, such as {@link SpreadsheetText#guarded}; numbers stay as they are
     */
    public static RowWriter csv(Appendable to, Collection<String> columns, UnaryOperator<String> texts) {
        try {
            CSVPrinter printer = new CSVPrinter(
                    to,
                    CSVFormat.RFC4180
                            .builder()
                            .setQuoteMode(QuoteMode.ALL_NON_NULL)
                            .get());
            printer.printRecord(columns.stream().map(texts).toList());
            return new RowWriter(row -> printer.printRecord(columns.stream()
                    .map(row::get)
                    .map(value -> value instanceof Number || value == null ? value : texts.apply(value.toString()))
                    .toList()));
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    public void write(Row row) {
        try {
            form.write(row);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
