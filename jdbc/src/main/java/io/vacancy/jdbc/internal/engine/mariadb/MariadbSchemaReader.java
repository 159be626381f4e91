// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.DeclaredType;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.SortedSet;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * MariaDB's catalogue. A server may hold many databases that have nothing to do with one another; read are
 * the current one and those that a foreign key connects it with.
 */
public final class MariadbSchemaReader extends SchemaReader {

    /** Both ends of foreign keys that lead into the current database, or out of it. */
    private static final String CONNECTED = """
            SELECT unique_constraint_schema FROM information_schema.referential_constraints
             WHERE constraint_schema = database()
             UNION SELECT constraint_schema FROM information_schema.referential_constraints
             WHERE unique_constraint_schema = database()""";

    private static final String COLUMNS = """
            SELECT c.table_schema, c.table_name, t.table_type LIKE '%VIEW', c.column_name, c.column_type,
                   c.is_nullable = 'YES', coalesce(c.generation_expression, '') <> '',
                   c.extra LIKE '%auto_increment%', c.column_default
              FROM information_schema.columns c
              JOIN information_schema.tables t ON t.table_schema = ? AND t.table_name = c.table_name
             WHERE c.table_schema = ? ORDER BY c.table_name, c.ordinal_position""";
    private static final String INDEXES = """
            SELECT table_schema, table_name, index_name, column_name, non_unique = 0
              FROM information_schema.statistics
             WHERE sub_part IS NULL AND table_schema = ? ORDER BY table_name, index_name, seq_in_index""";
    private static final String FOREIGN_KEYS = """
            SELECT k.table_schema, k.table_name, k.constraint_name, k.column_name,
                   k.referenced_table_schema, k.referenced_table_name, k.referenced_column_name, r.delete_rule
              FROM information_schema.key_column_usage k
              JOIN information_schema.referential_constraints r
                ON r.constraint_schema = ? AND r.constraint_name = k.constraint_name AND r.table_name = k.table_name
             WHERE k.referenced_table_name IS NOT NULL AND k.table_schema = ?
             ORDER BY k.table_name, k.constraint_name, k.ordinal_position""";
    private static final String TRIGGERS = """
            SELECT event_object_schema, event_object_table, trigger_name
              FROM information_schema.triggers ORDER BY 1, 2, 3""";

    @Override
    protected void ask(Connection connection) throws SQLException {
        SortedSet<String> databases = new TreeSet<>();
        each(connection, "SELECT database()", rows -> {
            defaultSchema(rows.getString(1));
            databases.add(rows.getString(1));
        });
        each(connection, CONNECTED, rows -> databases.add(rows.getString(1)));
        // One by one, each as a constant: for a set of names the server opens every table of every database that it
        // has.
        for (String database : databases) {
            tables(connection, database);
        }
        each(connection, TRIGGERS, rows -> trigger(name(rows.getString(1), rows.getString(2)), rows.getString(3)));
    }

    private void tables(Connection connection, String database) throws SQLException {
        columns(connection, COLUMNS, List.of(database, database));
        each(connection, INDEXES, List.of(database), rows -> {
            TableName table = name(rows.getString(1), rows.getString(2));
            if (rows.getString(3).equals("PRIMARY")) {
                primaryKeyColumn(table, rows.getString(4));
            } else {
                indexColumn(table, rows.getString(3), rows.getString(4), rows.getBoolean(5));
            }
        });
        each(
                connection,
                FOREIGN_KEYS,
                List.of(database, database),
                rows -> link(
                        name(rows.getString(1), rows.getString(2)),
                        rows.getString(3),
                        rows.getString(4),
                        name(rows.getString(5), rows.getString(6)),
                        rows.getString(7),
                        onDelete(rows.getString(8)),
                        false));
    }

    @Override
    protected ValueKind kind(DeclaredType type) {
        String base = type.base().replace(" unsigned", "").replace(" zerofill", "");
        return switch (base) {
            case "tinyint" -> type.first() == 1 ? ValueKind.BOOLEAN : ValueKind.INTEGER;
            case "bit" -> type.first() == 1 ? ValueKind.BOOLEAN : ValueKind.INTEGER;
            case "smallint", "mediumint", "int", "bigint", "year" -> ValueKind.INTEGER;
            case "decimal" -> ValueKind.DECIMAL;
            case "float", "double" -> ValueKind.FLOATING;
            case "char", "varchar", "tinytext", "text", "mediumtext", "longtext" -> ValueKind.TEXT;
            case "date" -> ValueKind.DATE;
            case "datetime", "timestamp" -> ValueKind.TIMESTAMP;
            case "uuid" -> ValueKind.UUID;
            case "binary", "varbinary", "tinyblob", "blob", "mediumblob", "longblob" -> ValueKind.BINARY;
            // A TIME may be longer than a day or negative, which no time of day is.
            default -> ValueKind.OTHER;
        };
    }

    @Override
    protected @Nullable String rowId() {
        return null;
    }
}
