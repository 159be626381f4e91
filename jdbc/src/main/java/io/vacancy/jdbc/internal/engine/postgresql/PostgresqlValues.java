// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Values;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import org.jspecify.annotations.Nullable;

/** PostgreSQL: how values get through the driver. */
final class PostgresqlValues implements Values {

    /** Its decimals may be NaN or infinite, for which Java has no decimal. */
    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        if (type.kind() != ValueKind.DECIMAL) {
            return Values.super.read(rows, index, type);
        }
        String text = rows.getString(index);
        if (text == null) {
            return null;
        }
        return text.endsWith("NaN") || text.endsWith("Infinity") ? (Object) Double.valueOf(text) : new BigDecimal(text);
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (type.kind() == ValueKind.OTHER) {
            // Sent without a type, so that the server reads the text as whatever the column holds.
            statement.setObject(index, value, Types.OTHER);
        } else if (type.declared().equals("real") && value instanceof Number number) {
            // 0.1 of four bytes is another number than 0.1 of eight.
            statement.setFloat(index, number.floatValue());
        } else {
            Values.super.bind(statement, index, value, type);
        }
    }
}
