// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.UnaryOperator;

/**
 * Lines of cells in aligned columns. Where they are wider than the terminal, the last column is broken between words
 * within itself, and what has no room beside the columns before it stands below them. Samples are cut instead.
 */
final class TextTable {

    private static final String GAP = "  ";

    /** A column that gets less room than this is set below instead. */
    private static final int LEAST = 20;

    private final List<List<Cell>> lines = new ArrayList<>();
    private final boolean[] toTheRight;

    private record Cell(String text, boolean sample, UnaryOperator<String> style) {
        int width() {
            return DisplayWidth.of(text);
        }

        Cell with(String other) {
            return new Cell(other, sample, style);
        }

        String styled() {
            return text.isEmpty() ? "" : style.apply(text);
        }
    }

    /** @param toTheRight for each column, whether its cells are set to the right, as numbers are */
    TextTable(boolean... toTheRight) {
        this.toTheRight = toTheRight.clone();
    }

    /** Starts a line. */
    TextTable line() {
        lines.add(new ArrayList<>());
        return this;
    }

    TextTable cell(String text) {
        return cell(text, UnaryOperator.identity());
    }

    TextTable cell(String text, UnaryOperator<String> style) {
        return cell(new Cell(text, false, style));
    }

    /** A cell of which the beginning is enough. */
    TextTable sample(String text, UnaryOperator<String> style) {
        return cell(new Cell(text, true, style));
    }

    private TextTable cell(Cell cell) {
        lines.get(lines.size() - 1).add(cell);
        return this;
    }

    /** How wide the table is where every column has the room that it takes. */
    int width(String indent) {
        int[] widths = widths();
        return indent.length() + Arrays.stream(widths).sum() + GAP.length() * Math.max(0, widths.length - 1);
    }

    /** The lines, indented. */
    List<String> lines(String indent, TextLayout layout) {
        int[] widths = widths();
        int columns = widths.length;
        int last = columns;
        if (layout.width() != TextLayout.UNLIMITED) {
            int taken = indent.length();
            for (last = 0; last < columns && taken + widths[last] <= layout.width(); last++) {
                taken += widths[last] + GAP.length();
            }
            // The first that has no room of its own may be broken in what is left, where that is worth it.
            int left = layout.width() - taken;
            if (last == columns - 1 && left >= LEAST && breaks(last, left)) {
                widths[last] = left;
                last = columns;
            }
        }
        List<String> set = new ArrayList<>();
        for (List<Cell> line : lines) {
            set(line, widths, Math.max(1, last), indent, layout, set);
        }
        return set;
    }

    /** Whether no word of a column is longer than the room it would get. */
    private boolean breaks(int column, int room) {
        return lines.stream()
                .filter(line -> line.size() > column && !line.get(column).sample())
                .flatMap(line -> Arrays.stream(line.get(column).text().split(" ")))
                .allMatch(word -> DisplayWidth.of(word) <= room);
    }

    private int[] widths() {
        int[] widths = new int[toTheRight.length];
        for (List<Cell> line : lines) {
            // A cell alone on its line is a heading, which no column has to make room for.
            for (int i = 0; line.size() > 1 && i < line.size(); i++) {
                widths[i] = Math.max(widths[i], line.get(i).width());
            }
        }
        return widths;
    }

    /** @param beside how many columns stand beside one another; the others stand below */
    private void set(List<Cell> line, int[] widths, int beside, String indent, TextLayout layout, List<String> into) {
        if (line.size() == 1) {
            into.addAll(heading(line.get(0), indent, layout));
            return;
        }
        StringBuilder text = new StringBuilder(indent);
        int taken = indent.length();
        List<String> more = List.of();
        for (int i = 0; i < line.size() && i < beside; i++) {
            Cell cell = line.get(i);
            boolean last = i == line.size() - 1;
            List<String> parts = parts(cell, widths[i], layout);
            String padding = " ".repeat(Math.max(0, widths[i] - DisplayWidth.of(parts.get(0))));
            text.append(i == 0 ? "" : GAP)
                    .append(toTheRight[i] ? padding : "")
                    .append(cell.with(parts.get(0)).styled())
                    .append(toTheRight[i] || last ? "" : padding);
            taken += i == 0 ? 0 : GAP.length();
            String hanging = " ".repeat(taken);
            if (parts.size() > 1) {
                more = parts.stream()
                        .skip(1)
                        .map(part -> hanging + cell.style().apply(part))
                        .toList();
            }
            taken += widths[i];
        }
        into.add(text.toString().stripTrailing());
        into.addAll(more);
        below(line, beside, indent, widths, layout, into);
    }

    /** Under the last of the columns that stand beside one another, if there is room. */
    private static void below(
            List<Cell> line, int beside, String indent, int[] widths, TextLayout layout, List<String> into) {
        int under = indent.length();
        for (int i = 0; i < beside - 1; i++) {
            under += widths[i] + GAP.length();
        }
        under = beside > 1 && layout.width() - under >= LEAST ? under : indent.length() + 2 * GAP.length();
        String margin = " ".repeat(under);
        StringBuilder text = new StringBuilder();
        int taken = 0;
        for (int i = beside; i < line.size(); i++) {
            Cell cell = line.get(i);
            if (cell.text().isEmpty()) {
                continue;
            }
            if (taken > 0 && under + taken + GAP.length() + cell.width() <= layout.width()) {
                text.append(GAP).append(cell.styled());
                taken += GAP.length() + cell.width();
                continue;
            }
            if (taken > 0) {
                into.add(margin + text);
            }
            List<String> parts = parts(cell, layout.width() - under, layout);
            parts.subList(0, parts.size() - 1)
                    .forEach(part -> into.add(margin + cell.with(part).styled()));
            Cell last = cell.with(parts.get(parts.size() - 1));
            text = new StringBuilder(last.styled());
            taken = last.width();
        }
        if (taken > 0) {
            into.add(margin + text);
        }
    }

    private static List<String> parts(Cell cell, int room, TextLayout layout) {
        if (cell.width() <= room) {
            return List.of(cell.text());
        }
        return cell.sample() ? List.of(DisplayWidth.cut(cell.text(), room)) : layout.wrapped(cell.text(), room);
    }

    private static List<String> heading(Cell cell, String indent, TextLayout layout) {
        if (indent.length() + cell.width() <= layout.width()) {
            return List.of((indent + cell.styled()).stripTrailing());
        }
        return layout.wrapped(cell.text(), layout.width() - indent.length()).stream()
                .map(part -> indent + part)
                .toList();
    }
}
