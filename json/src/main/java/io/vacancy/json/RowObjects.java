// SPDX-License-Identifier: Apache-2.0
package io.vacancy.json;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Key;

/**
 * What belongs to the rows of a table outside the database: files, objects of a store, entries of a search index. Called by a
 * {@link RowObjectsDelivery}, on its thread, for each row whose state may have changed, with its state as it is then; again
 * with the same where a call failed or the process ended, so that doing the same twice has to be right. What is thrown stops
 * the delivery, and comes again with the next.
 */
public interface RowObjects {

    /**
     * The row is gone or marked as deleted, and may come back: it is marked, or an image of it is archived. What belongs to it
     * is kept, and perhaps not shown, as in a search index.
     */
    default void hide(String table, Key key) {}

    /** The row is there and active, such as one that was restored. */
    default void show(String table, Key key) {}

    /** Neither the row nor an image of it is there: what belongs to it is not needed any more. */
    void remove(String table, Key key);

    /**
     * Something was done to more rows than the event names, to rows whose keys are personal and not told, or to rows of a table
     * that is dropped. To be found by the application: what belongs to rows that are neither there nor archived is not needed any more.
     *
     * @throws MisuseException unless it is overridden
     */
    default void unnamed(String table, long rows) {
        throw new MisuseException(
                "The event does not name the " + rows + " rows of " + table + " that it is about.",
                "Raise keysInTrail, or have unnamed(…) look through the table.");
    }
}
