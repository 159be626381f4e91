// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.internal.text.VisibleText;
import io.vacancy.schema.Row;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Rows as a table of text, in parts that are each aligned in themselves, so that any number can be listed. */
public final class RowsScreen {

    private static final int AT_ONCE = 200;
    private static final int WIDEST = 28;

    private final AnsiStyle style;

    public RowsScreen(AnsiStyle style) {
        this.style = style;
    }

    /** Writes every row of the stream. Returns how many. */
    public long write(Stream<Row> rows, Consumer<String> lines) {
        List<Row> some = new ArrayList<>();
        long[] written = {0};
        rows.forEachOrdered(row -> {
            some.add(row);
            written[0]++;
            if (some.size() == AT_ONCE) {
                lines(some).forEach(lines);
                some.clear();
            }
        });
        lines(some).forEach(lines);
        return written[0];
    }

    /** A few rows under the names of their columns. */
    List<String> lines(List<Row> rows) {
        if (rows.isEmpty()) {
            return List.of();
        }
        List<String> columns = List.copyOf(rows.get(0).values().keySet());
        boolean[] toTheRight = new boolean[columns.size()];
        for (int i = 0; i < toTheRight.length; i++) {
            String column = columns.get(i);
            toTheRight[i] = rows.stream().allMatch(row -> row.get(column) instanceof Number || row.get(column) == null);
        }
        TextTable table = new TextTable(toTheRight);
        table.line();
        columns.forEach(column -> table.cell(column, style::quiet));
        for (Row row : rows) {
            table.line();
            columns.forEach(
                    column -> table.cell(shown(row.get(column)), row.get(column) == null ? style::quiet : t -> t));
        }
        return table.lines("  ");
    }

    /** A value on one line. */
    static String shown(@Nullable Object value) {
        if (value == null) {
            return "NULL";
        }
        String text = VisibleText.line(value.toString());
        return text.codePointCount(0, text.length()) <= WIDEST
                ? text
                : text.substring(0, text.offsetByCodePoints(0, WIDEST - 1)) + "…";
    }
}
