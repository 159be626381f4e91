// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.preview.CountText;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What is kept, receipt by receipt, and what holds are in force. */
public final class ArchiveScreen {

    /** The columns of a line, for those who read tables. */
    public static final List<String> COLUMNS =
            List.of("receipt", "table", "kind", "relation", "rows", "left", "by", "at", "because", "until", "held");

    private final TextLayout layout;
    private final AnsiStyle style;

    public ArchiveScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    /** @param unreceipted how many rows of each table are marked as deleted and stand on no receipt */
    public List<String> lines(List<ArchivedRows> kept, Map<TableName, Long> unreceipted) {
        List<String> lines = new ArrayList<>();
        if (kept.isEmpty() && unreceipted.isEmpty()) {
            lines.add("Nothing is archived or marked as deleted that could be restored.");
            return lines;
        }
        ReceiptId receipt = null;
        TextTable table = new TextTable(false, true, false, false);
        for (ArchivedRows line : kept) {
            if (!line.receipt().equals(receipt)) {
                flush(table, lines);
                table = new TextTable(false, true, false, false);
                receipt = line.receipt();
                lines.add(lines.isEmpty() ? style.strong("What can be restored") : "");
                if (lines.size() == 1) {
                    lines.add("");
                }
                lines.add("  " + style.command(line.receipt().value()));
                lines.add("  " + style.quiet(LocalTime.seconds(line.at()) + " by ") + line.by()
                        + (line.because() == null ? "" : style.quiet(", because: ") + line.because()));
            }
            table.line()
                    .cell(line.table().toString(), style::leaving)
                    .cell(CountText.grouped(line.left())
                            + (line.left() == line.rows() ? "" : " of " + CountText.grouped(line.rows())))
                    .cell(what(line), style::quiet)
                    .cell(line.held() ? "held" : until(line), style::quiet);
        }
        flush(table, lines);
        if (!unreceipted.isEmpty()) {
            lines.add(lines.isEmpty() ? style.strong("What can be restored") : "");
            if (lines.size() == 1) {
                lines.add("");
            }
            lines.add("  without a receipt");
            lines.add(style.quiet("  marked by the application itself, or while nothing was archived"));
            TextTable marked = new TextTable(false, true, false, false);
            unreceipted.forEach((name, rows) -> marked.line()
                    .cell(name.toString(), style::leaving)
                    .cell(CountText.grouped(rows))
                    .cell("soft-deleted", style::quiet)
                    .cell("until erased", style::quiet));
            flush(marked, lines);
        }
        return lines;
    }

    /** A line as a row of a table. */
    public static Row row(ArchivedRows line) {
        Instant until = line.until();
        return row(Arrays.asList(
                line.receipt().value(),
                line.table().toString(),
                line.kind().name().toLowerCase(Locale.ROOT),
                line.relation(),
                line.rows(),
                line.left(),
                line.by(),
                line.at().toString(),
                line.because(),
                until == null ? null : until.toString(),
                line.held()));
    }

    /** Rows that are marked as deleted and stand on no receipt, as a row of the same table. */
    public static Row row(TableName table, long rows) {
        return row(Arrays.asList(null, table.toString(), "marks", null, rows, rows, null, null, null, null, null));
    }

    private static Row row(List<@Nullable Object> cells) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        for (int i = 0; i < COLUMNS.size(); i++) {
            values.put(COLUMNS.get(i), cells.get(i));
        }
        return new Row(new TableName(null, "archive"), values);
    }

    private static String what(ArchivedRows line) {
        String reached = line.relation() == null ? "selected" : "through " + line.relation();
        return switch (line.kind()) {
            case ROWS -> reached;
            case LINKS -> "old links of " + line.relation();
            case VALUES -> "blanked columns, " + reached;
            case MARKS -> "soft-deleted, " + reached;
        };
    }

    private void flush(TextTable table, List<String> lines) {
        lines.addAll(table.lines("    ", layout));
    }

    private static String until(ArchivedRows line) {
        Instant until = line.until();
        if (line.kind() == ArchivedRows.Kind.MARKS) {
            return "until erased";
        }
        if (until == null) {
            return "until purged";
        }
        long days = Duration.between(line.at(), until).toDays();
        return "kept " + days + (days == 1 ? " day" : " days") + ", until " + LocalTime.day(until);
    }

    /** The holds in force. */
    public List<String> holds(List<Hold> holds) {
        List<String> lines = new ArrayList<>();
        if (holds.isEmpty()) {
            lines.add("Nothing is held.");
            return lines;
        }
        lines.add(style.strong("Held, and neither erased nor purged"));
        lines.add("");
        TextTable table = new TextTable(true, false, false, false);
        for (Hold hold : holds) {
            Instant since = hold.since();
            table.line()
                    .cell(Long.toString(hold.number()))
                    .cell(hold.on(), style::standing)
                    .cell("by " + hold.by() + (since == null ? "" : " since " + LocalTime.day(since)), style::quiet)
                    .cell(hold.because());
        }
        lines.addAll(table.lines("  ", layout));
        return lines;
    }
}
