// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.HexFormat;

/** SHA-256 of what is kept in Vacancy's own tables, in hexadecimal digits. */
public final class TextDigest {

    private TextDigest() {}

    /** Of a text in UTF-8. */
    public static String of(String text) {
        return HexFormat.of().formatHex(sha256().digest(text.getBytes(StandardCharsets.UTF_8)));
    }

    /** One to go on with. */
    public static MessageDigest sha256() {
        try {
            return MessageDigest.getInstance("SHA-256");
        } catch (NoSuchAlgorithmException everyPlatformHasIt) {
            throw new IllegalStateException(everyPlatformHasIt);
        }
    }
}
