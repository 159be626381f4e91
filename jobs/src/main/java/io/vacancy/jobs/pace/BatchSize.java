// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.pace;

import io.vacancy.failure.MisuseException;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * How large the transactions of a job are.
 *
 * @param timeGoal how long one should take; more or fewer rows are taken until it does
 * @param mostRows how many rows one may remove or change in all tables together, or null for as many as the database takes
 * @param mostBytes how many bytes the values of these rows may have, as texts, or null for as many as the database takes;
 *     told from some of the rows when a node begins with the job
 * @param mostSelected how many of the selected rows one takes at most
 */
public record BatchSize(
        Duration timeGoal,
        @Nullable Long mostRows,
        @Nullable Long mostBytes,
        int mostSelected) {

    /** Half a second, and what the database takes. */
    public static final BatchSize USUAL = new BatchSize(Duration.ofMillis(500), null, null, 10_000);

    private static final int MOST = 100_000;

    public BatchSize {
        if (timeGoal.isZero() || timeGoal.isNegative()) {
            throw new MisuseException("A batch must be given some time, not " + timeGoal + ".");
        }
        if (mostRows != null && mostRows < 1) {
            throw new MisuseException("A batch must be allowed 1 or more rows, not " + mostRows + ".");
        }
        if (mostBytes != null && mostBytes < 1) {
            throw new MisuseException("A batch must be allowed 1 or more bytes, not " + mostBytes + ".");
        }
        if (mostSelected < 1 || mostSelected > MOST) {
            throw new MisuseException(
                    "A batch must take from 1 to " + MOST + " selected rows, not " + mostSelected + ".");
        }
    }

    /** The same for another goal. */
    public BatchSize taking(Duration time) {
        return new BatchSize(time, mostRows, mostBytes, mostSelected);
    }

    /** The same with so many rows in all tables at most. */
    public BatchSize atMost(long rows) {
        return new BatchSize(timeGoal, rows, mostBytes, mostSelected);
    }

    /** The same with so many bytes at most, such as a cluster takes in one transaction; each row is allowed for itself. */
    public BatchSize atMostBytes(long bytes) {
        return new BatchSize(timeGoal, mostRows, bytes, mostSelected);
    }

    /** The same with so many selected rows at most. */
    public BatchSize selecting(int rows) {
        return new BatchSize(timeGoal, mostRows, mostBytes, rows);
    }
}
