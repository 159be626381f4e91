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
    /** What is personal in them is emptied or replaced, and they stay. */
    BLANK("blank"),
    /** They stay as they are, for a reason, though the person whom they belong to is forgotten. */
    KEEP("keep"),
    /** Columns that were blanked hold again what they held before. */
    PUT_BACK("put-back"),
    /** They go with their table, or a value of each goes with its column. */
    DROP("drop"),
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
