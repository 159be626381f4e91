package io.vacancy.rules;

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

    private record Part(@Nullable String text, @Nullable String column) {}

    /**
     * The label of a table for which nobody chose one: its naming column, if it has one, and its key.
     */
    public static Label usual(Table table) {
        List<Part> parts = new ArrayList<>();
        Column naming = namingColumn(table);
        if (naming != null) {
            parts.add(new Part(null, naming.name()));
            parts.add(new Part(" (", null));
        }
        List<String> key = table.identity().lasts()
                ? table.identity().columns()
                : table.columns().stream().map(Column::name).limit(3).toList();
        for (String column : key) {
            parts.add(new Part((column.equals(key.get(0)) ? "" : ", ") + column + " ", column));
        }
        if (naming != null) {
            parts.add(new Part(")", null));
        }
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
            if (part.text() != null) {
                label.append(part.text());
            }
            if (part.column() != null) {
                label.append(row.text(part.column()));
            }
        }
        String clean = label.toString().replaceAll("\\p{Cntrl}", " ");
        return clean.length() <= LONGEST ? clean : clean.substring(0, LONGEST - 3) + "...";
    }
}
