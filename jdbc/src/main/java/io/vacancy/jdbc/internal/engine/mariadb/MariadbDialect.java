package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** MariaDB with InnoDB: foreign keys are checked row by row, and identifiers are quoted in its own way. */
public final class MariadbDialect extends Dialect {

    private static final int LOCK_TIMEOUT = 1205;
    private static final int DEADLOCK = 1213;

    @Override
    public String name() {
        return "MariaDB";
    }

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.UNCHECKED;
    }

    @Override
    public String unchecked(String statement) {
        return "SET STATEMENT foreign_key_checks=0 FOR " + statement;
    }

    @Override
    public SchemaReader catalogue() {
        return new MariadbSchemaReader();
    }

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting(
                "SELECT @@innodb_lock_wait_timeout",
                "SET SESSION innodb_lock_wait_timeout = %s",
                Duration.ofSeconds(1));
    }

    @Override
    public String catalogueDigest() {
        return """
                SELECT concat((SELECT concat(count(*), '/', coalesce(sum(crc32(concat(constraint_name, delete_rule))), 0))
                                 FROM information_schema.referential_constraints WHERE constraint_schema = database()),
                              ' ', (SELECT count(*) FROM information_schema.triggers WHERE trigger_schema = database()))""";
    }

    /** A backslash takes the meaning from what comes after it. */
    @Override
    public String literal(Object value) {
        return super.literal(value instanceof String text ? text.replace("\\", "\\\\") : value);
    }

    /** Its TIMESTAMP ends in 2038, and fills itself. */
    @Override
    public String timeType() {
        return "DATETIME(6)";
    }

    /** Values find the column's type by themselves. */
    @Override
    public Sql typed(Sql value, ColumnType type) {
        return value;
    }

    @Override
    public Fault fault(SQLException exception) {
        return switch (exception.getErrorCode()) {
            case LOCK_TIMEOUT -> Fault.BUSY;
            case DEADLOCK -> Fault.DEADLOCK;
            case 1142, 1044, 1143, 1227 -> Fault.NOT_ALLOWED;
            case 1317, 1969 -> Fault.CANCELLED;
            case 1792, 1290 -> Fault.READ_ONLY;
            default -> standard(String.valueOf(exception.getSQLState()));
        };
    }

    @Override
    public String setIsolation(String level) {
        return "SET TRANSACTION ISOLATION LEVEL " + level;
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }

    @Override
    public String quote(String identifier) {
        return "`" + identifier.replace("`", "``") + "`";
    }

    @Override
    public String deleteFrom(String table) {
        return "DELETE t FROM " + table + " t";
    }

    @Override
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        return inSubquery(expressions, keyTable, keyColumns, further);
    }

    @Override
    public String dropKeyTable(String keyTable) {
        return "DROP TEMPORARY TABLE IF EXISTS " + keyTable;
    }

    @Override
    public String keyType(ColumnType type) {
        // A text without a length cannot be a key; those that are have one.
        return type.declared();
    }

    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        if (type.kind() == ValueKind.BOOLEAN) {
            // TINYINT(1) is a truth value by custom only.
            long number = rows.getLong(index);
            return rows.wasNull() ? null : number == 0 || number == 1 ? (Object) (number == 1) : (Object) number;
        }
        if (type.kind() == ValueKind.UUID) {
            String text = rows.getString(index);
            return text == null ? null : java.util.UUID.fromString(text);
        }
        return super.read(rows, index, type);
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof java.util.UUID) {
            statement.setString(index, value.toString());
        } else {
            super.bind(statement, index, value, type);
        }
    }

    @Override
    public RowImageEncoding cells() {
        return new RowImageEncoding.OwnColumns("LONGBLOB");
    }

    @Override
    public String toCell(String value, ColumnType type) {
        String base = type.declared().toLowerCase(Locale.ROOT);
        if (type.kind() == ValueKind.BINARY) {
            return value;
        }
        if (type.kind() == ValueKind.OTHER && spatial(base)) {
            return "HEX(" + value + ")";
        }
        String written = base.startsWith("float")
                ? "CAST(" + value + " AS DOUBLE)"
                : base.startsWith("bit") ? "CAST(" + value + " AS UNSIGNED)" : value;
        return "CONVERT(" + written + " USING utf8mb4)";
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        String base = type.declared().toLowerCase(Locale.ROOT);
        if (type.kind() == ValueKind.BINARY) {
            return cell;
        }
        if (type.kind() == ValueKind.OTHER && spatial(base)) {
            return "UNHEX(" + cell + ")";
        }
        String text = "CONVERT(" + cell + " USING utf8mb4)";
        return base.startsWith("bit") ? "CAST(" + text + " AS UNSIGNED)" : text;
    }

    @Override
    public String toCopy(String value, ColumnType type) {
        return type.declared().toLowerCase(Locale.ROOT).startsWith("float")
                ? "CAST(" + value + " AS DOUBLE)"
                : super.toCopy(value, type);
    }

    private static boolean spatial(String base) {
        return Stream.of("geometry", "point", "linestring", "polygon", "multi").anyMatch(base::startsWith);
    }

    @Override
    public String numberingImages() {
        return numbering();
    }

    @Override
    public String numbering() {
        return "BIGINT AUTO_INCREMENT PRIMARY KEY";
    }

    @Override
    public String longText() {
        return "LONGTEXT";
    }

    @Override
    public String tableOptions() {
        return " ENGINE=InnoDB CHARACTER SET utf8mb4 COLLATE utf8mb4_bin";
    }

    @Override
    public String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        List<String> definitions = new ArrayList<>();
        List<String> texts = new ArrayList<>();
        for (Column column : columns) {
            if (column.type().kind() == ValueKind.TEXT) {
                // Taken from the table, so that they are compared in the same way, and may be NULL all the same.
                texts.add("IF(1 = 0, NULL, " + quote(column.name()) + ") AS " + quote(column.name()));
            } else {
                definitions.add(quote(column.name()) + " " + keyType(column.type()) + " NULL");
            }
        }
        numbers.forEach(number -> definitions.add(number + " BIGINT"));
        unique.forEach(key -> definitions.add("UNIQUE (" + String.join(", ", key) + ")"));
        return createKeyTable(stage, definitions, List.of())
                + (texts.isEmpty()
                        ? ""
                        : " SELECT " + String.join(", ", texts) + " FROM " + table(of.name()) + " WHERE 1 = 0");
    }
}
