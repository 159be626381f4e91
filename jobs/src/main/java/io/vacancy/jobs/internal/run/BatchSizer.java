// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.jobs.pace.BatchSize;
import java.time.Duration;

/** Finds how many selected rows a batch takes so that it takes the time that it should. One thread only. */
final class BatchSizer {

    /** To begin with: enough to measure, and too few to disturb. */
    private static final int FIRST = 10;

    /** A batch that was fast by chance is followed by one that is this much larger at most. */
    private static final double GROWTH = 4;

    private int size;

    BatchSizer(int known) {
        size = known == 0 ? FIRST : known;
    }

    int next(BatchSize settings) {
        return Math.max(1, Math.min(size, settings.mostSelected()));
    }

    /** A batch of so many rows was committed after this time. */
    void took(int rows, Duration time, BatchSize settings) {
        double factor = (double) settings.timeGoal().toNanos() / Math.max(1, time.toNanos());
        double to = rows * Math.min(GROWTH, Math.max(1 / GROWTH, factor));
        // The rest of a chunk says nothing of what a larger batch would take.
        if (to > size || rows >= size) {
            size = (int) Math.max(1, Math.min(settings.mostSelected(), to));
        }
    }

    /** A batch of so many rows was too much, or met others. */
    void tooLarge(int rows) {
        size = Math.max(1, rows / 2);
    }

    int size() {
        return size;
    }
}
