// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jline.utils.WCWidth;

/**
 * How many columns of a terminal a text takes: two for the wide characters of East Asia (Unicode's annex 11), none for
 * marks that combine with what stands before them.
 */
final class DisplayWidth {

    /** What a reader takes for one character, marks and joined ones included. */
    private static final Pattern CHARACTER = Pattern.compile("\\X");

    private DisplayWidth() {}

    static int of(String text) {
        if (plain(text)) {
            return text.length();
        }
        int width = 0;
        for (Matcher each = CHARACTER.matcher(text); each.find(); ) {
            width += ofOne(each.group());
        }
        return width;
    }

    /** As much of the text as fits, with an ellipsis in the place of the rest. */
    static String cut(String text, int most) {
        if (of(text) <= most) {
            return text;
        }
        StringBuilder cut = new StringBuilder();
        int width = 1;
        for (Matcher each = CHARACTER.matcher(text); each.find(); ) {
            width += ofOne(each.group());
            if (width > most) {
                break;
            }
            cut.append(each.group());
        }
        return cut.append('…').toString();
    }

    /** Most text is, and is measured at once. */
    private static boolean plain(String text) {
        return text.chars().allMatch(c -> c >= ' ' && c < 0x7f);
    }

    /** A character is as wide as the widest of what is joined in it. */
    private static int ofOne(String character) {
        return character
                .codePoints()
                .map(point -> Math.max(0, WCWidth.wcwidth(point)))
                .max()
                .orElse(0);
    }
}
