// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.util.List;

/**
 * A column that holds several keys in one text, as it is searched in SQL: keys with commas between them, a JSON array, or an
 * array of the engine. Blanks, brackets, braces and quotes count for nothing, in the list and in keys, and each key stands
 * between commas of its own, so that no key is found within another.
 *
 * @param column with its alias
 */
record KeyListText(Syntax syntax, String column) {

    private static final List<String> NOTHING = List.of(" ", "[", "]", "{", "}", "\"", "\n", "\r", "\t");

    private static String bare(String text) {
        String bare = text;
        for (String sign : NOTHING) {
            bare = "REPLACE(" + bare + ", '" + sign + "', '')";
        }
        return bare;
    }

    /** The keys with commas between them, and nothing else. */
    private String bare() {
        return bare(syntax.wholeText(column));
    }

    private String concatenated(String... texts) {
        return syntax.concatenated(List.of(texts).stream().map(Sql::of).toList())
                .text();
    }

    private String list() {
        return concatenated("','", "REPLACE(" + bare() + ", ',', ',,')", "','");
    }

    private String element(String key) {
        return concatenated("','", bare(syntax.wholeText(key)), "','");
    }

    /** That there is any key in it. */
    String some() {
        return bare() + " <> ''";
    }

    /** That a key is in it. */
    String contains(String key) {
        return syntax.contains(list(), element(key));
    }

    /** How many keys are in it, the same ones counted again; of a list that has some. */
    String size() {
        return "(LENGTH(" + list() + ") - LENGTH(REPLACE(" + list() + ", ',', ''))) / 2";
    }

    /** How often a key is in it. */
    String occurrences(String key) {
        return "(LENGTH(" + list() + ") - LENGTH(REPLACE(" + list() + ", " + element(key) + ", ''))) / LENGTH("
                + element(key) + ")";
    }
}
