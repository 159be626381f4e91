// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.rows;

/**
 * Texts in CSV that a spreadsheet would take for a formula, which may send what stands beside it elsewhere. An apostrophe
 * before them keeps them texts; it can be taken away again, also from texts that had one.
 */
public final class SpreadsheetText {

    private SpreadsheetText() {}

    public static String guarded(String text) {
        return formula(text) ? "'" + text : text;
    }

    /** The text that was guarded. */
    static String unguarded(String text) {
        return text.startsWith("'") && formula(text) ? text.substring(1) : text;
    }

    /** Whether it begins with what starts a formula, behind any number of apostrophes. */
    private static boolean formula(String text) {
        int at = 0;
        while (at < text.length() && text.charAt(at) == '\'') {
            at++;
        }
        return at < text.length() && "=+-@\t\r".indexOf(text.charAt(at)) >= 0;
    }
}
