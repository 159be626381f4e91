// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Values;
import io.vacancy.schema.Binary;
import io.vacancy.schema.ColumnType;
import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import org.jspecify.annotations.Nullable;

/** SQLite: how values get through the driver. */
final class SqliteValues implements Values {

    private static final DateTimeFormatter SECONDS = DateTimeFormatter.ofPattern("uuuu-MM-dd HH:mm:ss");

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
        return Values.super.plain(written(value));
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

    @Override
    public boolean keepsAnything() {
        return true;
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
}
