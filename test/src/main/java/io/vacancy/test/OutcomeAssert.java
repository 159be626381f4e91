// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import org.assertj.core.api.AbstractAssert;
import org.jspecify.annotations.Nullable;

/** Assertions on how a request ended. */
public final class OutcomeAssert extends AbstractAssert<OutcomeAssert, Outcome> {

    OutcomeAssert(@Nullable Outcome actual) {
        super(actual, OutcomeAssert.class);
    }

    /** It ended in this state. */
    public OutcomeAssert is(Outcome.State state) {
        isNotNull();
        if (actual.state() != state) {
            failWithMessage(
                    "Expected the outcome to be %s, but it is %s: %s",
                    state.word(), actual.state().word(), actual.message());
        }
        return this;
    }

    /** It was done. */
    public OutcomeAssert isDone() {
        return is(Outcome.State.DONE);
    }

    /** It was done, to so many rows in this way. */
    public OutcomeAssert isDone(Action action, long rows) {
        isDone();
        long found = actual.receiptOrThrow().totals().getOrDefault(action, 0L);
        if (found != rows) {
            failWithMessage("Expected %s of %d rows, but there are %d", action.word(), rows, found);
        }
        return this;
    }
}
