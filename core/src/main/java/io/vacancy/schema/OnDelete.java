// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

/** What the schema itself declares for the child rows of a relation. */
public enum OnDelete {
    NO_ACTION,
    RESTRICT,
    CASCADE,
    SET_NULL,
    SET_DEFAULT;

    /** Whether the engine would change child rows by itself when their parent is deleted. */
    public boolean acts() {
        return this == CASCADE || this == SET_NULL || this == SET_DEFAULT;
    }
}
