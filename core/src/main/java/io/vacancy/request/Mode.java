package io.vacancy.request;

/** How rows go. */
public enum Mode {
    /** Rows are removed. */
    ERASE("erase"),
    /** Rows are marked and stay. */
    SOFT_DELETE("soft-delete");

    private final String word;

    Mode(String word) {
        this.word = word;
    }

    /** The written form: {@code erase} or {@code soft-delete}. */
    public String word() {
        return word;
    }
}
