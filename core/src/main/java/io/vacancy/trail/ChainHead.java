// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.failure.MisuseException;

/**
 * Where the chain ends: what is to be kept elsewhere, so that a tail that was cut off shows.
 *
 * @param position how many entries are sealed
 * @param digest of the last seal in hexadecimal digits; of no seal, zeros
 */
public record ChainHead(long position, String digest) {

    private static final int DIGITS = 64;

    /** Before anything is sealed. */
    public static final ChainHead NONE = new ChainHead(0, "0".repeat(DIGITS));

    public ChainHead {
        if (position < 0 || !digest.matches("[0-9a-f]{64}")) {
            throw new MisuseException(
                    "\"" + position + ":" + digest + "\" is not the head of a trail.",
                    "Give it as it was printed, such as 12:3fa9….");
        }
    }

    /** Reads {@code 12:3fa9…}. */
    public static ChainHead read(String written) {
        int colon = written.indexOf(':');
        if (colon < 1 || !written.substring(0, colon).matches("\\d{1,18}")) {
            throw new MisuseException(
                    "\"" + written + "\" is not the head of a trail.", "Give it as it was printed, such as 12:3fa9….");
        }
        return new ChainHead(Long.parseLong(written.substring(0, colon)), written.substring(colon + 1));
    }

    @Override
    public String toString() {
        return position + ":" + digest;
    }
}
