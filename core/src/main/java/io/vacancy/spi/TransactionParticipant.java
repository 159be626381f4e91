// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.outcome.Outcome;
import io.vacancy.rules.ResolvedRules;
import org.jspecify.annotations.Nullable;

/**
 * Tells Vacancy of transactions that somebody else began, such as a framework on the calling thread. Whatever is done
 * while there is one becomes part of it; where there is none, Vacancy's own transactions are used. Serves all threads.
 */
@FunctionalInterface
public interface TransactionParticipant {

    /** The transaction that the calling thread is in, the same object as long as it lasts; null where there is none. */
    @Nullable
    CallerTransaction current();

    /**
     * A request is about to be read or carried out in {@link #current()}: what the application keeps back on this thread, such
     * as changes that an object-relational mapper writes later, is to be in the database now.
     */
    default void beforeRequest() {}

    /**
     * A request has ended on this thread, in whatever transaction, and its outcome is about to be returned: what the
     * application remembers of rows may be outdated. Whatever this throws becomes a warning of what was done.
     *
     * @param rules that were in force, which tell the columns that are written
     */
    default void afterRequest(Outcome outcome, ResolvedRules rules) {}
}
