// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/**
 * What a preview's JSON says, to be shown to somebody. It comes from outside and is believed in nothing: it cannot be
 * executed. To execute what it shows, make the request again and hand it over with the {@link #answer}; everything is
 * judged anew then. Immutable.
 */
public final class PreviewDocument {

    private final TableName table;
    private final OperationKind operation;
    private final State state;
    private final @Nullable String refusal;
    private final Impact impact;
    private final Question question;

    PreviewDocument(
            TableName table,
            OperationKind operation,
            State state,
            @Nullable String refusal,
            Impact impact,
            Question question) {
        this.table = table;
        this.operation = operation;
        this.state = state;
        this.refusal = refusal;
        this.impact = impact;
        this.question = question;
    }

    public TableName table() {
        return table;
    }

    public OperationKind operation() {
        return operation;
    }

    public State state() {
        return state;
    }

    /** Why it was refused, or null. */
    public @Nullable String refusal() {
        return refusal;
    }

    /** Effects and blockers. */
    public Impact impact() {
        return impact;
    }

    /** What a person is shown; another question may be asked by the time it is executed. */
    public Question question() {
        return question;
    }

    public String fingerprint() {
        return question.fingerprint();
    }

    /**
     * The answer of a person who was shown this.
     *
     * @param typed null or empty for no reply at all
     */
    public Answer answer(@Nullable String typed) {
        return question.answer(typed);
    }
}
