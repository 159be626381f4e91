// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.DeclaredType;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** HSQLDB's catalogue, from its standard views. */
final class HsqldbSchemaReader extends SchemaReader {

    private static final String OURS = " NOT IN ('INFORMATION_SCHEMA', 'SYSTEM_LOBS') ";
    private static final String COLUMNS = """
            SELECT c.table_schema, c.table_name, t.table_type = 'VIEW', c.column_name,
                   REPLACE(c.data_type, ' WITH TIME ZONE', '') || CASE WHEN c.character_maximum_length IS NOT NULL
                                       THEN '(' || CAST(c.character_maximum_length AS VARCHAR(20)) || ')'
                                       WHEN c.data_type IN ('DECIMAL', 'NUMERIC')
                                       THEN '(' || CAST(c.numeric_precision AS VARCHAR(20)) || ','
                                                || CAST(c.numeric_scale AS VARCHAR(20)) || ')'
                                       WHEN c.data_type IN ('TIME', 'TIMESTAMP')
                                       THEN '(' || CAST(c.datetime_precision AS VARCHAR(20)) || ')'
                                       WHEN c.data_type LIKE 'TIME%'
                                       THEN '(' || CAST(c.datetime_precision AS VARCHAR(20)) || ') WITH TIME ZONE'
                                       ELSE '' END,
                   c.is_nullable = 'YES', c.is_generated = 'ALWAYS', c.is_identity = 'YES',
                   REGEXP_REPLACE(c.column_default, '^(DATE|TIMESTAMP)', '')
              FROM information_schema.columns c
              JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
             WHERE c.table_schema""" + OURS + "ORDER BY c.table_schema, c.table_name, c.ordinal_position";
    private static final String PRIMARY_KEYS = """
            SELECT table_schem, table_name, column_name FROM information_schema.system_primarykeys
             WHERE table_schem""" + OURS + "ORDER BY table_schem, table_name, key_seq";
    private static final String INDEXES = """
            SELECT table_schem, table_name, index_name, column_name, NOT non_unique, TRUE
              FROM information_schema.system_indexinfo
             WHERE table_schem""" + OURS + "ORDER BY table_schem, table_name, index_name, ordinal_position";
    private static final String FOREIGN_KEYS = """
            SELECT fktable_schem, fktable_name, fk_name, fkcolumn_name, pktable_schem, pktable_name, pkcolumn_name,
                   RTRIM(CASE delete_rule WHEN 0 THEN 'CASCADE' WHEN 2 THEN 'SET NULL' WHEN 4 THEN 'SET DEFAULT'
                                    WHEN 1 THEN 'RESTRICT' ELSE 'NO ACTION' END)
              FROM information_schema.system_crossreference
             WHERE fktable_schem""" + OURS + "ORDER BY fktable_schem, fktable_name, fk_name, key_seq";
    private static final String TRIGGERS = """
            SELECT event_object_schema, event_object_table, trigger_name
              FROM information_schema.triggers ORDER BY 1, 2, 3""";

    @Override
    protected void ask(Connection connection) throws SQLException {
        defaultSchema(connection.getSchema());
        columns(connection, COLUMNS);
        each(
                connection,
                PRIMARY_KEYS,
                rows -> primaryKeyColumn(name(rows.getString(1), rows.getString(2)), rows.getString(3)));
        indexes(connection, INDEXES);
        each(
                connection,
                FOREIGN_KEYS,
                rows -> link(
                        name(rows.getString(1), rows.getString(2)),
                        rows.getString(3),
                        rows.getString(4),
                        name(rows.getString(5), rows.getString(6)),
                        rows.getString(7),
                        onDelete(rows.getString(8)),
                        false));
        each(connection, TRIGGERS, rows -> trigger(name(rows.getString(1), rows.getString(2)), rows.getString(3)));
    }

    @Override
    protected ValueKind kind(DeclaredType type) {
        return switch (type.base()) {
            case "tinyint", "smallint", "integer", "bigint" -> ValueKind.INTEGER;
            case "numeric", "decimal" -> ValueKind.DECIMAL;
            case "real", "double", "double precision", "float" -> ValueKind.FLOATING;
            case "character varying", "varchar", "longvarchar", "character", "char", "character large object", "clob" ->
                ValueKind.TEXT;
            case "boolean" -> ValueKind.BOOLEAN;
            case "date" -> ValueKind.DATE;
            case "time" -> ValueKind.TIME;
            case "timestamp" -> ValueKind.TIMESTAMP;
            case "timestamp with time zone" -> ValueKind.INSTANT;
            case "uuid" -> ValueKind.UUID;
            case "binary varying", "varbinary", "binary", "binary large object", "blob" -> ValueKind.BINARY;
            default -> ValueKind.OTHER;
        };
    }

    @Override
    protected @Nullable String rowId() {
        return null;
    }
}
