// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.security.SecureRandom;
import java.time.Instant;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * The identifier of a receipt, by which what was done is looked up, restored and purged.
 *
 * @param value up to 64 characters, none of them white space; those that Vacancy makes are UUIDs
 */
public record ReceiptId(String value) {

    private static final SecureRandom RANDOM = new SecureRandom();
    private static final int LONGEST = 64;

    public ReceiptId {
        Arguments.notBlank(value, "receipt");
        if (value.length() > LONGEST || value.chars().anyMatch(Character::isWhitespace)) {
            throw new MisuseException(
                    "The text is not the identifier of a receipt.", "Give the identifier as the receipt has it.");
        }
    }

    /**
     * The identifier of this written form.
     *
     * @throws MisuseException if the text is null, blank, longer than 64 characters or has white space in it
     */
    public static ReceiptId of(String value) {
        return new ReceiptId(value);
    }

    /** The same, or null for null. */
    public static @Nullable ReceiptId ofNullable(@Nullable String value) {
        return value == null ? null : new ReceiptId(value);
    }

    /** A new UUID of version 7: milliseconds since 1970 in front, 74 random bits behind (RFC 9562, 5.7). */
    public static ReceiptId next(Instant now) {
        long high = (Arguments.notNull(now, "now").toEpochMilli() << 16) | 0x7000L | RANDOM.nextInt(1 << 12);
        long low = (RANDOM.nextLong() >>> 2) | Long.MIN_VALUE;
        return new ReceiptId(new UUID(high, low).toString());
    }

    @Override
    public String toString() {
        return value;
    }
}
