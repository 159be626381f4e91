// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One row as it stood when it was read. Values are of the class that {@link ValueKind} names for their column, or null.
 * Columns are named as the database has them, or in another case where only one can be meant, as with names that are not
 * quoted.
 *
 * @param values the values by column name, in the table's order; unmodifiable
 */
public record Row(TableName table, Map<String, @Nullable Object> values) {

    public Row {
        Arguments.notNull(table, "table");
        values = Collections.unmodifiableMap(new LinkedHashMap<>(Arguments.named(values, "values")));
    }

    /**
     * The value of a column, or null where the row has NULL.
     *
     * @throws MisuseException if the row has no such column
     */
    public @Nullable Object get(String column) {
        Arguments.notBlank(column, "column");
        return values.get(Names.known(column, values.keySet(), "Column", "table " + table));
    }

    /**
     * The value of a column as this class, or null where the row has NULL. Whole numbers become any class of whole
     * numbers that holds them, numbers a {@link java.math.BigDecimal} or a double; anything becomes a text.
     *
     * @throws MisuseException if the row has no such column, or its value is none of this class
     */
    public <T> @Nullable T get(String column, Class<T> type) {
        Arguments.notNull(type, "type");
        Object value = get(column);
        return value == null ? null : Values.as(value, type, column);
    }

    /**
     * The value of a column as a whole number.
     *
     * @throws MisuseException if the row has no such column, NULL there, or anything but a whole number
     */
    public long getLong(String column) {
        Long value = get(column, Long.class);
        if (value == null) {
            throw new MisuseException(
                    "Column " + column + " of table " + table + " is NULL in this row, which is not a whole number.",
                    "Read it by get(column), which returns null.");
        }
        return value;
    }

    /** The value of a column as text, or null where the row has NULL. */
    public @Nullable String getString(String column) {
        return get(column, String.class);
    }

    /** The value of a column as text, or an empty text where the row has NULL. */
    public String text(String column) {
        Object value = get(column);
        return value == null ? "" : value.toString();
    }
}
