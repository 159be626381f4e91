// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Discriminator;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** The rows of all tables, by key, in the order in which they were added. Not for several threads at once. */
public final class MemoryRows {

    private final Schema schema;
    private final Map<TableName, Map<List<Object>, Row>> rows = new HashMap<>();

    public MemoryRows(Schema schema) {
        this.schema = schema;
        schema.tables().forEach(table -> rows.put(table.name(), new LinkedHashMap<>()));
    }

    /** A copy that changes of this one do not touch. */
    public MemoryRows copy() {
        MemoryRows copy = new MemoryRows(schema);
        rows.forEach((table, of) -> copy.of(table).putAll(of));
        return copy;
    }

    public Schema schema() {
        return schema;
    }

    private Map<List<Object>, Row> of(TableName table) {
        return Objects.requireNonNull(rows.get(table));
    }

    public Collection<Row> all(TableName table) {
        return List.copyOf(of(table).values());
    }

    public @Nullable Row find(TableName table, List<Object> key) {
        return of(table).get(key);
    }

    public boolean has(Row row) {
        return of(row.table()).containsKey(key(row));
    }

    /** The key of a row. */
    public List<Object> key(Row row) {
        Table table = schema.table(row.table());
        return table.identity().columns().stream()
                .map(column -> Objects.requireNonNull(row.get(column), column))
                .toList();
    }

    public void remove(Row row) {
        of(row.table()).remove(key(row));
    }

    /** Adds a row, or puts it in the place of the one with its key. */
    public void put(Row row) {
        of(row.table()).put(key(row), row);
    }

    /**
     * Adds a row.
     *
     * @throws MisuseException if there is one with its key, or a parent is missing
     */
    public void insert(Row row) {
        if (has(row)) {
            throw new MisuseException("Table " + row.table() + " has a row " + key(row) + " already.");
        }
        schema.relationsFrom(row.table()).stream()
                .filter(relation -> relation.enforced() && refers(row, relation) && parent(row, relation) == null)
                .findFirst()
                .ifPresent(relation -> {
                    throw new MisuseException(
                            "Row " + key(row) + " of " + row.table() + " refers through " + relation
                                    + " to a row that is not there.",
                            "Insert the parent first.");
                });
        put(row);
    }

    /** Whether the row is of the kind that refers, and no column of the link is NULL. */
    public static boolean refers(Row child, Relation relation) {
        Discriminator only = relation.discriminator();
        return (only == null || only.value().equals(child.get(only.column().name())))
                && relation.childColumns().stream().noneMatch(column -> child.get(column) == null)
                && !(relation.list()
                        && bare(String.valueOf(child.get(relation.childColumns().get(0))))
                                .isEmpty());
    }

    /** The row that a child refers to, or null. */
    public @Nullable Row parent(Row child, Relation relation) {
        return all(relation.parent()).stream()
                .filter(parent -> joined(parent, child, relation))
                .findFirst()
                .orElse(null);
    }

    /** Whether a child row refers to a parent row. */
    static boolean joined(Row parent, Row child, Relation relation) {
        Discriminator only = relation.discriminator();
        boolean refers =
                only == null || only.value().equals(child.get(only.column().name()));
        return refers
                && IntStream.range(0, relation.childColumns().size()).allMatch(i -> {
                    Object value = child.get(relation.childColumns().get(i));
                    if (value != null && i == 0 && relation.list()) {
                        return keys(value.toString())
                                .contains(bare(String.valueOf(
                                        parent.get(relation.parentColumns().get(0)))));
                    }
                    return value != null
                            && value.equals(parent.get(relation.parentColumns().get(i)));
                });
    }

    /** The keys of a list, as a text, a JSON array or an array of a database has them. */
    private static List<String> keys(String list) {
        return List.of(bare(list).split(","));
    }

    private static String bare(String text) {
        return text.replaceAll("[\\s\\[\\]{}\"]", "");
    }

    /** A row with some columns changed. */
    static Row with(Row row, Map<String, @Nullable Object> values) {
        Map<String, @Nullable Object> changed = new LinkedHashMap<>(row.values());
        changed.putAll(values);
        return new Row(row.table(), changed);
    }
}
