// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

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
}
