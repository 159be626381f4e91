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
    private static final int NARROWEST = 14;
    private static final String INDENT = "  ";

    private final TextLayout layout;
    private final AnsiStyle style;

    public RowsScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
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

    /** A few rows under the names of their columns; one after the other where they are wider than the terminal. */
    List<String> lines(List<Row> rows) {
        if (rows.isEmpty()) {
            return List.of();
        }
        for (int most = layout.uncut() ? Integer.MAX_VALUE : WIDEST; ; most = most * 3 / 4) {
            TextTable table = table(rows, most);
            if (table.width(INDENT) <= layout.width()) {
                return table.lines(INDENT, layout);
            }
            if (layout.uncut() || most < NARROWEST) {
                return vertical(rows);
            }
        }
    }

    private TextTable table(List<Row> rows, int most) {
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
            columns.forEach(column -> table.cell(
                    // A number that is cut would be another one.
                    shown(row.get(column), row.get(column) instanceof Number ? Integer.MAX_VALUE : most),
                    row.get(column) == null ? style::quiet : t -> t));
        }
        return table;
    }

    private List<String> vertical(List<Row> rows) {
        List<String> lines = new ArrayList<>();
        for (Row row : rows) {
            lines.add("");
            lines.addAll(record(row));
        }
        return lines.subList(1, lines.size());
    }

    /** One row, a column a line. */
    List<String> record(Row row) {
        TextTable columns = new TextTable(false, false);
        row.values().forEach((column, value) -> columns.line()
                .cell(column, style::quiet)
                .cell(shown(value, Integer.MAX_VALUE), value == null ? style::quiet : text -> text));
        return columns.lines(INDENT, layout);
    }

    /** A value on one line, cut where it is long. */
    static String shown(@Nullable Object value) {
        return shown(value, WIDEST);
    }

    private static String shown(@Nullable Object value, int most) {
        return value == null ? "NULL" : DisplayWidth.cut(VisibleText.line(value.toString()), most);
    }
}
