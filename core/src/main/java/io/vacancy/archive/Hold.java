// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Keeps something from going for good, whatever rules and retention say, until it is released: what a receipt keeps;
 * or the rows of a table and their images; or one row and its images. Exactly one of receipt and table is given.
 *
 * @param number its number in the database, 0 before it is placed
 * @param key the values of the row's key as texts, in the order of its columns; empty for the whole table
 * @param because why; never empty
 * @param since when it was placed, null before it is
 */
public record Hold(
        long number,
        @Nullable ReceiptId receipt,
        @Nullable String table,
        List<String> key,
        String by,
        String because,
        @Nullable Instant since) {

    public Hold {
        Arguments.noneNull(key, "key");
        key = List.copyOf(key);
        if ((receipt == null) == (table == null) || (table == null && !key.isEmpty())) {
            throw new MisuseException(
                    "A hold is on a receipt, on a table, or on one row of a table.",
                    "Give one of them, and a key only with a table.");
        }
        if (because.isBlank()) {
            throw new MisuseException("A hold says why.", "Give a reason that somebody can read in some years.");
        }
    }

    /** What it is on, in a few words: {@code boat 17}. */
    public String on() {
        return receipt != null
                ? "receipt " + receipt
                : !key.isEmpty() ? table + " " + String.join(", ", key) : "every row of " + table;
    }
}
