// SPDX-License-Identifier: Apache-2.0
package io.vacancy.advice;

import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/**
 * Something about the database that is worth mending. It stops nothing, and nothing is done about it unless
 * somebody does.
 *
 * @param relation the relation that it is about, or null
 * @param statement SQL that would mend it, without a semicolon, or null where there is none; never run
 */
public record Advice(
        Kind kind,
        TableName table,
        @Nullable String relation,
        String message,
        @Nullable String statement) {

    /** What it is about. */
    public enum Kind {
        /** Child rows have to be looked for in the whole table. */
        NO_INDEX("no-index"),
        /** Rows of a table cannot be soft-deleted, though those they depend on can be. */
        NO_MARKER("no-marker"),
        /** A soft-deleted row keeps others from having its value. */
        VALUE_HELD("value-held"),
        /** Active rows depend on rows that are soft-deleted. */
        ACTIVE_CHILDREN("active-children"),
        /** Rows whose flag says neither. */
        NULL_FLAG("null-flag");

        private final String word;

        Kind(String word) {
            this.word = word;
        }

        /** The written form, such as {@code no-index}. */
        public String word() {
            return word;
        }
    }
}
