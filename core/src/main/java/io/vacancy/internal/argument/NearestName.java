// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.argument;

import java.util.Collection;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Finds the known name that somebody who mistyped one most likely meant. */
public final class NearestName {

    private NearestName() {}

    /** The end of a sentence: "; did you mean boat?", or just "." where no known name is near. */
    public static String question(String asked, Collection<String> known) {
        Arguments.notNull(asked, "asked");
        Arguments.noneNull(known, "known");
        String nearest = of(asked, known);
        return nearest == null ? "." : "; did you mean " + nearest + "?";
    }

    /** The nearest known name, or null if none is within a third of the asked name's length. */
    public static @Nullable String of(String asked, Collection<String> known) {
        Arguments.notNull(asked, "asked");
        Arguments.noneNull(known, "known");
        String nearest = null;
        int best = Math.max(2, asked.length() / 3) + 1;
        for (String name : known) {
            int distance = distance(asked.toLowerCase(Locale.ROOT), name.toLowerCase(Locale.ROOT));
            if (distance < best || (distance == best && nearest != null && name.compareTo(nearest) < 0)) {
                best = distance;
                nearest = name;
            }
        }
        return nearest;
    }

    /**
     * Insertions, removals, replacements and swaps of neighbours that lead from one word to the other: the
     * optimal string alignment distance, by the dynamic programme of Wagner and Fischer (1974) with the
     * transpositions of Lowrance and Wagner (1975).
     */
    static int distance(String from, String to) {
        int[] twoBack = new int[to.length() + 1];
        int[] back = new int[to.length() + 1];
        for (int j = 0; j <= to.length(); j++) {
            back[j] = j;
        }
        for (int i = 1; i <= from.length(); i++) {
            int[] row = new int[to.length() + 1];
            row[0] = i;
            for (int j = 1; j <= to.length(); j++) {
                int replaced = back[j - 1] + (from.charAt(i - 1) == to.charAt(j - 1) ? 0 : 1);
                row[j] = Math.min(replaced, Math.min(back[j], row[j - 1]) + 1);
                if (i > 1
                        && j > 1
                        && from.charAt(i - 1) == to.charAt(j - 2)
                        && from.charAt(i - 2) == to.charAt(j - 1)) {
                    row[j] = Math.min(row[j], twoBack[j - 2] + 1);
                }
            }
            twoBack = back;
            back = row;
        }
        return back[to.length()];
    }
}
