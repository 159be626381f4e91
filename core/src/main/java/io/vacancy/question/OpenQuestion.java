// SPDX-License-Identifier: Apache-2.0
package io.vacancy.question;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ReceiptId;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Request;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A question that waits in the database for its answer: of one actor in one scope, for some time, and for one receipt.
 * Immutable; for all threads.
 */
public final class OpenQuestion {

    private final Data data;

    private OpenQuestion(Data data) {
        this.data = Arguments.notNull(data, "data");
    }

    /** For Vacancy's own use. */
    public static OpenQuestion of(Data data) {
        return new OpenQuestion(data);
    }

    /** How a question stands. */
    public enum State {
        /** It waits for an answer. */
        OPEN("open"),
        /** It was answered, and somebody else has to approve it. */
        WAITING("waiting"),
        /** It was answered, and what was asked for is done. */
        DONE("done"),
        /** It was withdrawn, or answered wrongly three times. */
        DECLINED("declined"),
        /** Something else would be done now than was shown; it is to be asked anew. */
        CHANGED("changed"),
        /** Nobody answered it in time. */
        EXPIRED("expired");

        private final String word;

        State(String word) {
            this.word = word;
        }

        /** The written form, such as {@code open}. */
        public String word() {
            return word;
        }
    }

    /** All that it has; what it is made of may grow in any version. */
    public record Data(
            QuestionId id,
            Request request,
            Question question,
            String by,
            ScopeMarks scopes,
            Instant askedAt,
            Instant expiresAt,
            State state,
            int wrongAnswers,
            @Nullable String decidedBy,
            @Nullable ReceiptId receipt) {}

    /** By which it is found again. */
    public QuestionId id() {
        return data.id();
    }

    /** What is asked about; its own identity is that of the question, so that it is carried out once. */
    public Request request() {
        return data.request();
    }

    /** What is asked, without the consequences that were told with it. */
    public Question question() {
        return data.question();
    }

    /** By what is compared whether everything is still as it was shown. */
    public String fingerprint() {
        return data.question().fingerprint();
    }

    /** Who was asked. */
    public String by() {
        return data.by();
    }

    /** In which scope. */
    public ScopeMarks scopes() {
        return data.scopes();
    }

    /** When it was asked. */
    public Instant askedAt() {
        return data.askedAt();
    }

    /** From when on no answer is taken. */
    public Instant expiresAt() {
        return data.expiresAt();
    }

    /** How it stands. */
    public State state() {
        return data.state();
    }

    /** How often it was answered with a text that was not enough. */
    public int wrongAnswers() {
        return data.wrongAnswers();
    }

    /** Who else has approved or declined it; null where nobody has. */
    public @Nullable String decidedBy() {
        return data.decidedBy();
    }

    /** What was done; null unless it is {@link State#DONE}. */
    public @Nullable ReceiptId receipt() {
        return data.receipt();
    }

    /** Whether it can still be answered, approved or declined. */
    public boolean pending() {
        return state() == State.OPEN || state() == State.WAITING;
    }

    /** The same as it stands by then: a pending one expires. */
    public OpenQuestion at(Instant now) {
        return pending() && !now.isBefore(expiresAt())
                ? new OpenQuestion(new Data(
                        id(),
                        request(),
                        question(),
                        by(),
                        scopes(),
                        askedAt(),
                        expiresAt(),
                        State.EXPIRED,
                        wrongAnswers(),
                        decidedBy(),
                        receipt()))
                : this;
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof OpenQuestion same && data.equals(same.data);
    }

    @Override
    public int hashCode() {
        return data.hashCode();
    }

    /** Without the identifier, which is not for logs. */
    @Override
    public String toString() {
        return state().word() + " question about " + request() + " by " + by();
    }
}
