// SPDX-License-Identifier: Apache-2.0
package io.vacancy.listener;

import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.trail.TrailEntry;

/**
 * Hears of what Vacancy does, on the thread that does it. What a listener throws
 * before anything is committed goes to the caller; after a commit it is logged and becomes a warning of the outcome.
 */
public interface Listener {

    /** Somebody was shown what a request would do. */
    default void previewed(Preview preview) {}

    /**
     * A request ended. What was done is committed; on a caller's connection that is when the caller says so, by
     * {@link io.vacancy.Vacancy#committed()}.
     */
    default void ended(Request request, Outcome outcome) {}

    /**
     * Something was refused, blocked or declined on a caller's connection, where the trail cannot be told, since
     * whatever is written there may be rolled back.
     */
    default void entryNotWritten(TrailEntry entry) {}

    /**
     * Something failed that follows a commit, such as the renaming of a file or the sealing of the audit history. What
     * was done stays done.
     *
     * @param warning what failed, as it stands on the outcome too
     */
    default void afterCommitFailed(Request request, Receipt receipt, String warning) {}

    /**
     * An attempt ended in a deadlock, or lost its connection before anything was committed; another one is made.
     *
     * @param attempt which attempt comes next, from 2
     */
    default void retried(Request request, int attempt, String why) {}

    /**
     * How far a request is, several times a second once it has taken a second.
     *
     * @param progress never goes back within one step of one attempt
     */
    default void progress(Request request, Progress progress) {}
}
