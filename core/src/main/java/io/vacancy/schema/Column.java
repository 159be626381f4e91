// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.VisibleText;
import java.math.BigDecimal;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A column of a table.
 *
 * @param name its name in the database's spelling
 * @param generated whether the database computes it, so that nobody can write it
 * @param identity whether the database numbers it by itself
 * @param byDefault what a row gets that says nothing of it, as the database writes it, or null
 */
public record Column(
        String name,
        ColumnType type,
        boolean nullable,
        boolean generated,
        boolean identity,
        @Nullable String byDefault) {

    /** The same of another type. */
    Column of(ColumnType other) {
        return new Column(name, other, nullable, generated, identity, byDefault);
    }

    /**
     * Reads a value for this column.
     *
     * @param given a Java value or the text of one
     * @param table the column's table, for the message
     * @throws MisuseException if it is null, empty where a value is needed, of another kind, or out of range
     */
    public Object read(@Nullable Object given, TableName table) {
        String column = table + "." + name;
        if (given == null || (given instanceof String text && text.isEmpty() && type.kind() != ValueKind.TEXT)) {
            throw new MisuseException(
                    "The value for " + column + " is empty.",
                    "Give " + type.kind().example() + ".");
        }
        if (type.declared().isEmpty() && given instanceof Number number) {
            // A column without a type keeps a number as a number.
            return Objects.requireNonNull(
                    (number instanceof Double || number instanceof Float || number instanceof BigDecimal
                                    ? ValueKind.FLOATING
                                    : ValueKind.INTEGER)
                            .read(number));
        }
        Object value = type.kind().read(given);
        if (value == null) {
            throw new MisuseException("\"" + shortened(given) + "\" cannot be a value of " + column + ", which holds "
                    + type.declared() + ": " + type.kind().example() + ".");
        }
        String misfit = type.misfit(value);
        if (misfit != null) {
            throw new MisuseException(
                    "\"" + shortened(given) + "\" cannot be a value of " + column + ": it " + misfit + ".");
        }
        return value;
    }

    private static String shortened(Object given) {
        String text = VisibleText.line(given.toString());
        return text.length() <= 60 ? text : text.substring(0, 57) + "...";
    }
}
