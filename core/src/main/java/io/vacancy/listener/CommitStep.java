// SPDX-License-Identifier: Apache-2.0
package io.vacancy.listener;

import io.vacancy.outcome.Receipt;

/**
 * Something of the application's own that is committed together with what is done, or not at all: a row that says how far
 * a longer work is, a message for another system.
 */
@FunctionalInterface
public interface CommitStep {

    /**
     * Called when all is done and nothing is committed, on the thread that does it; once more for another attempt after a
     * deadlock. What it throws undoes everything: a deadlock that the database tells leads to another attempt, anything
     * else goes to the caller.
     *
     * @param receipt of what will have been done
     * @param connection what the store works on, such as a {@code java.sql.Connection}; neither to be committed nor
     *     closed
     */
    void run(Receipt receipt, Object connection) throws Exception;
}
