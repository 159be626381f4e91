package io.vacancy.outcome;

import java.security.SecureRandom;
import java.time.Instant;
import java.util.UUID;

/** Makes identifiers of receipts. */
public final class ReceiptId {

    private static final SecureRandom RANDOM = new SecureRandom();

    private ReceiptId() {}

    /** A new UUID of version 7: milliseconds since 1970 in front, 74 random bits behind (RFC 9562, 5.7). */
    public static String next(Instant now) {
        long high = (now.toEpochMilli() << 16) | 0x7000L | RANDOM.nextInt(1 << 12);
        long low = (RANDOM.nextLong() >>> 2) | Long.MIN_VALUE;
        return new UUID(high, low).toString();
    }
}
