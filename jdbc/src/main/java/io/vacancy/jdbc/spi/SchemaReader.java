// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.UniqueKey;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Reads tables, keys and relations from one engine's catalogue. Subclasses ask the engine, in a number of
 * queries that does not grow with the number of tables; this class puts the answers together.
 */
public abstract class SchemaReader {

    private final Map<TableName, Draft> drafts = new LinkedHashMap<>();
    private final Map<LinkKey, Link> links = new LinkedHashMap<>();
    private final Map<String, ColumnType> types = new HashMap<>();
    private @Nullable String defaultSchema;

    private static final class Draft {
        boolean view;
        boolean rowId = true;
        boolean policed;
        final List<String> heirs = new ArrayList<>();
        final List<Column> columns = new ArrayList<>();
        final Set<String> names = new HashSet<>();
        final List<String> primaryKey = new ArrayList<>();
        final Map<String, List<String>> uniqueKeys = new LinkedHashMap<>();
        final Map<String, List<String>> indexes = new LinkedHashMap<>();
        final Map<String, List<String>> partialUniqueKeys = new LinkedHashMap<>();
        final List<String> triggers = new ArrayList<>();

        String inAnyCase(String typed) {
            return names.stream().filter(typed::equalsIgnoreCase).findFirst().orElse(typed);
        }
    }

    private record LinkKey(TableName child, String constraint) {}

    private static final class Link {
        final TableName parent;
        final OnDelete onDelete;
        final boolean deferrable;
        final List<String> childColumns = new ArrayList<>();
        final List<String> parentColumns = new ArrayList<>();

        Link(TableName parent, OnDelete onDelete, boolean deferrable) {
            this.parent = parent;
            this.onDelete = onDelete;
            this.deferrable = deferrable;
        }
    }

    /** Takes one row of a catalogue query. */
    protected interface Taker {
        void take(ResultSet rows) throws SQLException;
    }

    /** Asks the engine, and hands over what it answers to the methods below. */
    protected abstract void ask(Connection connection) throws SQLException;

    /** Whether what is equal by the child's columns of a foreign key is so by the parent's, and the other way round. */
    protected boolean comparesAlike(Relation relation) {
        return true;
    }

    /** Gives a column another type than it was read with. */
    protected final void retype(TableName table, String name, String declared) {
        draft(table)
                .columns
                .replaceAll(column -> !column.name().equals(name)
                        ? column
                        : new Column(
                                name,
                                type(declared),
                                column.nullable(),
                                column.generated(),
                                column.identity(),
                                column.byDefault()));
    }

    /** The columns of a table that were read. */
    protected final List<Column> columnsOf(TableName table) {
        return List.copyOf(draft(table).columns);
    }

    /** A column that was read; null where there is none of the name. */
    protected final @Nullable Column column(TableName table, String name) {
        return draft(table).columns.stream()
                .filter(column -> column.name().equals(name))
                .findFirst()
                .orElse(null);
    }

    /** What kind of value a type of this engine holds. */
    protected abstract ValueKind kind(DeclaredType type);

    /** The expression by which the engine names a row of a table without a key, or null if it has none. */
    protected abstract @Nullable String rowId();

    /** A type as this engine writes it. */
    public final ColumnType type(String declared) {
        return DeclaredType.parse(declared).columnType(this::kind);
    }

    /** Reads the database behind the connection. To be called once. */
    public final Schema read(Connection connection) throws SQLException {
        ask(connection);
        List<Table> tables = new ArrayList<>();
        drafts.forEach((name, draft) -> tables.add(table(name, draft)));
        List<Relation> relations = new ArrayList<>();
        links.forEach((key, link) -> {
            // SQLite lets a foreign key name tables and columns that do not exist.
            if (drafts.containsKey(link.parent) && link.parentColumns.size() == link.childColumns.size()) {
                Relation relation = Relation.of(
                        key.child(),
                        spelled(key.child(), link.childColumns),
                        link.parent,
                        spelled(link.parent, link.parentColumns),
                        link.onDelete,
                        true,
                        link.deferrable);
                relations.add(comparesAlike(relation) ? relation : relation.byParent());
            }
        });
        return new Schema(tables, relations);
    }

    private Table table(TableName name, Draft draft) {
        UniqueKey primary = draft.primaryKey.isEmpty() ? null : new UniqueKey("primary key", draft.primaryKey);
        List<UniqueKey> unique = new ArrayList<>();
        draft.uniqueKeys.forEach((key, columns) -> {
            // An engine may list the primary key's own index as one more.
            if (draft.names.containsAll(columns) && !columns.equals(draft.primaryKey)) {
                unique.add(new UniqueKey(key, columns));
            }
        });
        // An index over an expression has columns that are none of the table's.
        List<List<String>> indexes = new ArrayList<>();
        draft.indexes.values().stream().filter(draft.names::containsAll).forEach(indexes::add);
        indexes.add(draft.primaryKey);
        Table table = new Table(
                name,
                draft.view,
                draft.columns,
                primary,
                unique,
                indexes,
                draft.partialUniqueKeys.values().stream()
                        .filter(draft.names::containsAll)
                        .toList(),
                draft.triggers,
                draft.rowId ? rowId() : null);
        table = draft.policed ? table.withPolicies() : table;
        return draft.heirs.isEmpty() ? table : table.withHeirs(draft.heirs);
    }

