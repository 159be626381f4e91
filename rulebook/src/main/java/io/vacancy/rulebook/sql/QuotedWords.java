// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook.sql;

import io.vacancy.condition.ConditionText;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A condition's text with the names of columns put into quotation marks, so that a column may be called day,
 * number or user though the parser has uses of its own for such words.
 *
 * @param text what the parser reads
 * @param origins where each of its characters stands in the text as it was written, from 0
 */
record QuotedWords(String text, int[] origins) {

    private static final Pattern PARTS =
            Pattern.compile("'(?:[^']|'')*'|\"(?:[^\"]|\"\")*\"|:?[\\p{L}_][\\p{L}\\p{N}_$]*");
    private static final Pattern UNIT = Pattern.compile("(?i)INTERVAL\\s*'[^']*'\\s*$");

    static QuotedWords of(String written) {
        StringBuilder text = new StringBuilder();
        int[] origins = new int[written.length() * 3 + 1];
        Matcher parts = PARTS.matcher(written);
        int from = 0;
        while (parts.find()) {
            copy(written, from, parts.start(), text, origins);
            String part = parts.group();
            boolean name = Character.isLetter(part.charAt(0)) || part.charAt(0) == '_';
            if (name && isColumn(part, written, parts.start(), parts.end())) {
                origins[text.length()] = parts.start();
                text.append('"');
                copy(written, parts.start(), parts.end(), text, origins);
                origins[text.length()] = parts.end();
                text.append('"');
            } else {
                copy(written, parts.start(), parts.end(), text, origins);
            }
            from = parts.end();
        }
        copy(written, from, written.length(), text, origins);
        origins[text.length()] = written.length();
        return new QuotedWords(text.toString(), origins);
    }

    private static void copy(String written, int from, int to, StringBuilder text, int[] origins) {
        for (int i = from; i < to; i++) {
            origins[text.length()] = i;
            text.append(written.charAt(i));
        }
    }

    private static boolean isColumn(String word, String written, int start, int end) {
        if (ConditionText.WORDS.contains(word.toLowerCase(Locale.ROOT))) {
            return false;
        }
        String behind = written.substring(end).stripLeading();
        // A function, or the start of a literal such as DATE '2020-01-01'; and the unit of an interval.
        return !behind.startsWith("(")
                && !behind.startsWith("'")
                && !UNIT.matcher(written.substring(0, start)).find();
    }

    /** Where a character of the text stands as it was written, both from 1. */
    int origin(int position) {
        return origins[Math.max(0, Math.min(position - 1, text.length()))] + 1;
    }
}
