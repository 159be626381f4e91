package io.vacancy.listener;

import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;

/**
 * Hears of what Vacancy does, on the thread that does it. What a listener throws goes to the caller; of an
 * outcome it is told last, when nothing can be undone any more, except on a caller's connection.
 */
public interface Listener {

    /** Somebody was shown what a request would do. */
    default void previewed(Preview preview) {}

    /** A request ended. A deletion on a caller's connection is not yet committed then. */
    default void ended(Request request, Outcome outcome) {}

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
