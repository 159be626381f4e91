// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.VisibleText;
import io.vacancy.rules.BracedText.Part;
import io.vacancy.schema.Column;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** How a table's rows are called in front of people: texts and column values in turn. */
public final class Label {

    private static final int LONGEST = 80;
    private static final List<String> NAMING = List.of("name", "title", "label", "subject");

    private final List<Part> parts;

    private Label(List<Part> parts) {
        this.parts = List.copyOf(parts);
    }

    /**
     * Reads a label as it is written: {@code {name} ({registration})}.
     *
     * @throws MisuseException if it names a column that the table has not
     */
    static Label read(String written, Table table) {
        BracedText text = BracedText.read(written, name -> table.column(name).name());
        if (text.open()) {
            throw new MisuseException(
                    "The label \"" + written + "\" of " + table + " has a brace that encloses no column.",
                    "Write the columns in braces, as in \"{name} ({registration})\".");
        }
        if (text.parts().size() == 1) {
            throw new MisuseException(
                    "The label \"" + written + "\" of " + table
                            + " names no column, so all rows would be called alike.",
                    "Write columns in braces, as in \"{name}\".");
        }
        return new Label(text.parts());
    }

    /** The label of a table for which nobody chose one: its naming column, if it has one, and its key. */
    static Label usual(Table table) {
        List<Part> parts = new ArrayList<>();
        Column naming = namingColumn(table);
        List<String> key = table.identity().lasts()
                ? table.identity().columns()
                : table.columns().stream().map(Column::name).limit(3).toList();
        String before = "";
        if (naming != null) {
            parts.add(new Part("", naming.name()));
            before = " (";
        }
        for (String column : key) {
            parts.add(new Part(before + column + " ", column));
            before = ", ";
        }
        parts.add(new Part(naming == null ? "" : ")", null));
        return new Label(parts);
    }

    private static @Nullable Column namingColumn(Table table) {
        for (String name : NAMING) {
            for (Column column : table.columns()) {
                if (column.name().equalsIgnoreCase(name) && column.type().kind() == ValueKind.TEXT) {
                    return column;
                }
            }
        }
        return null;
    }

    /** What this row is called, in at most 80 characters and without control characters. */
    public String of(Row row) {
        StringBuilder label = new StringBuilder();
        for (Part part : parts) {
            label.append(part.text());
            label.append(part.column() == null ? "" : row.text(part.column()));
        }
        String clean = VisibleText.line(label.toString());
        return clean.length() <= LONGEST ? clean : clean.substring(0, LONGEST - 3) + "...";
    }
}
