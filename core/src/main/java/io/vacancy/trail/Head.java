package io.vacancy.trail;

import io.vacancy.failure.MisuseException;

/**
 * Where the chain ends: what is to be kept elsewhere, so that a tail that was cut off shows.
 *
 * @param position how many entries are sealed
 * @param digest of the last seal in hexadecimal digits; of no seal, zeros
 */
public record Head(long position, String digest) {

    private static final int DIGITS = 64;

    /** Before anything is sealed. */
    public static final Head NONE = new Head(0, "0".repeat(DIGITS));

    public Head {
        if (position < 0 || !digest.matches("[0-9a-f]{64}")) {
            throw new MisuseException(
                    "\"" + position + ":" + digest + "\" is no head of a trail.",
                    "Give it as it was printed, such as 12:3fa9….");
        }
    }

    /** Reads {@code 12:3fa9…}. */
    public static Head read(String written) {
        int colon = written.indexOf(':');
        if (colon < 1 || !written.substring(0, colon).matches("\\d{1,18}")) {
            throw new MisuseException(
                    "\"" + written + "\" is no head of a trail.", "Give it as it was printed, such as 12:3fa9….");
        }
        return new Head(Long.parseLong(written.substring(0, colon)), written.substring(colon + 1));
    }

    @Override
    public String toString() {
        return position + ":" + digest;
    }
}
