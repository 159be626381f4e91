// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The columns that hold what is personal: those that the rule book names, and those that hold the same values because
 * one refers to the other.
 */
public final class PersonalColumns {

    private final Map<TableName, Map<String, String>> origins;

    private PersonalColumns(Map<TableName, Map<String, String>> origins) {
        this.origins = origins;
    }

    static PersonalColumns of(Schema schema, Map<TableName, TableEntry> entries) {
        Map<TableName, Map<String, String>> origins = new HashMap<>();
        entries.forEach((name, entry) -> {
            Table table = schema.table(name);
            Set<String> all = new LinkedHashSet<>(entry.personal());
            all.addAll(entry.blank().keySet());
            for (String written : all) {
                // A column that is not there is a mistake that is told elsewhere.
                table.columns().stream()
                        .map(Column::name)
                        .filter(column -> column.equalsIgnoreCase(written))
                        .forEach(column -> put(origins, name, column, name + "." + column));
            }
        });
        PersonalColumns personal = new PersonalColumns(origins);
        boolean more = !origins.isEmpty();
        while (more) {
            more = false;
            for (Relation relation : schema.relations()) {
                more |= personal.spread(relation);
            }
        }
        return personal;
    }

    /** Both ends of a relation go by the same name, the first in the alphabet where each has one. */
    private boolean spread(Relation relation) {
        boolean more = false;
        for (int i = 0; i < relation.childColumns().size(); i++) {
            String child = relation.childColumns().get(i);
            String parent = relation.parentColumns().get(i);
            String of = origin(relation.child(), child);
            String from = origin(relation.parent(), parent);
            String first = of == null ? from : from == null || of.compareTo(from) < 0 ? of : from;
            if (first != null && !(first.equals(of) && first.equals(from))) {
                put(origins, relation.child(), child, first);
                put(origins, relation.parent(), parent, first);
                more = true;
            }
        }
        return more;
    }

    private static void put(
            Map<TableName, Map<String, String>> origins, TableName table, String column, String origin) {
        origins.computeIfAbsent(table, name -> new HashMap<>()).put(column, origin);
    }

    /** Whether there is none. */
    public boolean none() {
        return origins.isEmpty();
    }

    /** The column by which a personal one is called, {@code skipper.email}; null where it is not personal. */
    public @Nullable String origin(TableName table, String column) {
        return origins.getOrDefault(table, Map.of()).get(column);
    }
}
