// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Tables and relations for a {@link MemoryStore}, in words: {@code table("boat", "id integer key", "name text", "left_on
 * date null")}. For one thread; the schema that it builds is immutable.
 */
public final class MemorySchema {

    private final List<Table> tables = new ArrayList<>();
    private final List<Relation> relations = new ArrayList<>();

    /**
     * Adds a table.
     *
     * @param columns each its name, the name of a {@link ValueKind}, and {@code key} for those that make up the primary
     *     key or {@code null} for those that may be NULL
     * @throws MisuseException if a column is written otherwise, or there is no key
     */
    public MemorySchema table(String name, String... columns) {
        Arguments.notBlank(name, "name");
        List<Column> all = new ArrayList<>();
        List<String> key = new ArrayList<>();
        for (String written : Arguments.noneNull(columns, "columns")) {
            String[] words = written.strip().split("\\s+");
            List<String> further = Arrays.asList(words).subList(Math.min(2, words.length), words.length);
            if (words.length < 2 || !List.of("key", "null").containsAll(further)) {
                throw new MisuseException(
                        "\"" + written + "\" is not a column.",
                        "Write its name, its kind, and key or null where that holds, such as \"left_on date null\".");
            }
            ColumnType type = new ColumnType(kind(words[1]), words[1].toUpperCase(Locale.ROOT), 0, 0);
            all.add(new Column(words[0], type, further.contains("null"), false, false, null));
            if (further.contains("key")) {
                key.add(words[0]);
            }
        }
        if (key.isEmpty()) {
            throw new MisuseException("Table " + name + " has no key.", "Write key behind the kind of a column.");
        }
        UniqueKey primary = new UniqueKey("primary key", key);
        TableName table = TableName.of(name);
        tables.add(new Table(table, false, all, primary, List.of(), List.of(key), List.of(), List.of(), null));
        return this;
    }

    private static ValueKind kind(String written) {
        return Arrays.stream(ValueKind.values())
                .filter(kind -> kind.name().equalsIgnoreCase(written))
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "\"" + written + "\" is not a kind of value.",
                        "Use one of " + Arrays.toString(ValueKind.values()).toLowerCase(Locale.ROOT) + "."));
    }

    /** Adds a foreign key to the parent's primary key, without a referential action. */
    public MemorySchema relation(String child, String column, String parent) {
        return relation(child, column, parent, OnDelete.NO_ACTION);
    }

    /** Adds a foreign key of one column to the parent's primary key. */
    public MemorySchema relation(String child, String column, String parent, OnDelete onDelete) {
        Schema now = build();
        Table to = now.table(parent);
        Table from = now.table(child);
        relations.add(Relation.of(
                from.name(),
                List.of(from.column(column).name()),
                to.name(),
                to.identity().columns(),
                Arguments.notNull(onDelete, "onDelete"),
                true,
                false));
        return this;
    }

    /** What was said so far. */
    public Schema build() {
        return new Schema(tables, relations);
    }
}
