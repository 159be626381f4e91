// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import java.util.function.Consumer;

/** A transaction that somebody else begins and ends. */
public interface CallerTransaction {

    /** How a transaction ended. */
    enum Completion {
        /** What was done in it stays. */
        COMMITTED,
        /** Nothing of it stays. */
        ROLLED_BACK,
        /** The connection was lost on the way, so nobody knows. */
        UNKNOWN
    }

    /** What it works on; for a store over JDBC a {@code java.sql.Connection} whose auto-commit is off. */
    Object connection();

    /** Whether whoever began it said that nothing is written in it. Then nothing is carried out in it either. */
    default boolean readOnly() {
        return false;
    }

    /**
     * Has Vacancy told how it ends, once. Whatever the callback throws changes nothing of the transaction.
     */
    void whenCompleted(Consumer<Completion> told);
}
