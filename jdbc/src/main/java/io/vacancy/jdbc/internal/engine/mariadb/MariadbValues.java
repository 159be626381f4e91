// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Values;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.math.BigInteger;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** MariaDB: how values get through the driver. */
final class MariadbValues implements Values {

    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        if (type.declared().startsWith("bit")) {
            byte[] bits = rows.getBytes(index);
            return bits == null ? null : type.kind().read(new BigInteger(1, bits));
        }
        if (type.kind() == ValueKind.BOOLEAN) {
            // TINYINT(1) is a truth value by custom only.
            long number = rows.getLong(index);
            return rows.wasNull() ? null : number == 0 || number == 1 ? (Object) (number == 1) : (Object) number;
        }
        if (type.kind() == ValueKind.DATE || type.kind() == ValueKind.TIMESTAMP) {
            // 2024-00-00 is a date to the engine, and none to Java.
            String text = rows.getString(index);
            Object time = text == null ? null : type.kind().read(text);
            return time == null ? text : time;
        }
        if (type.kind() == ValueKind.UUID) {
            String text = rows.getString(index);
            return text == null ? null : java.util.UUID.fromString(text);
        }
        return Values.super.read(rows, index, type);
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof java.util.UUID) {
            statement.setString(index, value.toString());
        } else if (value instanceof Double number && type.declared().startsWith("float")) {
            // Compared as the number of four bytes that the column has.
            statement.setDouble(index, number.floatValue());
        } else {
            Values.super.bind(statement, index, value, type);
        }
    }
}
