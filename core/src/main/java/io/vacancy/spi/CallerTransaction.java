// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import java.util.function.Consumer;

/** A transaction that somebody else begins and ends. */
public interface CallerTransaction {

    /** What it works on; for a store over JDBC a {@code java.sql.Connection} whose auto-commit is off. */
    Object connection();

    /**
     * Has Vacancy told how it ends, once: true if it was committed, false if it was rolled back or nobody knows.
     * Whatever the callback throws changes nothing of the transaction.
     */
    void whenCompleted(Consumer<Boolean> committed);
}
