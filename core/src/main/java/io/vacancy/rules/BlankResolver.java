// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What the personal columns of a table's rows hold once they are blanked. */
record BlankResolver(Schema schema, Table table) {

    /**
     * @param entry what the rule book says of the table, or null
     * @throws MisuseException if nothing of its rows can be blanked, or what is said cannot be
     */
    List<Assignment> blanks(@Nullable TableEntry entry) {
        Map<String, @Nullable Object> said = new LinkedHashMap<>();
        if (entry != null) {
            entry.personal().forEach(column -> said.put(table.column(column).name(), null));
            entry.blank()
                    .forEach((column, value) -> said.put(table.column(column).name(), value));
        }
        if (said.isEmpty()) {
            throw new MisuseException(
                    "Rows of " + table + " cannot be blanked: the rule book names no personal column of the table.",
                    "Name them, as in personal: [email], and what they hold then where it is not NULL, as in"
                            + " blank: {email: \"skipper-{id}@blank.invalid\"}.");
        }
        List<Assignment> blanks = new ArrayList<>();
        said.forEach((name, value) -> blanks.add(new Assignment(name, value(table.column(name), value))));
        blanks.forEach(this::keepsUnique);
        return blanks;
    }

    private @Nullable Object value(Column column, @Nullable Object written) {
        String named = table + "." + column.name();
        if (column.generated()) {
            throw new MisuseException(named + " cannot be blanked: the database computes it.");
        }
        if (table.identity().columns().contains(column.name())) {
            throw new MisuseException(
                    named + " cannot be blanked: it is the key of the row, which stays.",
                    "Erase such rows, or give the table a key that says nothing of anybody.");
        }
        for (Relation relation : schema.relations()) {
            boolean link = (relation.child().equals(table.name())
                            && relation.childColumns().contains(column.name()))
                    || (relation.parent().equals(table.name())
                            && relation.parentColumns().contains(column.name()));
            if (link) {
                throw new MisuseException(
                        named + " cannot be blanked: rows are related by it, through " + relation + ".",
                        "Have a rule set the link to NULL, and leave the column out of what is blanked.");
            }
        }
        if (written == null) {
            if (!column.nullable()) {
                throw new MisuseException(
                        named + " is to be blanked and cannot be NULL.",
                        "Say what it holds then, as in blank: {" + column.name() + ": \"(removed)\"}.");
            }
            return null;
        }
        return written instanceof String text && text.contains("{")
                ? template(column, text)
                : column.read(written, table.name());
    }

    private KeyTemplate template(Column column, String written) {
        if (column.type().kind() != ValueKind.TEXT) {
            throw new MisuseException("\"" + written + "\" cannot be a value of " + table + "." + column.name()
                    + ", which holds " + column.type().declared() + ", no text.");
        }
        BracedText text = BracedText.read(written, name -> key(column, written, name));
        if (text.open()) {
            throw new MisuseException(
                    "\"" + written + "\", which " + table + "." + column.name()
                            + " is to hold, has a brace that encloses no column.",
                    "Write columns of the key in braces, as in \"skipper {id}\".");
        }
        return new KeyTemplate(text.parts().stream()
                .map(part -> new KeyTemplate.Part(part.text(), part.column()))
                .toList());
    }

    private String key(Column column, String written, String name) {
        Column key = table.column(name);
        if (!table.identity().lasts() || !table.identity().columns().contains(key.name())) {
            throw new MisuseException(
                    "\"" + written + "\", which " + table + "." + column.name() + " is to hold, has {" + key.name()
                            + "} in it, and " + key.name() + " is no column of the key.",
                    "Only the key of the row may be in it, since anything else may be personal.");
        }
        if (key.type().kind() == ValueKind.BINARY || key.type().kind() == ValueKind.OTHER) {
            throw new MisuseException("\"" + written + "\", which " + table + "." + column.name() + " is to hold, has {"
                    + key.name() + "} in it, which is no text, number or date.");
        }
        return key.name();
    }

    /** Two rows that are blanked must not become the same. */
    private void keepsUnique(Assignment blank) {
        List<String> key = table.identity().columns();
        boolean own = blank.value() == null
                || (blank.value() instanceof KeyTemplate template
                        && key.stream().allMatch(column -> template.parts().stream()
                                .anyMatch(part -> column.equals(part.column()))));
        boolean unique = table.keys().stream().anyMatch(each -> each.contains(blank.column()));
        if (unique && !own) {
            throw new MisuseException(
                    table + "." + blank.column() + " is unique, and all rows that are blanked would hold \""
                            + blank.value() + "\" in it.",
                    "Have the key of the row in it, as in \"" + table + "-"
                            + (table.identity().lasts() ? "{" + String.join("}-{", key) + "}" : "{id}") + "\".");
        }
    }
}
