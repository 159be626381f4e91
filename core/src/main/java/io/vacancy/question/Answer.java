// SPDX-License-Identifier: Apache-2.0
package io.vacancy.question;

import io.vacancy.internal.argument.Arguments;
import org.jspecify.annotations.Nullable;

/**
 * What a person replied to a question: the fingerprint of what was shown, and the text that was typed. Whether it is
 * enough is judged when the request is executed, on the question as it is then.
 *
 * @param fingerprint of the preview that was shown; not blank
 * @param text as it was typed, without white space around it; empty for no reply at all
 */
public record Answer(String fingerprint, String text) {

    public Answer {
        Arguments.notBlank(fingerprint, "fingerprint");
        text = Arguments.notNull(text, "text").strip();
    }

    /**
     * An answer to a question of which only the fingerprint is at hand.
     *
     * @param typed null for no reply at all
     */
    public static Answer of(String fingerprint, @Nullable String typed) {
        return new Answer(fingerprint, typed == null ? "" : typed);
    }
}