    /** SQLite keeps the names in foreign keys as somebody typed them, in any case. */
    private List<String> spelled(TableName table, List<String> typed) {
        Draft draft = draft(table);
        List<String> spelled = new ArrayList<>(typed);
        spelled.replaceAll(name -> draft.names.contains(name) ? name : draft.inAnyCase(name));
        return spelled;
    }

    protected final void each(Connection connection, String query, Taker taker) throws SQLException {
        each(connection, query, List.of(), taker);
    }

    /** The same with texts in the place of its parameters. */
    protected final void each(Connection connection, String query, List<String> parameters, Taker taker)
            throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(query)) {
            for (int i = 0; i < parameters.size(); i++) {
                statement.setString(i + 1, parameters.get(i));
            }
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    taker.take(rows);
                }
            }
        }
    }

    /**
     * Takes columns from a query of schema, table, whether that is a view, column, type, whether it can be NULL,
     * is generated, is numbered by itself, its default; in the order of each table's columns.
     */
    protected final void columns(Connection connection, String query) throws SQLException {
        columns(connection, query, List.of());
    }

    /** The same with texts in the place of the query's parameters. */
    protected final void columns(Connection connection, String query, List<String> parameters) throws SQLException {
        each(connection, query, parameters, rows -> {
            TableName table = name(rows.getString(1), rows.getString(2));
            column(
                    table,
                    rows.getString(4),
                    rows.getString(5),
                    rows.getBoolean(6),
                    rows.getBoolean(7),
                    rows.getBoolean(8),
                    rows.getString(9));
            if (rows.getBoolean(3)) {
                view(table);
            }
        });
    }

    /** Sets the schema whose tables are written without it. */
    protected final void defaultSchema(@Nullable String name) {
        defaultSchema = name;
    }

    protected final TableName name(@Nullable String schema, String table) {
        return new TableName(schema == null || schema.equals(defaultSchema) ? null : schema, table);
    }

    private Draft draft(TableName name) {
        return drafts.computeIfAbsent(name, key -> new Draft());
    }

    protected final boolean known(TableName name) {
        return drafts.containsKey(name);
    }

    protected final List<TableName> tables() {
        return List.copyOf(drafts.keySet());
    }

    protected final void column(
            TableName table,
            String name,
            String type,
            boolean nullable,
            boolean generated,
            boolean identity,
            @Nullable String byDefault) {
        draft(table).names.add(name);
        draft(table)
                .columns
                .add(new Column(
                        name, types.computeIfAbsent(type, this::type), nullable, generated, identity, byDefault));
    }

    /** A database has many columns of few types. */
    protected final void view(TableName table) {
        draft(table).view = true;
    }

    protected final void heir(TableName table, TableName heir) {
        if (drafts.containsKey(table)) {
            draft(table).heirs.add(heir.toString());
        }
    }

    protected final void policed(TableName table) {
        if (drafts.containsKey(table)) {
            draft(table).policed = true;
        }
    }

    protected final void withoutRowId(TableName table) {
        draft(table).rowId = false;
    }

    protected final void primaryKeyColumn(TableName table, String column) {
        draft(table).primaryKey.add(column);
    }

    /**
     * Takes indexes of whole columns from a query of schema, table, index, column, whether it is unique, whether it
     * is over every row; in the order of each index's columns, null for an expression. Those of primary keys may be left out.
     */
    protected final void indexes(Connection connection, String query) throws SQLException {
        each(connection, query, rows -> {
            TableName table = name(rows.getString(1), rows.getString(2));
            if (rows.getBoolean(6)) {
                indexColumn(table, rows.getString(3), rows.getString(4), rows.getBoolean(5));
            } else if (rows.getBoolean(5)) {
                partialUniqueKeyColumn(table, rows.getString(3), rows.getString(4));
            }
        });
    }

    protected final void partialUniqueKeyColumn(TableName table, String index, @Nullable String column) {
        draft(table)
                .partialUniqueKeys
                .computeIfAbsent(index, name -> new ArrayList<>())
                .add(column);
    }

    protected final void indexColumn(TableName table, String index, @Nullable String column, boolean unique) {
        draft(table).indexes.computeIfAbsent(index, name -> new ArrayList<>()).add(column);
        if (unique) {
            draft(table)
                    .uniqueKeys
                    .computeIfAbsent(index, name -> new ArrayList<>())
                    .add(column);
        }
    }

    protected final void trigger(TableName table, String name) {
        if (drafts.containsKey(table)) {
            draft(table).triggers.add(name);
        }
    }

    /**
     * A pair of columns of a foreign key, in key order.
     *
     * @param constraint what tells foreign keys of the same table apart
     * @param parentColumn null where the engine does not say, because the primary key is meant
     */
    protected final void link(
            TableName child,
            String constraint,
            String column,
            TableName parent,
            @Nullable String parentColumn,
            OnDelete onDelete,
            boolean deferrable) {
        Link link =
                links.computeIfAbsent(new LinkKey(child, constraint), key -> new Link(parent, onDelete, deferrable));
        int position = link.childColumns.size();
        link.childColumns.add(column);
        if (parentColumn != null) {
            link.parentColumns.add(parentColumn);
        } else if (position < draft(parent).primaryKey.size()) {
            link.parentColumns.add(draft(parent).primaryKey.get(position));
        }
    }

    /** The standard's word for a referential action. */
    protected static OnDelete onDelete(String word) {
        return OnDelete.valueOf(word.replace(' ', '_'));
    }
}
