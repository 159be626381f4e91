// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.text;

import java.util.Locale;

/**
 * Text that only shows and never acts: whatever would move the cursor, colour or hide text, turn its direction or end a
 * line stands as {@code \\u001b}, which JSON reads as the same character again. Names and values come from anybody.
 */
public final class VisibleText {

    private VisibleText() {}

    /** On one line: line breaks and tabs are shown too. */
    public static String line(String text) {
        return of(text, false);
    }

    /** On as many lines as it has. */
    public static String lines(String text) {
        return of(text, true);
    }

    private static String of(String text, boolean keepsLines) {
        StringBuilder shown = null;
        for (int i = 0; i < text.length(); i++) {
            char c = text.charAt(i);
            boolean acts = acts(text, i) && !(keepsLines && (c == '\n' || c == '\t'));
            if (acts && shown == null) {
                shown = new StringBuilder(text.length() + 16).append(text, 0, i);
            }
            if (shown != null) {
                shown.append(acts ? String.format(Locale.ROOT, "\\u%04x", (int) c) : String.valueOf(c));
            }
        }
        return shown == null ? text : shown.toString();
    }

    private static boolean acts(String text, int at) {
        char c = text.charAt(at);
        return Character.isISOControl(c)
                || bidirectional(c)
                || c == '\u2028'
                || c == '\u2029'
                || c == '\ufeff'
                || (c >= '\ufdd0' && c <= '\ufdef')
                || c >= '\ufffe'
                || invisible(text, at)
                || brokenSurrogate(text, at);
    }

    /** The marks, embeddings, overrides and isolates of Unicode's annex 9. */
    private static boolean bidirectional(char c) {
        return c == '\u061c'
                || c == '\u200e'
                || c == '\u200f'
                || (c >= '\u202a' && c <= '\u202e')
                || (c >= '\u2066' && c <= '\u2069');
    }

    /** Both halves of a tag character, which no screen shows. */
    private static boolean invisible(String text, int at) {
        int high = Character.isLowSurrogate(text.charAt(at)) && at > 0 ? at - 1 : at;
        return Character.isHighSurrogate(text.charAt(high))
                && text.codePointAt(high) >= 0xe0000
                && text.codePointAt(high) <= 0xe007f;
    }

    private static boolean brokenSurrogate(String text, int at) {
        char c = text.charAt(at);
        if (Character.isHighSurrogate(c)) {
            return at + 1 == text.length() || !Character.isLowSurrogate(text.charAt(at + 1));
        }
        return Character.isLowSurrogate(c) && (at == 0 || !Character.isHighSurrogate(text.charAt(at - 1)));
    }
}
