package io.vacancy.jdbc.removal;

/** Rows changed between being found and being removed. Caught inside the store and told as an ending. */
public final class Slipped extends RuntimeException {

    Slipped(String detail) {
        super(detail);
    }
}
