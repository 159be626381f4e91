// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.History;
import io.vacancy.preview.CountText;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** The audit history a line each, day by day; of entries that follow one another and are alike one line tells. */
public final class HistoryListScreen {

    private final TextLayout layout;
    private final AnsiStyle style;

    public HistoryListScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(String title, History.Page page) {
        List<String> lines = new ArrayList<>();
        lines.add(style.strong(title + ", newest first"));
        String day = "";
        TextTable table = new TextTable(false, false, false, false);
        for (List<TrailEntry> alike : grouped(page.entries())) {
            TrailEntry newest = alike.get(0);
            String on = LocalTime.day(newest.at());
            if (!on.equals(day)) {
                lines.addAll(table.lines("  ", layout));
                table = new TextTable(false, false, false, false);
                lines.add("");
                lines.add(style.strong(on) + style.quiet("  " + LocalTime.zone(newest.at())));
                day = on;
            }
            boolean done = newest.ending() == Ending.DONE;
            table.line()
                    .cell(time(alike), style::quiet)
                    .cell(word(newest), done ? style::settled : style::standing)
                    .cell(subject(alike), style::strong)
                    .cell(whoAndWhy(newest), style::quiet);
        }
        lines.addAll(table.lines("  ", layout));
        return lines;
    }

    private static List<List<TrailEntry>> grouped(List<TrailEntry> entries) {
        List<List<TrailEntry>> groups = new ArrayList<>();
        for (TrailEntry entry : entries) {
            List<TrailEntry> last = groups.isEmpty() ? List.of() : groups.get(groups.size() - 1);
            if (!last.isEmpty() && alike(last.get(0), entry)) {
                last.add(entry);
            } else {
                groups.add(new ArrayList<>(List.of(entry)));
            }
        }
        return groups;
    }

    private static boolean alike(TrailEntry one, TrailEntry other) {
        return word(one).equals(word(other))
                && String.valueOf(one.table()).equals(String.valueOf(other.table()))
                && whoAndWhy(one).equals(whoAndWhy(other))
                && LocalTime.day(one.at()).equals(LocalTime.day(other.at()));
    }

    private static String time(List<TrailEntry> alike) {
        Instant last = alike.get(0).at();
        Instant first = alike.get(alike.size() - 1).at();
        String to = LocalTime.timeOfDay(last);
        String from = LocalTime.timeOfDay(first);
        return from.equals(to) ? to : from + "–" + to;
    }

    private static String word(TrailEntry entry) {
        String did = HistoryScreen.did(entry.kind()).toLowerCase(Locale.ROOT);
        return switch (entry.ending()) {
            case DONE -> did;
            case BEGUN -> "about to be " + did;
            case BLOCKED, REFUSED, DECLINED ->
                "not " + did + ", " + entry.ending().word();
        };
    }

    private static String subject(List<TrailEntry> alike) {
        TrailEntry newest = alike.get(0);
        long selected = alike.stream().mapToLong(TrailEntry::rows).sum();
        long all = alike.stream()
                .flatMap(entry -> entry.affected().stream())
                .mapToLong(AffectedRows::rows)
                .sum();
        String inAll = all > selected ? ", " + CountText.rows(all) + " in all" : "";
        return alike.size() == 1
                ? HistoryScreen.subject(newest) + inAll
                : alike.size() + " times, "
                        + (selected == 0 ? newest.table() : CountText.rows(selected) + " of " + newest.table()) + inAll;
    }

    private static String whoAndWhy(TrailEntry entry) {
        String because = entry.because();
        return HistoryScreen.who(entry) + (because == null ? "" : ", because: " + because);
    }
}
