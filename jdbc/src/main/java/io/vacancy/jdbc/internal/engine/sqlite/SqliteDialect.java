package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.Binary;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * SQLite: one writer at a time, no row locks, no types but those of the values themselves, and foreign
 * keys that are off until somebody turns them on.
 */
public final class SqliteDialect extends Dialect {

    private static final int BUSY = 5;
    private static final int LOCKED = 6;
    private static final int CONSTRAINT = 19;
    private static final int READ_ONLY = 8;
    private static final int INTERRUPTED = 9;
    private static final int FULL = 13;
    private static final DateTimeFormatter SECONDS = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss");

    @Override
    public String name() {
        return "SQLite";
    }

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.DEFERRED;
    }

    @Override
    public SchemaReader catalogue() {
        return new SqliteSchemaReader();
    }

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("PRAGMA busy_timeout", "PRAGMA busy_timeout = %s", Duration.ofMillis(1));
    }

    @Override
    public String catalogueDigest() {
        return "PRAGMA schema_version";
    }

    /** Dates and times are texts to it. */
    @Override
    public String literal(Object value) {
        return value instanceof LocalDate || value instanceof LocalDateTime
                ? "'" + value.toString().replace('T', ' ') + "'"
                : super.literal(value);
    }

    @Override
    public boolean hasPartialIndexes() {
        return true;
    }

    /** Values find the column's type by themselves. */
    @Override
    public Sql typed(Sql value, ColumnType type) {
        return value;
    }

    @Override
    public Fault fault(SQLException exception) {
        // The driver's codes are extended ones; the low byte is the plain one.
        return switch (exception.getErrorCode() & 0xff) {
            case BUSY, LOCKED -> Fault.BUSY;
            case CONSTRAINT -> Fault.CONSTRAINT;
            case READ_ONLY -> Fault.READ_ONLY;
            case INTERRUPTED -> Fault.CANCELLED;
            case FULL -> Fault.FULL;
            default -> Fault.OTHER;
        };
    }

    @Override
    public void prepare(Connection connection) throws SQLException {
        // Ignored inside a transaction, hence here; off by default on every connection.
        try (Statement statement = connection.createStatement()) {
            statement.execute("PRAGMA foreign_keys = ON");
        }
    }

    @Override
    public @Nullable String lockWhole(TableName table) {
        // A write that changes nothing takes the only write lock there is, before anything is read.
        return "DELETE FROM " + table(table) + " WHERE 0";
    }

    @Override
    public String forUpdate() {
        return "";
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }

    @Override
    protected String listOfTuples() {
        return " IN (VALUES ";
    }

    @Override
    public boolean checksAfterStatement(Relation relation) {
        return relation.onDelete() != OnDelete.RESTRICT;
    }

    @Override
    public String deferChecks() {
        return "PRAGMA defer_foreign_keys = ON";
    }

    @Override
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        return inSubquery(expressions, keyTable, keyColumns, further);
    }

    @Override
    public String keyType(ColumnType type) {
        // No declared type, no affinity: what is kept is exactly what was read.
        return "";
    }

    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        Object stored = rows.getObject(index);
        if (stored == null) {
            return null;
        }
        Object plain = stored instanceof byte[] bytes
                ? Binary.of(bytes)
                : stored instanceof Integer number ? (Object) number.longValue() : stored;
        Object typed = type.kind().read(plain);
        // A column may hold anything. Only what would be written back the same is read as the column's type.
        if (typed == null || !written(typed).equals(written(plain))) {
            return plain;
        }
        // 12.50 is kept as 12.5; the declared scale brings the digit back.
        return typed instanceof BigDecimal decimal && decimal.scale() < type.scale()
                ? decimal.setScale(type.scale())
                : typed;
    }

    @Override
    public Object plain(Object value) {
        return super.plain(written(value));
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        Object written = written(value);
        if (written instanceof Binary binary) {
            statement.setBytes(index, binary.toBytes());
        } else {
            statement.setObject(index, written);
        }
    }

    private static Object written(Object value) {
        if (value instanceof Boolean truth) {
            return truth ? 1L : 0L;
        }
        if (value instanceof LocalDateTime time) {
            return time.truncatedTo(ChronoUnit.SECONDS).equals(time)
                    ? SECONDS.format(time)
                    : time.toString().replace('T', ' ');
        }
        if (value instanceof BigDecimal decimal) {
            // As the engine itself keeps numbers: whole ones as integers, others as floating point.
            boolean whole = decimal.stripTrailingZeros().scale() <= 0
                    && decimal.toBigInteger().bitLength() < Long.SIZE;
            return whole ? (Object) decimal.longValue() : (Object) decimal.doubleValue();
        }
        return value instanceof Number || value instanceof Binary ? value : value.toString();
    }

    /** Columns without a type keep what they are given as it is. */
    @Override
    public RowImageEncoding cells() {
        return new RowImageEncoding.OwnColumns("");
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return value;
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return cell;
    }

    @Override
    public String numberingImages() {
        return numbering();
    }

    @Override
    public String numbering() {
        return "INTEGER PRIMARY KEY AUTOINCREMENT";
    }

    @Override
    public boolean definesInTransaction() {
        return true;
    }

    @Override
    public boolean keepsAnything() {
        return true;
    }
}
