// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import java.util.List;

/** A copy that a {@link SaveTarget} made, to be brought back from. Read anew each time. */
public interface SavedSource {

    /** The receipt under which it went. */
    ReceiptId receipt();

    /** What people call it, such as the name of a file. */
    String name();

    /**
     * Whether it is known to be what was saved, because it is sealed with a secret. What is not so may have been made by
     * anybody, and is restored only into tables that the request names.
     */
    boolean authenticated();

    /** What it has, line by line. */
    List<ArchivedRows> lines();

    /** Takes one row after the other. */
    @FunctionalInterface
    interface Taker {
        /** @param line the number of its line */
        void take(int line, Row row);
    }

    /**
     * Hands over every row.
     *
     * @param schema tells of which class values are
     * @throws io.vacancy.failure.MisuseException if the copy is not whole, with the place
     */
    void each(Schema schema, Taker taker);
}
