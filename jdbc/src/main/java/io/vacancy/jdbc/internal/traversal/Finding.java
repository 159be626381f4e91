// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

/** What is to hold of rows that are found. */
public enum Finding {
    /** Nothing: others may change them. */
    LOOKED_AT,
    /** They are locked until the transaction ends. */
    LOCKED,
    /**
     * The same, and only their number is told to anybody. Of many on which nothing depends nobody needs the keys then: they are
     * counted, and go by what they were selected by.
     */
    COUNTED;

    public boolean locks() {
        return this != LOOKED_AT;
    }

    /** The same for rows whose keys are needed. */
    Finding kept() {
        return this == COUNTED ? LOCKED : this;
    }
}
