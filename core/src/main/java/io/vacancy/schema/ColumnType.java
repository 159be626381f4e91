// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.math.BigDecimal;
import java.math.BigInteger;
import org.jspecify.annotations.Nullable;

/**
 * The type of a column.
 *
 * @param kind which kind of value it holds
 * @param declared the type as the database writes it
 * @param size bits of a whole number, digits of a decimal, characters of a text, bytes of a binary; 0 where
 *     the type sets no limit
 * @param scale digits after the point of a decimal; 0 elsewhere
 * @param encoding how it keeps dates or times where its declared type does not say so, or null
 */
public record ColumnType(
        ValueKind kind,
        String declared,
        int size,
        int scale,
        @Nullable TimeEncoding encoding) {

    public ColumnType(ValueKind kind, String declared, int size, int scale) {
        this(kind, declared, size, scale, null);
    }

    public ColumnType {
        Arguments.notNull(kind, "kind");
        Arguments.notNull(declared, "declared");
    }

    public static ColumnType of(ValueKind kind, String declared) {
        Arguments.notNull(kind, "kind");
        Arguments.notNull(declared, "declared");
        return new ColumnType(kind, declared, 0, 0);
    }

    /** The same type, keeping dates or times in a way that it does not say itself. */
    public ColumnType keeping(TimeEncoding times) {
        Arguments.notNull(times, "times");
        return new ColumnType(times.kind(), declared, 0, 0, times);
    }

    /** The type of what the database is given and gives. */
    public ColumnType stored() {
        return encoding == null ? this : new ColumnType(encoding.storedKind(), declared, 0, 0, null);
    }

    /** Whether every value of another type can be kept in this one without a loss. */
    public boolean takes(ColumnType other) {
        if (declared.equals(other.declared)) {
            return true;
        }
        boolean roomy = size == 0 || (other.size > 0 && other.size <= size);
        boolean digits = kind != ValueKind.DECIMAL
                || size == 0
                || (scale >= other.scale && size - scale >= other.size - other.scale);
        return kind == other.kind && kind != ValueKind.OTHER && roomy && digits;
    }

    /**
     * Why a value that is of this type's kind does not fit its limits, or null if it fits. Fitting matters
     * for keys: a number beyond the range can equal no row's, and engines differ in what they make of it.
     */
    @Nullable
    String misfit(Object value) {
        if (value instanceof Long || value instanceof BigInteger) {
            int bits = value instanceof Long small
                    ? BigInteger.valueOf(small).bitLength()
                    : ((BigInteger) value).bitLength();
            return size > 0 && bits >= size ? "is beyond the range of " + declared : null;
        }
        if (value instanceof BigDecimal decimal && size > 0) {
            return decimal.precision() - decimal.scale() > size - scale ? "is beyond the range of " + declared : null;
        }
        if (value instanceof String text && size > 0 && kind == ValueKind.TEXT) {
            return text.codePointCount(0, text.length()) > size ? "is longer than " + size + " characters" : null;
        }
        if (value instanceof String text && text.indexOf('\0') >= 0) {
            return "holds a NUL character";
        }
        return null;
    }
}
