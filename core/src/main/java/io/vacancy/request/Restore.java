package io.vacancy.request;

import io.vacancy.failure.MisuseException;

/**
 * What is to come back: everything that was marked as deleted under one receipt. Rows that no receipt knows come
 * back by {@link Request#restoring()}.
 *
 * @param receipt its identifier
 */
public record Restore(String receipt) {

    public Restore {
        if (receipt.isBlank()) {
            throw new MisuseException("No receipt is named whose rows are to come back.");
        }
    }

    /** What was marked under this receipt. */
    public static Restore of(String receipt) {
        return new Restore(receipt);
    }
}
