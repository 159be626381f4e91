// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import org.jspecify.annotations.Nullable;

/** How an engine counts the rows that were changed, by triggers as well. The defaults count nothing. */
public interface ChangeCounts {

    /**
     * A query for the tables that this transaction has changed so far: schema, NULL for the usual one, table, and how many rows were added,
     * changed and removed. Null where the engine does not count by table.
     */
    default @Nullable String byTable() {
        return null;
    }

    /** A query for how many rows this connection has changed so far, in any table. Null where the engine does not count. */
    default @Nullable String inAll() {
        return null;
    }
}
