// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import java.nio.ByteBuffer;
import java.util.UUID;
import org.hibernate.type.descriptor.jdbc.JdbcType;
import org.jspecify.annotations.Nullable;

/** Values as they are kept in columns. */
final class ColumnValue {

    private ColumnValue() {}

    /** The value of a column of a type, where the provider converts it no sooner than on its way to the driver. */
    static @Nullable Object of(@Nullable Object value, JdbcType type) {
        if (value instanceof Enum<?> constant) {
            return type.isInteger() ? (Object) (long) constant.ordinal() : constant.name();
        }
        if (value instanceof UUID id && type.isBinary()) {
            return ByteBuffer.allocate(2 * Long.BYTES)
                    .putLong(id.getMostSignificantBits())
                    .putLong(id.getLeastSignificantBits())
                    .array();
        }
        if (value instanceof Boolean truth && type.isInteger()) {
            return truth ? 1L : 0L;
        }
        return value instanceof Character || (value instanceof UUID && type.isString()) ? value.toString() : value;
    }
}
