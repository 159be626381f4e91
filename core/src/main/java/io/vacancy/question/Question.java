// SPDX-License-Identifier: Apache-2.0
package io.vacancy.question;

import io.vacancy.internal.argument.Arguments;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a person is asked before rows go.
 *
 * @param strength how strong a confirmation it requires
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
        YES_NO("yes-no"),
        /** The number of rows that go in all must be typed. */
        COUNT("count"),
        /** What the one row is called must be typed; the number of rows where there are several. */
        LABEL("label"),
        /** The name of the table must be typed. */
        TABLE("table");

        private final String word;

        Strength(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    public Question {
        Arguments.notNull(strength, "strength");
        Arguments.notBlank(title, "title");
        Arguments.noneNull(consequences, "consequences");
        Arguments.notNull(fingerprint, "fingerprint");
        consequences = List.copyOf(consequences);
    }

    /**
     * The answer of a person to this question.
     *
     * @param typed null or empty for no reply at all
     */
    public Answer answer(@Nullable String typed) {
        return Answer.of(fingerprint, typed);
    }

    /**
     * Whether a text is what the question asks for: "yes" or "y" to a yes/no question, in any case; the digits of a
     * number, with or without marks between thousands; a label or a table's name as it stands. Where nothing is
     * asked, no reply is no objection.
     *
     * @param typed null or empty for no reply at all
     */
    public boolean accepts(@Nullable String typed) {
        String text = typed == null ? "" : typed.strip();
        return switch (strength) {
            case NONE -> text.isEmpty() || saysYes(text);
            case YES_NO -> saysYes(text);
            case COUNT -> text.replaceAll("(?<=\\d)[,. '_](?=\\d{3})", "").equals(awaited);
            case LABEL, TABLE -> text.equals(awaited);
        };
    }

    /** Whether nobody need be asked. */
    public boolean asksNothing() {
        return strength == Strength.NONE;
    }

    private static boolean saysYes(String text) {
        return text.equalsIgnoreCase("yes") || text.equalsIgnoreCase("y");
    }
}
