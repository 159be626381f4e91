// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.archive.RowComparison;
import io.vacancy.archive.RowComparison.State;
import io.vacancy.preview.CountText;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Archived rows beside what stands under their keys now: how many of which table, and those that differ. */
public final class ComparisonScreen {

    /** A line for each column that differs; one without a column for rows that are gone or the same. */
    public static final List<String> COLUMNS = List.of("table", "key", "state", "column", "was", "now");

    private static final int MOST = 20;

    private final TextLayout layout;
    private final AnsiStyle style;

    public ComparisonScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(Stream<RowComparison> compared) {
        Map<TableName, Map<State, Long>> counts = new LinkedHashMap<>();
        List<RowComparison> changed = new ArrayList<>();
        long[] all = {0};
        compared.forEachOrdered(each -> {
            counts.computeIfAbsent(each.was().table(), table -> new EnumMap<>(State.class))
                    .merge(each.state(), 1L, Long::sum);
            if (each.state() == State.CHANGED) {
                all[0]++;
                if (changed.size() < MOST) {
                    changed.add(each);
                }
            }
        });
        List<String> lines = new ArrayList<>();
        lines.add(style.strong("What was deleted, and what stands there now"));
        lines.add("");
        TextTable table = new TextTable(false, true, false);
        counts.forEach((name, states) -> table.line()
                .cell(name.toString(), style::leaving)
                .cell(CountText.grouped(
                        states.values().stream().mapToLong(Long::longValue).sum()))
                .cell(states.entrySet().stream()
                        .map(each -> CountText.grouped(each.getValue()) + " " + words(each.getKey()))
                        .collect(Collectors.joining(", "))));
        lines.addAll(table.lines("  ", layout));
        changed.forEach(each -> row(each, lines));
        if (all[0] > changed.size()) {
            lines.add("");
            lines.add(CountText.rows(all[0] - changed.size()) + " more differ; --format csv lists them all.");
        }
        return lines;
    }

    private static String words(State state) {
        return switch (state) {
            case GONE -> "not there";
            case SAME -> "there again, the same";
            case CHANGED -> "there, with other values";
            case NO_KEY -> "without a key to find them by";
        };
    }

    private void row(RowComparison comparison, List<String> lines) {
        lines.add("");
        lines.add(style.strong(comparison.was().table() + " " + key(comparison)));
        TextTable columns = new TextTable(false, false, false);
        columns.line().cell("", style::quiet).cell("was", style::quiet).cell("is now", style::quiet);
        Row now = comparison.now();
        for (String column : comparison.differing()) {
            columns.line()
                    .cell(column, style::quiet)
                    .cell(RowsScreen.shown(comparison.was().get(column)))
                    .cell(now == null ? "" : RowsScreen.shown(now.get(column)));
        }
        lines.addAll(columns.lines("  ", layout));
    }

    private static String key(RowComparison comparison) {
        return comparison.key().entrySet().stream()
                .map(part -> part.getKey() + " " + part.getValue())
                .collect(Collectors.joining(", "));
    }

    /** A comparison as rows of a table. */
    public static List<Row> rows(RowComparison comparison) {
        Row now = comparison.now();
        List<String> differing = comparison.differing();
        if (differing.isEmpty()) {
            return List.of(row(comparison, null, null, null));
        }
        return differing.stream()
                .map(column ->
                        row(comparison, column, comparison.was().get(column), now == null ? null : now.get(column)))
                .toList();
    }

    private static Row row(
            RowComparison comparison, @Nullable String column, @Nullable Object was, @Nullable Object now) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        values.put("table", comparison.was().table().toString());
        values.put("key", key(comparison));
        values.put("state", comparison.state().word());
        values.put("column", column);
        values.put("was", was);
        values.put("now", now);
        return new Row(comparison.was().table(), values);
    }
}
