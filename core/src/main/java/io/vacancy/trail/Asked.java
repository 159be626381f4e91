package io.vacancy.trail;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How somebody was asked, and what the answer was.
 *
 * @param words the question, the fingerprint of what was shown, the number of rows that was given, or why nobody was
 *     asked
 * @param consequences what the question said that a yes would do
 * @param answer as it was typed; null where nobody was asked
 */
public record Asked(
        How how,
        String words,
        List<String> consequences,
        @Nullable String answer) {

    /** The ways of agreeing to something. */
    public enum How {
        /** A person was asked a question. */
        QUESTION("question"),
        /** An earlier preview was shown, and only its fingerprint came back. */
        FINGERPRINT("fingerprint"),
        /** The caller said how many rows there would be. */
        EXPECTED("expected"),
        /** The caller said why nobody was asked. */
        UNASKED("unasked");

        private final String word;

        How(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    public Asked {
        consequences = List.copyOf(consequences);
    }
}
