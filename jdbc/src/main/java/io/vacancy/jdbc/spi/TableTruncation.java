// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/** How a table is emptied at once. The defaults are standard SQL. */
public interface TableTruncation {

    /** How names are written here. */
    Syntax syntax();

    /** A statement that keeps everybody else out of a table that is to be emptied, or null if there is none. */
    default @Nullable String lock(TableName table) {
        return null;
    }

    /**
     * The fastest statement that empties a table and can still be rolled back. Where TRUNCATE commits, it is a
     * DELETE without a condition.
     */
    default String statement(TableName table) {
        return "DELETE FROM " + syntax().table(table);
    }

    /** Whether triggers on rows run, and rows are counted, when a table is emptied. */
    default boolean rowByRow() {
        return true;
    }
}
