// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.failure.MisuseException;
import java.math.BigDecimal;
import java.math.BigInteger;
import org.jspecify.annotations.Nullable;

/** Reads a value as another class, where nothing is lost by it. */
final class Values {

    private Values() {}

    static <T> T as(Object value, Class<T> type, String column) {
        Object read = type.isInstance(value) ? value : converted(value, type);
        if (read == null) {
            throw new MisuseException("Column " + column + " has a "
                    + value.getClass().getSimpleName() + ", which cannot be read as " + type.getSimpleName() + ".");
        }
        return type.cast(read);
    }

    private static @Nullable Object converted(Object value, Class<?> type) {
        if (type == String.class) {
            return value.toString();
        }
        if (!(value instanceof Number)) {
            return null;
        }
        try {
            BigDecimal number = new BigDecimal(value.toString());
            if (type == Long.class) {
                return number.longValueExact();
            }
            if (type == Integer.class) {
                return number.intValueExact();
            }
            if (type == BigInteger.class) {
                return number.toBigIntegerExact();
            }
            return type == BigDecimal.class ? number : type == Double.class ? (Object) number.doubleValue() : null;
        } catch (ArithmeticException | NumberFormatException lossy) {
            return null;
        }
    }
}
