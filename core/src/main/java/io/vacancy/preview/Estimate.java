// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.internal.argument.Arguments;
import java.time.Duration;
import java.util.List;

/**
 * Roughly what carrying out a preview takes, where that is more than a second: by how long it took under the receipts that are
 * nearest in size, of the same table and operation. It is a guess and no promise: what else the database does, and what of the
 * tables is in memory, nobody knows beforehand.
 *
 * @param time how long, from the first statement to the commit, with waiting for others
 * @param receipts by how many receipts it is told
 * @param rowsLocked how many rows nobody else can change meanwhile
 * @param missingIndexes what slows it down: relations without an index, a sentence each
 */
public record Estimate(Duration time, int receipts, long rowsLocked, List<String> missingIndexes) {

    public Estimate {
        Arguments.notNull(time, "time");
        missingIndexes = List.copyOf(Arguments.noneNull(missingIndexes, "missingIndexes"));
    }

    /** In a sentence: "It takes about 12 seconds, by 3 earlier receipts; 40,000 rows are locked meanwhile." */
    public String message() {
        return "It takes about " + told() + ", by "
                + (receipts == 1 ? "an earlier receipt" : receipts + " earlier receipts") + "; "
                + CountText.rows(rowsLocked) + (rowsLocked == 1 ? " is" : " are") + " locked meanwhile.";
    }

    private String told() {
        long seconds = Math.max(1, Math.round(time.toMillis() / 1000.0));
        if (seconds < 100) {
            return seconds + (seconds == 1 ? " second" : " seconds");
        }
        long minutes = Math.round(seconds / 60.0);
        return minutes < 100 ? minutes + " minutes" : Math.round(minutes / 60.0) + " hours";
    }
}
