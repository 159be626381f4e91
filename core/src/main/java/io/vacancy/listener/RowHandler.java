// SPDX-License-Identifier: Apache-2.0
package io.vacancy.listener;

import io.vacancy.schema.Row;

/** Takes the rows of a deletion as they stand under the locks, before they go. */
@FunctionalInterface
public interface RowHandler {

    /** The first row comes next. Whatever was taken before stays, and is handed over again if it goes. */
    default void begin() {}

    /** A row that goes if the deletion is carried out. What this throws ends the deletion. */
    void take(Row row);

    /**
     * What was taken is committed as deleted. On a caller's connection that is when the caller says so; what this
     * throws becomes a warning of the outcome.
     */
    default void committed() {}
}
