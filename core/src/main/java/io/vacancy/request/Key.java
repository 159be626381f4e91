// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.argument.NearestName;
import io.vacancy.schema.Binary;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * The key of one row, as Java values or as the text of a form or a URL.
 *
 * @param parts the values by column name; one value under the empty name where the table's only key
 *     column is meant
 */
public record Key(Map<String, Object> parts) {

    private static final String ONLY = "";

    public Key {
        Arguments.notNull(parts, "parts");
        parts = Map.copyOf(parts);
    }

    /**
     * A key of one value. For a table whose key has several columns, a text such as {@code
     * berth_no=3,pier_id=2} names them all.
     *
     * @throws MisuseException if the value is null or an empty text
     */
    public static Key of(@Nullable Object value) {
        if (value == null || value.equals("")) {
            throw new MisuseException("The key is empty.", "Give the key of the row that is meant.");
        }
        return new Key(Map.of(ONLY, plain(value)));
    }

    /** The one value of a key that names no column; null where the columns are named. */
    public @Nullable Object only() {
        return parts.get(ONLY);
    }

    private static Object plain(Object value) {
        if (value instanceof Integer number) {
            return number.longValue();
        }
        return value instanceof byte[] bytes ? Binary.of(bytes) : value;
    }

    /** A key of two columns. */
    public static Key of(String column1, Object value1, String column2, Object value2) {
        Arguments.notBlank(column1, "column1");
        Arguments.notNull(value1, "value1");
        Arguments.notBlank(column2, "column2");
        Arguments.notNull(value2, "value2");
        return new Key(Map.of(column1, value1, column2, value2));
    }

    /**
     * The key that has these values in these columns; of one column the value alone.
     *
     * @param values as many as columns, none of them null
     */
    public static Key of(List<String> columns, List<?> values) {
        Arguments.noneNull(columns, "columns");
        Arguments.noneNull(values, "values");
        if (columns.size() != values.size()) {
            throw new MisuseException(
                    "A key of " + columns.size() + " columns has as many values, not " + values.size() + ".");
        }
        if (columns.size() == 1) {
            return of(values.get(0));
        }
        Map<String, Object> parts = new LinkedHashMap<>();
        for (int i = 0; i < columns.size(); i++) {
            parts.put(columns.get(i), values.get(i));
        }
        return new Key(parts);
    }

    /**
     * This key's values for a table, read as the types of its identity's columns and in their order.
     *
     * @throws MisuseException if the table has no lasting key, or the key does not fit it
     */
    public List<Object> valuesFor(Table table) {
        Arguments.notNull(table, "table");
        List<String> columns = table.identity().columns();
        if (!table.identity().lasts()) {
            throw new MisuseException(
                    "Table " + table + " has no key, so no row of it can be named by one.",
                    "Give the table a primary key, or a unique key over NOT NULL columns.");
        }
        return valuesFor(table, columns);
    }

    /**
     * This key's values for some columns of a table, read as their types and in their order.
     *
     * @throws MisuseException if the key does not name just these columns
     */
    public List<Object> valuesFor(Table table, List<String> columns) {
        Arguments.noneNull(columns, "columns");
        Object only = parts.get(ONLY);
        if (only != null && columns.size() == 1) {
            return List.of(value(only, table, columns.get(0)));
        }
        Map<String, Object> named = named(table, columns);
        List<Object> values = new ArrayList<>();
        for (String column : columns) {
            Object value = named.get(column);
            if (value == null) {
                throw new MisuseException("The key " + this + " lacks " + column + ".", wanted(table, columns));
            }
            values.add(value(value, table, column));
        }
        if (named.size() > columns.size()) {
            named.keySet().removeAll(columns);
            throw new MisuseException(
                    "The key of " + table + " has no column " + String.join(", ", named.keySet())
                            + NearestName.question(named.keySet().iterator().next(), columns),
                    wanted(table, columns));
        }
        return values;
    }

    private static Object value(Object given, Table table, String name) {
        Column column = table.column(name);
        return column.read(typed(given, column), table.name());
    }

    /** As the text of a key of a column without a type, 7 is the number, as which such columns mostly have it. */
    private static Object typed(Object value, Column column) {
        Object number =
                value instanceof String && column.type().declared().isEmpty() ? ValueKind.INTEGER.read(value) : null;
        return number != null && number.toString().equals(value) ? number : value;
    }

    private Map<String, Object> named(Table table, List<String> columns) {
        Object only = parts.get(ONLY);
        if (only == null) {
            Map<String, Object> named = new LinkedHashMap<>();
            parts.forEach((column, value) -> named.put(spelled(table, column), value));
            return named;
        }
        Map<String, Object> named = new LinkedHashMap<>();
        for (String part : only.toString().split(",", -1)) {
            int equals = part.indexOf('=');
            if (equals < 1) {
                throw new MisuseException(
                        "\"" + only + "\" is not a key of " + table + ", whose key has " + columns.size() + " columns.",
                        wanted(table, columns));
            }
            String column = spelled(table, part.substring(0, equals).strip());
            if (named.put(column, part.substring(equals + 1)) != null) {
                throw new MisuseException("The key \"" + only + "\" names " + column + " twice.");
            }
        }
        return named;
    }

    private static String spelled(Table table, String column) {
        return table.column(column).name();
    }

    private static String wanted(Table table, List<String> columns) {
        return "Give the key as " + String.join("=…,", columns) + "=….";
    }

    @Override
    public String toString() {
        Object only = parts.get(ONLY);
        if (only != null) {
            return only.toString();
        }
        List<String> written = new ArrayList<>();
        parts.forEach((column, value) -> written.add(column + "=" + value));
        written.sort(null);
        return String.join(",", written);
    }
}
