// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** A table, or a view that looks like one, with its columns and keys. Immutable. */
public final class Table {

    private final TableName name;
    private final boolean view;
    private final Map<String, Column> columns;
    private final @Nullable UniqueKey primaryKey;
    private final List<UniqueKey> uniqueKeys;
    private final List<List<String>> indexes;
    private final List<List<String>> partialUniqueKeys;
    private final List<String> triggers;
    private final boolean policed;
    private final List<String> heirs;
    private final RowIdentity identity;

    /**
     * @param columns in the database's order
     * @param primaryKey null where none is declared
     * @param uniqueKeys other than the primary key
     * @param indexes the columns of each index over every row, those of keys included
     * @param partialUniqueKeys the columns of unique indexes over some of the rows only
     * @param triggers names of the triggers that fire on it
     * @param engineRowId the expression by which the engine names a row without a key, or null if it has none
     */
    public Table(
            TableName name,
            boolean view,
            List<Column> columns,
            @Nullable UniqueKey primaryKey,
            List<UniqueKey> uniqueKeys,
            List<List<String>> indexes,
            List<List<String>> partialUniqueKeys,
            List<String> triggers,
            @Nullable String engineRowId) {
        this.name = name;
        this.view = view;
        Map<String, Column> byName = new LinkedHashMap<>();
        columns.forEach(column -> byName.put(column.name(), column));
        this.columns = byName;
        this.primaryKey = primaryKey;
        this.uniqueKeys = List.copyOf(uniqueKeys);
        this.indexes = List.copyOf(indexes);
        this.partialUniqueKeys = List.copyOf(partialUniqueKeys);
        this.triggers = List.copyOf(triggers);
        this.policed = false;
        this.heirs = List.of();
        this.identity = identity(engineRowId);
    }

    private Table(
            Table other, Map<String, Column> columns, List<String> triggers, boolean policed, List<String> heirs) {
        this.policed = policed;
        this.heirs = List.copyOf(heirs);
        this.name = other.name;
        this.view = other.view;
        this.columns = columns;
        this.primaryKey = other.primaryKey;
        this.uniqueKeys = other.uniqueKeys;
        this.indexes = other.indexes;
        this.partialUniqueKeys = other.partialUniqueKeys;
        this.triggers = List.copyOf(triggers);
        this.identity = other.identity;
    }

    /** The same, of which some columns keep dates or times in a way that their types do not say. */
    public Table withTimes(Map<String, TimeEncoding> times) {
        Arguments.notNull(times, "times");
        Map<String, Column> kept = new LinkedHashMap<>(columns);
        times.forEach((written, encoding) -> {
            Column column = column(written);
            kept.put(column.name(), column.of(column.type().keeping(encoding)));
        });
        return new Table(this, kept, triggers, policed, heirs);
    }

    /** The same, of which policies of the database may hide rows from some of its users. */
    public Table withPolicies() {
        return new Table(this, columns, triggers, true, heirs);
    }

    /** The same, of which some rows are rows of other tables that inherit from it. */
    public Table withHeirs(List<String> tables) {
        return new Table(this, columns, triggers, policed, Arguments.noneNull(tables, "tables"));
    }

    /** The tables that inherit from it and may have columns of their own; not its partitions. */
    public List<String> heirs() {
        return heirs;
    }

    /** Whether policies of the database may hide rows from some of its users. */
    public boolean policed() {
        return policed;
    }

    /** The same as if it had only some of its triggers. */
    public Table withTriggers(Predicate<String> which) {
        Arguments.notNull(which, "which");
        List<String> left = triggers.stream().filter(which).toList();
        return left.size() == triggers.size() ? this : new Table(this, columns, left, policed, heirs);
    }

    private RowIdentity identity(@Nullable String engineRowId) {
        if (view) {
            return new RowIdentity(RowIdentity.Kind.NONE, List.of());
        }
        if (primaryKey != null) {
            return new RowIdentity(RowIdentity.Kind.PRIMARY_KEY, primaryKey.columns());
        }
        for (UniqueKey key : uniqueKeys) {
            if (key.columns().stream().noneMatch(column -> column(column).nullable())) {
                return new RowIdentity(RowIdentity.Kind.UNIQUE_KEY, key.columns());
            }
        }
        return engineRowId == null
                ? new RowIdentity(RowIdentity.Kind.NONE, List.of())
                : new RowIdentity(RowIdentity.Kind.ENGINE_ROW_ID, List.of(engineRowId));
    }

    public TableName name() {
        return name;
    }

    public boolean view() {
        return view;
    }

    public List<Column> columns() {
        return List.copyOf(columns.values());
    }

    public @Nullable UniqueKey primaryKey() {
        return primaryKey;
    }

    /** The unique keys other than the primary key. */
    public List<UniqueKey> uniqueKeys() {
        return uniqueKeys;
    }

    /** The columns of every key, the primary one first. */
    public List<List<String>> keys() {
        return Stream.concat(Stream.ofNullable(primaryKey), uniqueKeys.stream())
                .map(UniqueKey::columns)
                .toList();
    }

    /** The columns of unique indexes over some of the rows only, such as those that are active. */
    public List<List<String>> partialUniqueKeys() {
        return partialUniqueKeys;
    }

    /** Whether an index leads to the rows with given values in these columns. */
    public boolean indexed(Collection<String> names) {
        Arguments.noneNull(names, "names");
        return indexes.stream()
                .anyMatch(index -> index.size() >= names.size() && names.containsAll(index.subList(0, names.size())));
    }

    public List<String> triggers() {
        return triggers;
    }

    public RowIdentity identity() {
        return identity;
    }

    /** Whether it has the column; another case is understood where only one column can be meant. */
    public boolean has(String column) {
        return Names.matching(Arguments.notBlank(column, "column"), columns.keySet()) != null;
    }

    /**
     * The column of this name.
     *
     * @param written its name; another case is understood where only one column can be meant
     * @throws MisuseException if there is none, with the nearest name, or several could be meant
     */
    public Column column(String written) {
        Arguments.notBlank(written, "column");
        Column exact = columns.get(written);
        return exact != null
                ? exact
                : Objects.requireNonNull(
                        columns.get(Names.known(written, columns.keySet(), "Column", "table " + name)));
    }

    /** Whether any of these columns can be NULL. */
    public boolean anyNullable(List<String> names) {
        Arguments.noneNull(names, "names");
        return names.stream().anyMatch(column -> column(column).nullable());
    }

    @Override
    public String toString() {
        return name.toString();
    }
}
