package io.vacancy.jdbc.catalogue;

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
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Reads an SQLite database by its table-valued pragmas: five queries, whatever the number of tables. */
public final class SqliteCatalogue {

    private static final String COLUMNS = """
            SELECT m.name, m.type, c.name, c.type, c."notnull", c.pk, c.hidden, m.sql
              FROM sqlite_schema m, pragma_table_xinfo(m.name) c
             WHERE m.type IN ('table', 'view') AND m.name NOT LIKE 'sqlite\\_%' ESCAPE '\\' AND c.hidden <> 1
             ORDER BY m.name, c.cid""";
    private static final String UNIQUE_KEYS = """
            SELECT m.name, l.name, i.name
              FROM sqlite_schema m, pragma_index_list(m.name) l, pragma_index_info(l.name) i
             WHERE m.type = 'table' AND l."unique" = 1 AND l.partial = 0 AND l.origin <> 'pk' AND i.cid >= 0
             ORDER BY m.name, l.seq DESC, i.seqno""";
    private static final String FOREIGN_KEYS = """
            SELECT m.name, f.id, f."from", f."table", f."to", f.on_delete
              FROM sqlite_schema m, pragma_foreign_key_list(m.name) f
             WHERE m.type = 'table'
             ORDER BY m.name, f.id, f.seq""";
    private static final String TRIGGERS =
            "SELECT tbl_name, name FROM sqlite_schema WHERE type = 'trigger' ORDER BY tbl_name, name";

    private static final Pattern DIGITS = Pattern.compile("\\(\\s*([0-9]{1,3})\\s*,\\s*([0-9]{1,3})\\s*\\)");

    private final Map<String, Draft> drafts = new TreeMap<>(String.CASE_INSENSITIVE_ORDER);

    private SqliteCatalogue() {}

    private static final class Draft {
        final String name;
        final boolean view;
        final boolean withoutRowId;
        final List<Column> columns = new ArrayList<>();
        final TreeMap<Integer, String> primaryKey = new TreeMap<>();
        final Map<String, List<String>> uniqueKeys = new LinkedHashMap<>();
        final List<String> triggers = new ArrayList<>();

        Draft(String name, boolean view, boolean withoutRowId) {
            this.name = name;
            this.view = view;
            this.withoutRowId = withoutRowId;
        }

        @Nullable
        UniqueKey key() {
            return primaryKey.isEmpty() ? null : new UniqueKey("primary key", List.copyOf(primaryKey.values()));
        }

        Table table() {
            List<UniqueKey> unique = new ArrayList<>();
            uniqueKeys.forEach((name, columns) -> unique.add(new UniqueKey(name, columns)));
            return new Table(TableName.of(name), view, columns, key(), unique, triggers, withoutRowId ? null : "rowid");
        }
    }

    private interface Each {
        void row(ResultSet rows) throws SQLException;
    }

    public static Schema read(Connection connection) throws SQLException {
        SqliteCatalogue catalogue = new SqliteCatalogue();
        List<Relation> relations = new ArrayList<>();
        try (Statement statement = connection.createStatement()) {
            each(statement, COLUMNS, catalogue::column);
            each(statement, UNIQUE_KEYS, rows -> catalogue
                    .draft(rows.getString(1))
                    .uniqueKeys
                    .computeIfAbsent(rows.getString(2), key -> new ArrayList<>())
                    .add(rows.getString(3)));
            each(
                    statement,
                    TRIGGERS,
                    rows -> catalogue.draft(rows.getString(1)).triggers.add(rows.getString(2)));
            catalogue.relations(statement, relations);
        }
        return new Schema(catalogue.drafts.values().stream().map(Draft::table).toList(), relations);
    }

    private static void each(Statement statement, String query, Each each) throws SQLException {
        try (ResultSet rows = statement.executeQuery(query)) {
            while (rows.next()) {
                each.row(rows);
            }
        }
    }

    private Draft draft(String table) {
        return drafts.computeIfAbsent(table, name -> new Draft(name, false, false));
    }

