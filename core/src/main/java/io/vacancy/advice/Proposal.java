// SPDX-License-Identifier: Apache-2.0
package io.vacancy.advice;

import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Something that a rule book could say of a database, by what its tables look like. Nobody but the application's
 * developer knows whether it is so.
 *
 * @param columns those that it is about; empty where it is about the whole table
 * @param parent the table that they may refer to, or null
 * @param parentColumns the columns that they may refer to
 * @param likely whether it may stand in the rule book until somebody decides otherwise: it changes no deletion
 * @param reason what it was seen by, or what is to be decided
 */
public record Proposal(
        Kind kind,
        TableName table,
        List<String> columns,
        @Nullable TableName parent,
        List<String> parentColumns,
        boolean likely,
        String reason) {

    /** What could be said. */
    public enum Kind {
        /** How a row is called. */
        LABEL("label"),
        /** A date or time by which rows are seen to be deleted. */
        DATE_MARKER("date-marker"),
        /** A flag by which rows are seen to be deleted. */
        FLAG_MARKER("flag-marker"),
        /** Rows that are versions of one another. */
        VERSIONS("versions"),
        /** Columns whose values the audit history had better not tell. */
        PERSONAL("personal"),
        /** A relation that the database does not know. */
        RELATION("relation"),
        /** A table whose rows nothing tells apart. */
        NO_KEY("no-key"),
        /** A column that most tables have, such as a tenant's. */
        SHARED_COLUMN("shared-column");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        /** The written form, such as {@code no-key}. */
        public String word() {
            return word;
        }
    }

    public Proposal {
        Arguments.notNull(kind, "kind");
        Arguments.notNull(table, "table");
        columns = List.copyOf(Arguments.noneNull(columns, "columns"));
        parentColumns = List.copyOf(Arguments.noneNull(parentColumns, "parentColumns"));
        Arguments.notNull(reason, "reason");
    }
}
