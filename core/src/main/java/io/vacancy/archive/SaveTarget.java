// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.schema.Row;
import java.util.List;

/**
 * Takes a copy of everything that goes or is changed, outside the database, while it is still there. What was taken
 * is gone only if the outcome says that it was done; after a deadlock it begins anew. Called on the thread that
 * deletes.
 */
public interface SaveTarget {

    /** What people call it, such as the name of a file; the question and the receipt say that a copy is saved there. */
    String name();

    /**
     * A copy begins.
     *
     * @param receipt under which it goes
     * @param lines what is to come, line by line; rows are counted already where somebody was shown them, else 0
     */
    void begin(ReceiptId receipt, List<ArchivedRows> lines);

    /**
     * One row, or the old values of its link.
     *
     * @param line the number of its line
     */
    void take(int line, Row row);

    /** That was all; to be on disk when this returns, since what follows is the commit. */
    void end();

    /**
     * What was taken is committed as deleted or changed. On a caller's connection that is when the caller says so; what
     * this throws becomes a warning of the outcome.
     */
    default void committed() {}
}
