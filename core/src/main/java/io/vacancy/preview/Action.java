// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

/** What happens to the rows of an effect. */
public enum Action {
    DELETE("delete"),
    SOFT_DELETE("soft-delete"),
    SET_NULL("set-null"),
    REASSIGN("reassign"),
    RESTORE("restore"),
    REPLACE("replace"),
    /** A link gets back what it held before. */
    RELINK("relink"),
    /** Images are removed for good. */
    PURGE("purge");

    private final String word;

    Action(String word) {
        this.word = word;
    }

    /** The written form, such as {@code set-null}. */
    public String word() {
        return word;
    }
}
