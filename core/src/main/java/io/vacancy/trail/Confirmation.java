// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How something was agreed to.
 *
 * @param words the question; where nobody was asked, the number of rows that was expected, or why no confirmation was
 *     needed
 * @param consequences what the question said that a yes would do
 * @param answer as it was typed; null where nobody was asked
 * @param fingerprint of what was shown; null where nothing was
 * @param approvedBy who else agreed, or null where nobody had to
 */
public record Confirmation(
        How how,
        String words,
        List<String> consequences,
        @Nullable String answer,
        @Nullable String fingerprint,
        @Nullable String approvedBy) {

    /** The ways of agreeing to something. */
    public enum How {
        /** A question was shown, and a text was typed. */
        QUESTION("question"),
        /** A yes/no question was accepted without being asked. */
        ACCEPTED_UNASKED("accepted-unasked"),
        /** The caller said how many rows there would be. */
        EXPECTED("expected"),
        /** The caller said why no confirmation was needed. */
        WITHOUT_CONFIRMATION("without-confirmation"),
        /** The rule book asks nothing. */
        NOT_REQUIRED("not-required"),
        /** Only in entries of earlier versions: the fingerprint of an earlier preview was given, and no answer. */
        FINGERPRINT("fingerprint");

        private final String word;

        How(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    public Confirmation {
        consequences = List.copyOf(consequences);
    }
}
