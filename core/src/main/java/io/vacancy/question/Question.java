package io.vacancy.question;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * What a person is asked before rows go.
 *
 * @param strength how it wants to be answered
 * @param title the question in one sentence
 * @param consequences what a yes would do, a sentence each
 * @param awaited what must be typed; null where nothing is asked
 * @param fingerprint of the preview it belongs to
 */
public record Question(
        Strength strength,
        String title,
        List<String> consequences,
        @Nullable String awaited,
        String fingerprint) {

    /** How strong a question is. */
    public enum Strength {
        /** Nothing is asked. */
        NONE("none"),
        /** A yes or a no. */
        YES_NO("yes-no");

        private final String word;

        Strength(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    public Question {
        consequences = List.copyOf(consequences);
    }

    /**
     * Judges what a person typed. Anything but what is awaited counts as a no: "yes" or "y" to a yes-no
     * question, in any case.
     *
     * @param typed null or empty for no reply at all
     */
    public Answer answer(@Nullable String typed) {
        String text = typed == null ? "" : typed.strip();
        String lower = text.toLowerCase(Locale.ROOT);
        boolean accepted = strength == Strength.YES_NO && (lower.equals("yes") || lower.equals("y"));
        return new Answer(text, accepted, fingerprint);
    }
}