    private void column(ResultSet rows) throws SQLException {
        String table = rows.getString(1);
        String sql = rows.getString(8);
        boolean view = rows.getString(2).equals("view");
        boolean withoutRowId =
                sql != null && sql.toUpperCase(Locale.ROOT).matches("(?s).*\\)[^)]*WITHOUT\\s+ROWID[^)]*");
        Draft draft = drafts.computeIfAbsent(table, name -> new Draft(name, view, withoutRowId));
        int keyPosition = rows.getInt(6);
        String declared = rows.getString(4) == null ? "" : rows.getString(4);
        // An INTEGER PRIMARY KEY is the row id under another name: never NULL, and numbered by itself.
        boolean identity = keyPosition == 1 && declared.equalsIgnoreCase("INTEGER");
        draft.columns.add(new Column(
                rows.getString(3),
                typeOf(declared),
                rows.getInt(5) == 0 && keyPosition == 0,
                rows.getInt(7) != 0,
                identity));
        if (keyPosition > 0) {
            draft.primaryKey.put(keyPosition, rows.getString(3));
        }
    }

    private static ColumnType typeOf(String declared) {
        ValueKind kind = kindOf(declared);
        Matcher digits = DIGITS.matcher(declared);
        if (kind == ValueKind.DECIMAL && digits.find()) {
            return new ColumnType(kind, declared, Integer.parseInt(digits.group(1)), Integer.parseInt(digits.group(2)));
        }
        // Other lengths are not enforced, and thus no limits.
        return new ColumnType(kind, declared, kind == ValueKind.INTEGER ? Long.SIZE : 0, 0);
    }

    /** The affinity rules of SQLite's manual (Datatypes, 3.1), with truth values and dates by their names. */
    static ValueKind kindOf(String declared) {
        String type = declared.toUpperCase(Locale.ROOT);
        if (type.startsWith("BOOL")) {
            return ValueKind.BOOLEAN;
        }
        if (type.equals("DATE")) {
            return ValueKind.DATE;
        }
        if (type.startsWith("DATETIME") || type.startsWith("TIMESTAMP")) {
            return ValueKind.TIMESTAMP;
        }
        if (type.contains("INT")) {
            return ValueKind.INTEGER;
        }
        if (type.contains("CHAR") || type.contains("CLOB") || type.contains("TEXT")) {
            return ValueKind.TEXT;
        }
        if (type.contains("REAL") || type.contains("FLOA") || type.contains("DOUB")) {
            return ValueKind.FLOATING;
        }
        if (type.contains("BLOB")) {
            return ValueKind.BINARY;
        }
        return type.startsWith("NUMERIC") || type.startsWith("DECIMAL") ? ValueKind.DECIMAL : ValueKind.OTHER;
    }

    private void relations(Statement statement, List<Relation> relations) throws SQLException {
        record Half(String child, int id, String parent, OnDelete onDelete) {}
        Map<Half, List<String>> from = new LinkedHashMap<>();
        Map<Half, List<String>> to = new LinkedHashMap<>();
        each(statement, FOREIGN_KEYS, rows -> {
            Half key = new Half(
                    rows.getString(1),
                    rows.getInt(2),
                    rows.getString(4),
                    OnDelete.valueOf(rows.getString(6).replace(' ', '_')));
            from.computeIfAbsent(key, half -> new ArrayList<>()).add(rows.getString(3));
            String parentColumn = rows.getString(5);
            List<String> parentColumns = to.computeIfAbsent(key, half -> new ArrayList<>());
            if (parentColumn != null) {
                parentColumns.add(parentColumn);
            }
        });
        from.forEach((key, childColumns) -> {
            Draft parent = drafts.get(key.parent());
            Draft child = draft(key.child());
            if (parent == null) {
                return; // SQLite lets a foreign key name a table that does not exist
            }
            List<String> parentColumns = to.getOrDefault(key, List.of());
            List<String> referred = parentColumns.isEmpty() ? List.copyOf(parent.primaryKey.values()) : parentColumns;
            if (referred.size() == childColumns.size()) {
                relations.add(Relation.of(
                        TableName.of(child.name),
                        spelled(child, childColumns),
                        TableName.of(parent.name),
                        spelled(parent, referred),
                        key.onDelete(),
                        true,
                        true));
            }
        });
    }

    /** Foreign keys are kept as somebody typed them; names are compared without regard to case. */
    private static List<String> spelled(Draft draft, List<String> columns) {
        return columns.stream()
                .map(typed -> draft.columns.stream()
                        .map(Column::name)
                        .filter(typed::equalsIgnoreCase)
                        .findFirst()
                        .orElse(typed))
                .toList();
    }
}
