// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.DeclaredType;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;

/** SQLite's catalogue, by its table-valued pragmas. */
public final class SqliteSchemaReader extends SchemaReader {

    private static final String COLUMNS = """
            SELECT m.name, m.type, c.name, c.type, c."notnull", c.pk, c.hidden,
                   CASE c.cid WHEN 0 THEN m.sql END, c.dflt_value,
                   SUM(c.pk > 0) OVER (PARTITION BY m.name)
              FROM sqlite_schema m, pragma_table_xinfo(m.name) c
             WHERE m.type IN ('table', 'view') AND m.name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND c.hidden <> 1
             ORDER BY m.name, c.cid""";
    private static final String INDEXES = """
            SELECT NULL, m.name, l.name, i.name, l."unique", l.partial = 0
              FROM sqlite_schema m, pragma_index_list(m.name) l, pragma_index_info(l.name) i
             WHERE m.type = 'table' AND l.origin <> 'pk'
             ORDER BY m.name, l.seq DESC, i.seqno""";
    private static final String FOREIGN_KEYS = """
            SELECT m.name, f.id, f."from", f."table", f."to", f.on_delete
              FROM sqlite_schema m, pragma_foreign_key_list(m.name) f
             WHERE m.type = 'table'
             ORDER BY m.name, f.id, f.seq""";
    private static final String TRIGGERS =
            "SELECT tbl_name, name FROM sqlite_schema WHERE type = 'trigger' ORDER BY tbl_name, name";

    private static final String BINARY = "BINARY";

    private final Map<TableName, TreeMap<Integer, String>> keys = new HashMap<>();
    /** The collations of columns of tables that name any; all others are BINARY. */
    private final Map<TableName, Map<String, String>> collations = new HashMap<>();

    private final Map<String, String> spelling = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);

    @Override
    protected void ask(Connection connection) throws SQLException {
        each(connection, COLUMNS, this::column);
        keys.forEach((table, columns) -> columns.values().forEach(column -> primaryKeyColumn(table, column)));
        for (TableName table : List.copyOf(collations.keySet())) {
            collations(connection, table);
        }
        indexes(connection, INDEXES);
        each(connection, TRIGGERS, rows -> trigger(table(rows, 1), rows.getString(2)));
        each(
                connection,
                FOREIGN_KEYS,
                rows -> link(
                        table(rows, 1),
                        rows.getString(2),
                        rows.getString(3),
                        table(rows, 4),
                        rows.getString(5),
                        onDelete(rows.getString(6)),
                        true));
    }

    private void column(ResultSet rows) throws SQLException {
        TableName table = table(rows, 1);
        boolean first = !known(table);
        String declared = rows.getString(4) == null ? "" : rows.getString(4);
        boolean inKey = rows.getInt(6) > 0;
        if (inKey) {
            keys.computeIfAbsent(table, name -> new TreeMap<>()).put(rows.getInt(6), rows.getString(3));
        }
        // An INTEGER PRIMARY KEY, alone, is the row id under another name: never NULL, and numbered by itself.
        boolean identity = inKey && rows.getInt(10) == 1 && declared.equalsIgnoreCase("INTEGER");
        boolean nullable = rows.getInt(5) == 0 && !inKey;
        column(table, rows.getString(3), declared, nullable, rows.getInt(7) != 0, identity, rows.getString(9));
        if (first && rows.getString(2).equals("view")) {
            view(table);
        }
        String sql = rows.getString(8);
        if (first && sql != null && sql.toUpperCase(Locale.ROOT).contains("COLLATE")) {
            collations.put(table, new HashMap<>());
        }
        if (first && sql != null && sql.toUpperCase(Locale.ROOT).matches("(?s).*\\)[^)]*WITHOUT\\s+ROWID[^)]*")) {
            withoutRowId(table);
        }
    }

    /** No pragma tells them, so each column is asked how it compares; a collation of the application's is another one. */
    private void collations(Connection connection, TableName table) throws SQLException {
        Map<String, String> known = collations.computeIfAbsent(table, name -> new HashMap<>());
        String from = " AS v FROM \"" + table.name().replace("\"", "\"\"") + "\" WHERE 0 UNION ALL SELECT ";
        for (Column column : columnsOf(table)) {
            String empty = "(SELECT \"" + column.name().replace("\"", "\"\"") + "\"" + from;
            each(
                    connection,
                    "SELECT (SELECT v = 'A' FROM " + empty + "'a')), (SELECT v = 'a' FROM " + empty + "'a '))",
                    rows -> known.put(column.name(), collation(rows.getBoolean(1), rows.getBoolean(2))));
            String collation = known.getOrDefault(column.name(), BINARY);
            if (!collation.equals(BINARY)) {
                // Tables for keys and images of the column's type then compare as it does.
                retype(table, column.name(), column.type().declared() + " COLLATE " + collation);
            }
        }
    }

    private static String collation(boolean anyCase, boolean anyEnd) {
        return anyCase ? "NOCASE" : anyEnd ? "RTRIM" : BINARY;
    }

    @Override
    protected boolean comparesAlike(Relation relation) {
        for (int i = 0; i < relation.childColumns().size(); i++) {
            String child = relation.childColumns().get(i);
            String parent = relation.parentColumns().get(i);
            String ownCollation =
                    collations.getOrDefault(relation.child(), Map.of()).getOrDefault(child, BINARY);
            String theirs = collations.getOrDefault(relation.parent(), Map.of()).getOrDefault(parent, BINARY);
            // By BINARY on both sides values are the same exactly where they are equal.
            if (!theirs.equals(ownCollation)
                    || affinity(relation.child(), child) != affinity(relation.parent(), parent)) {
                return false;
            }
        }
        return true;
    }

    /** 3.1 of SQLite's manual on data types. */
    private char affinity(TableName table, String name) {
        Column column = column(table, name);
        String declared = column == null ? "" : column.type().declared().toUpperCase(Locale.ROOT);
        if (declared.contains("INT")) {
            return 'N';
        }
        if (declared.contains("CHAR") || declared.contains("CLOB") || declared.contains("TEXT")) {
            return 'T';
        }
        return declared.isEmpty() || declared.contains("BLOB") ? 'B' : 'N';
    }

    private TableName table(ResultSet rows, int index) throws SQLException {
        return TableName.of(spelling.computeIfAbsent(rows.getString(index), name -> name));
    }

    /** The affinity rules of SQLite's manual (Datatypes, 3.1), with truth values and dates by their names. */
    @Override
    protected ValueKind kind(DeclaredType type) {
        String base = type.base();
        if (base.startsWith("bool")) {
            return ValueKind.BOOLEAN;
        }
        if (base.equals("date")) {
            return ValueKind.DATE;
        }
        if (base.startsWith("datetime") || base.startsWith("timestamp")) {
            return ValueKind.TIMESTAMP;
        }
        if (base.contains("int")) {
            return ValueKind.INTEGER;
        }
        if (base.contains("char") || base.contains("clob") || base.contains("text")) {
            return ValueKind.TEXT;
        }
        if (base.contains("real") || base.contains("floa") || base.contains("doub")) {
            return ValueKind.FLOATING;
        }
        if (base.contains("blob")) {
            return ValueKind.BINARY;
        }
        return base.startsWith("numeric") || base.startsWith("decimal") ? ValueKind.DECIMAL : ValueKind.OTHER;
    }

    @Override
    protected String rowId() {
        return "rowid";
    }
}
