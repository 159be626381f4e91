// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.Vacancy;
import io.vacancy.preview.CountText;
import io.vacancy.preview.RowSample;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** Rows whose parent is missing, by relation. */
public final class OrphansScreen {

    private final Vacancy vacancy;
    private final TextLayout layout;
    private final AnsiStyle style;

    public OrphansScreen(Vacancy vacancy, TextLayout layout) {
        this.vacancy = vacancy;
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(Map<Relation, RowSample> orphans) {
        List<String> lines = new ArrayList<>();
        if (orphans.isEmpty()) {
            lines.add("No row refers to a parent that is missing.");
            return lines;
        }
        lines.add(style.strong("Rows whose parent is missing"));
        lines.add("");
        TextTable table = new TextTable(false, true, false, false);
        orphans.forEach((relation, rows) -> table.line()
                .cell(relation.name(), style::standing)
                .cell(CountText.grouped(rows.rows()))
                .cell("refer to no " + relation.parent())
                .sample(sample(relation, rows), style::quiet));
        lines.addAll(table.lines("  ", layout));
        return lines;
    }

    private String sample(Relation relation, RowSample rows) {
        String labels = rows.sample().stream()
                .map(row -> vacancy.rules().label(row) + " has " + reference(relation, row))
                .collect(Collectors.joining(", "));
        return rows.rows() > rows.sample().size() ? labels + ", …" : labels;
    }

    private static String reference(Relation relation, Row row) {
        return relation.childColumns().stream().map(row::text).collect(Collectors.joining(", "));
    }
}
