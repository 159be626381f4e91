package io.vacancy.jdbc.session;

/** Rows changed between being found and being removed. Caught inside the store and told as an ending. */
public final class Slipped extends RuntimeException {

    public Slipped(String detail) {
        super(detail);
    }
}
