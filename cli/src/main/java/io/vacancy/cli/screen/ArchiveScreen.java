// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.preview.CountText;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What is kept, receipt by receipt, and what holds are in force. */
public final class ArchiveScreen {

    private final AnsiStyle style;

    public ArchiveScreen(AnsiStyle style) {
        this.style = style;
    }

    public List<String> lines(List<ArchivedRows> kept) {
        List<String> lines = new ArrayList<>();
        if (kept.isEmpty()) {
            lines.add("Nothing is archived that could be restored.");
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
        lines.add("");
        lines.add("vacancy restore RECEIPT shows what restoring it would do, and asks.");
        return lines;
    }

    private static String what(ArchivedRows line) {
        String reached = line.relation() == null ? "selected" : "through " + line.relation();
        return switch (line.kind()) {
            case ROWS -> reached;
            case LINKS -> "old links of " + line.relation();
            case MARKS -> "soft-deleted, " + reached;
        };
    }

    private void flush(TextTable table, List<String> lines) {
        lines.addAll(table.lines("    "));
    }

    private static String until(ArchivedRows line) {
        Instant until = line.until();
        if (line.kind() == ArchivedRows.Kind.MARKS) {
            return "until erased";
        }
        return until == null ? "until purged" : "until " + LocalTime.day(until);
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
        lines.addAll(table.lines("  "));
        return lines;
    }
}
