// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.DeclaredType;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.DatabaseMetaData;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.TreeMap;

/**
 * H2's catalogue. Joins over its information schema are slow; its driver's metadata, asked table by table,
 * is fast, for the engine sits in this process.
 */
public final class H2SchemaReader extends SchemaReader {

    private static final String COLUMNS = """
            SELECT c.table_schema, c.table_name, FALSE, c.column_name,
                   data_type_sql(c.table_schema, c.table_name, 'TABLE', c.dtd_identifier),
                   c.is_nullable = 'YES', c.is_generated = 'ALWAYS', c.is_identity = 'YES', c.column_default
              FROM information_schema.columns c
             WHERE lower(c.table_schema) <> 'information_schema'
             ORDER BY c.table_schema, c.table_name, c.ordinal_position""";
    private static final String VIEWS =
            "SELECT table_schema, table_name FROM information_schema.views WHERE lower(table_schema) <> 'information_schema'";
    private static final String INDEXES = """
            SELECT table_schema, table_name, index_name, column_name, is_unique, TRUE
              FROM information_schema.index_columns
             WHERE lower(table_schema) <> 'information_schema'
             ORDER BY table_schema, table_name, index_name, ordinal_position""";
    private static final String TRIGGERS = """
            SELECT event_object_schema, event_object_table, trigger_name
              FROM information_schema.triggers ORDER BY 1, 2, 3""";

    private String current = "";

    @Override
    protected void ask(Connection connection) throws SQLException {
        current = connection.getSchema();
        defaultSchema(current);
        columns(connection, COLUMNS);
        each(connection, VIEWS, rows -> view(name(rows.getString(1), rows.getString(2))));
        DatabaseMetaData metadata = connection.getMetaData();
        for (TableName table : tables()) {
            String schema = table.schema() == null ? current : table.schema();
            try (ResultSet rows = metadata.getPrimaryKeys(null, schema, table.name())) {
                TreeMap<Integer, String> columns = new TreeMap<>();
                while (rows.next()) {
                    columns.put(rows.getInt("KEY_SEQ"), rows.getString("COLUMN_NAME"));
                }
                columns.values().forEach(column -> primaryKeyColumn(table, column));
            }
            try (ResultSet rows = metadata.getImportedKeys(null, schema, table.name())) {
                while (rows.next()) {
                    link(
                            table,
                            rows.getString("FK_NAME"),
                            rows.getString("FKCOLUMN_NAME"),
                            name(rows.getString("PKTABLE_SCHEM"), rows.getString("PKTABLE_NAME")),
                            rows.getString("PKCOLUMN_NAME"),
                            action(rows.getShort("DELETE_RULE")),
                            false);
                }
            }
        }
        indexes(connection, INDEXES);
        each(connection, TRIGGERS, rows -> trigger(name(rows.getString(1), rows.getString(2)), rows.getString(3)));
    }

    private static OnDelete action(short rule) {
        return switch (rule) {
            case DatabaseMetaData.importedKeyCascade -> OnDelete.CASCADE;
            case DatabaseMetaData.importedKeySetNull -> OnDelete.SET_NULL;
            case DatabaseMetaData.importedKeySetDefault -> OnDelete.SET_DEFAULT;
            case DatabaseMetaData.importedKeyRestrict -> OnDelete.RESTRICT;
            default -> OnDelete.NO_ACTION;
        };
    }

    @Override
    protected ValueKind kind(DeclaredType type) {
        return switch (type.base()) {
            case "tinyint", "smallint", "integer", "bigint" -> ValueKind.INTEGER;
            case "numeric", "decimal", "decfloat" -> ValueKind.DECIMAL;
            case "real", "double precision", "float" -> ValueKind.FLOATING;
            case "character varying", "character", "character large object", "varchar_ignorecase" -> ValueKind.TEXT;
            case "boolean" -> ValueKind.BOOLEAN;
            case "date" -> ValueKind.DATE;
            case "time" -> ValueKind.TIME;
            case "timestamp" -> ValueKind.TIMESTAMP;
            case "timestamp with time zone" -> ValueKind.INSTANT;
            case "uuid" -> ValueKind.UUID;
            case "java_object", "binary varying", "binary", "binary large object" -> ValueKind.BINARY;
            default -> ValueKind.OTHER;
        };
    }

    @Override
    protected String rowId() {
        return "_rowid_";
    }
}
