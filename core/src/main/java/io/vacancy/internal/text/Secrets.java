// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.text;

import java.util.regex.Pattern;

/** Takes passwords out of texts that repeat the address of a database. */
public final class Secrets {

    private static final Pattern NAMED =
            Pattern.compile("(?i)((?:password|passwd|pwd|secret|token)\\w*\\s*=\\s*)[^&;,)\\s\"']+");
    private static final Pattern BEFORE_HOST = Pattern.compile("(//[^/\\s:@]{0,200}:)[^@/\\s]{1,500}@");

    private Secrets() {}

    /** The text with dots in the place of passwords. */
    public static String hidden(String text) {
        return BEFORE_HOST.matcher(NAMED.matcher(text).replaceAll("$1…")).replaceAll("$1…@");
    }
}
