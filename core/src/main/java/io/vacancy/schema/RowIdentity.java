// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.util.List;

/**
 * What tells one row of a table from every other.
 *
 * @param columns the columns whose values together name one row; empty where the table has none
 */
public record RowIdentity(Kind kind, List<String> columns) {

    /** Where the identity comes from. */
    public enum Kind {
        /** The declared primary key. */
        PRIMARY_KEY,
        /** A unique key whose columns are all NOT NULL. */
        UNIQUE_KEY,
        /** The engine's own row id, which holds within one transaction only. */
        ENGINE_ROW_ID,
        /** None: such a table can be previewed, not deleted from. */
        NONE
    }

    public RowIdentity {
        Arguments.notNull(kind, "kind");
        Arguments.noneNull(columns, "columns");
        columns = List.copyOf(columns);
    }

    /** Whether rows can be told apart at all. */
    public boolean exists() {
        return kind != Kind.NONE;
    }

    /** Whether the identity still names the same row in a later transaction. */
    public boolean lasts() {
        return kind == Kind.PRIMARY_KEY || kind == Kind.UNIQUE_KEY;
    }
}
