package io.vacancy;

import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import org.jspecify.annotations.Nullable;

/**
 * By what somebody agreed to a request: an answer to what was shown, the fingerprint of it, or what the request itself
 * says.
 */
record Agreement(
        @Nullable Preview seen,
        @Nullable Answer answer,
        @Nullable String fingerprint) {

    static final Agreement OF_THE_REQUEST = new Agreement(null, null, null);

    static Agreement by(Preview seen, Answer answer) {
        return new Agreement(seen, answer, null);
    }

    static Agreement byFingerprint(String fingerprint) {
        return new Agreement(null, null, fingerprint);
    }
}
