package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * One row as it stood when it was read. Values are of the class that {@link ValueKind} names for their
 * column, or null.
 *
 * @param values the values by column name, in the table's order; unmodifiable
 */
public record Row(TableName table, Map<String, @Nullable Object> values) {

    public Row {
        values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
    }

    /**
     * The value of a column, or null where the row has NULL.
     *
     * @throws MisuseException if the row has no such column
     */
    public @Nullable Object get(String column) {
        Object value = values.get(column);
        if (value == null && !values.containsKey(column)) {
            throw new MisuseException(
                    "Column " + column + " is not in table " + table + NearestName.question(column, values.keySet()));
        }
        return value;
    }

    /** The value of a column as text, or an empty text where the row has NULL. */
    public String text(String column) {
        Object value = get(column);
        return value == null ? "" : value.toString();
    }
}
