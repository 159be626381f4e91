// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.Binary;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TimeEncoding;
import io.vacancy.schema.ValueKind;
import java.math.BigDecimal;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/** How values get through the driver. The defaults are standard SQL. */
public interface Values {

    /** A value of a result row in the class of its kind, or null for NULL. */
    default @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        return switch (type.kind()) {
            case INTEGER -> {
                BigDecimal number = rows.getBigDecimal(index);
                yield number == null ? null : ValueKind.INTEGER.read(number);
            }
            case DECIMAL -> rows.getBigDecimal(index);
            case FLOATING -> {
                double number = rows.getDouble(index);
                yield rows.wasNull() ? null : number;
            }
            case BOOLEAN -> {
                boolean truth = rows.getBoolean(index);
                yield rows.wasNull() ? null : truth;
            }
            case DATE -> rows.getObject(index, LocalDate.class);
            case TIME -> rows.getObject(index, LocalTime.class);
            case TIMESTAMP -> rows.getObject(index, LocalDateTime.class);
            case INSTANT -> rows.getObject(index, OffsetDateTime.class);
            case UUID -> rows.getObject(index, UUID.class);
            case BINARY -> {
                byte[] bytes = rows.getBytes(index);
                yield bytes == null ? null : Binary.of(bytes);
            }
            case TEXT, OTHER -> rows.getString(index);
        };
    }

    /** The same, with dates and times out of the form in which the column keeps them. */
    default @Nullable Object readDecoded(ResultSet rows, int index, ColumnType type) throws SQLException {
        TimeEncoding encoding = type.encoding();
        Object stored = read(rows, index, type.stored());
        return stored == null || encoding == null ? stored : encoding.decoded(stored);
    }

    /** A value as the driver takes it. */
    default Object plain(Object value) {
        return value instanceof Binary binary ? binary.toBytes() : value;
    }

    default void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof Binary binary) {
            statement.setBytes(index, binary.toBytes());
        } else {
            statement.setObject(index, value);
        }
    }

    /** Whether a column may hold values of any kind, whatever its type says. */
    default boolean keepsAnything() {
        return false;
    }
}
