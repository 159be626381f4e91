// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

/** What is done in the end: each kind of {@link Operation}, a deletion being one of the first two. */
public enum OperationKind {
    /** Rows are removed. */
    ERASE("erase"),
    /** Rows are marked and stay. */
    SOFT_DELETE("soft-delete"),
    /** A row ends, and a successor takes its place. */
    REPLACE("replace"),
    /** A row is deleted, and its child rows get another row of the table as their parent. */
    MERGE("merge"),
    /** What is personal in rows is emptied or replaced, and they stay. */
    BLANK("blank"),
    /** A person's row, and what belongs to the person, is erased, blanked or kept. */
    FORGET("forget"),
    /** Rows that are marked are active again, and archived rows are back. */
    RESTORE("restore"),
    /** Archived rows are removed for good. */
    PURGE("purge"),
    /** A table is emptied as a whole. */
    TRUNCATE("truncate"),
    /** A table, or a column of one, is removed from the database itself. */
    DROP("drop"),
    /** Rows whose parent is missing stay and refer to nothing. */
    UNLINK_ORPHANS("unlink-orphans");

    private final String word;

    OperationKind(String word) {
        this.word = word;
    }

    /** The written form: {@code erase}, {@code soft-delete} and so on. */
    public String word() {
        return word;
    }

    /** Whether rows are removed, marked or lose what is in them, so that somebody may miss it. */
    public boolean loses() {
        return deletes() || this == BLANK || this == FORGET || this == DROP;
    }

    /** Whether rows are removed or marked, so that somebody may miss them. */
    public boolean deletes() {
        return this == ERASE || this == SOFT_DELETE || this == TRUNCATE || this == MERGE;
    }
}
