package io.vacancy.request;

/** How rows go, or come back. */
public enum Mode {
    /** Rows are removed. */
    ERASE("erase"),
    /** Rows are marked and stay. */
    SOFT_DELETE("soft-delete"),
    /** Rows that are marked are active again. */
    RESTORE("restore"),
    /** A row ends, and a successor takes its place. */
    REPLACE("replace"),
    /** Images of rows that went are removed for good. */
    PURGE("purge");

    private final String word;

    Mode(String word) {
        this.word = word;
    }

    /** The written form: {@code erase}, {@code soft-delete} and so on. */
    public String word() {
        return word;
    }
}
