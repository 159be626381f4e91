// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;

/** Lines of cells in aligned columns. Widths are counted in code points. */
final class TextTable {

    private final List<List<Cell>> lines = new ArrayList<>();
    private final boolean[] toTheRight;

    private record Cell(String text, UnaryOperator<String> style) {
        int width() {
            return text.codePointCount(0, text.length());
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
        lines.get(lines.size() - 1).add(new Cell(text, style));
        return this;
    }

    /** The lines, indented. */
    List<String> lines(String indent) {
        int[] widths = new int[toTheRight.length];
        for (List<Cell> line : lines) {
            // A cell alone on its line is a heading, which no column has to make room for.
            for (int i = 0; line.size() > 1 && i < line.size(); i++) {
                widths[i] = Math.max(widths[i], line.get(i).width());
            }
        }
        return lines.stream().map(line -> indent + set(line, widths)).toList();
    }

    private String set(List<Cell> line, int[] widths) {
        StringBuilder text = new StringBuilder();
        for (int i = 0; i < line.size(); i++) {
            Cell cell = line.get(i);
            String padding = " ".repeat(Math.max(0, widths[i] - cell.width()));
            boolean last = i == line.size() - 1;
            text.append(i == 0 ? "" : "  ")
                    .append(toTheRight[i] ? padding : "")
                    .append(cell.style().apply(cell.text()))
                    .append(toTheRight[i] || last ? "" : padding);
        }
        return text.toString().stripTrailing();
    }
}
