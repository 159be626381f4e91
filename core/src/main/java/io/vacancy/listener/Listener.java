package io.vacancy.listener;

import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.trail.TrailEntry;

/**
 * Hears of what Vacancy does, on the thread that does it. What a listener throws goes to the caller; of an
 * outcome it is told last, when nothing can be undone any more.
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
    default void unwritten(TrailEntry entry) {}

    /**
     * A deadlock ended an attempt, and another one is made.
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
