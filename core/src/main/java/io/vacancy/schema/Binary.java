// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.util.Arrays;
import java.util.Base64;

/** An immutable string of bytes, as columns of binary type hold; equal to another of the same bytes. */
public final class Binary {

    private final byte[] bytes;

    private Binary(byte[] bytes) {
        this.bytes = bytes;
    }

    /** Copies the array. */
    public static Binary of(byte[] bytes) {
        Arguments.notNull(bytes, "bytes");
        return new Binary(bytes.clone());
    }

    /** @throws IllegalArgumentException if the text is not base64 */
    public static Binary ofBase64(String text) {
        Arguments.notNull(text, "text");
        return new Binary(Base64.getDecoder().decode(text));
    }

    /** A copy of the bytes. */
    public byte[] toBytes() {
        return bytes.clone();
    }

    public int length() {
        return bytes.length;
    }

    @Override
    public boolean equals(Object other) {
        return other instanceof Binary binary && Arrays.equals(bytes, binary.bytes);
    }

    @Override
    public int hashCode() {
        return Arrays.hashCode(bytes);
    }

    /** The bytes in base64. */
    @Override
    public String toString() {
        return Base64.getEncoder().encodeToString(bytes);
    }
}
