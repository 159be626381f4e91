// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.jobs.pace.BatchSize;
import java.time.Duration;

/**
 * How many rows a batch takes, so that it takes as long as it should. The time of a batch is taken for a part that each has
 * and a part for each row, as a line through the latest batches tells (least squares, older ones counting less). Where the
 * first part alone is too long, smaller batches would only make more of it: then a batch takes about twice that.
 */
final class BatchSizer {

    /** To begin with: enough to measure, and too few to disturb. */
    private static final int FIRST = 10;

    /** A batch that was fast by chance is followed by one that is this much larger at most. */
    private static final double GROWTH = 4;

    /** How much a batch counts when the next one comes. */
    private static final double REMEMBERED = 0.8;

    /** Batches must differ so much in size, against their mean, before a line through them tells anything. */
    private static final double SPREAD = 0.3;

    private int size;
    private double weight;
    private double sumRows;
    private double sumNanos;
    private double sumSquares;
    private double sumProducts;
    /** What each batch takes however many rows it has. */
    private double fixed;

    BatchSizer(int known) {
        size = known == 0 ? FIRST : known;
    }

    int next(BatchSize settings) {
        return Math.max(1, Math.min(size, settings.mostSelected()));
    }

    /** A batch of so many rows was committed after this time. */
    void took(int rows, Duration time, BatchSize settings) {
        double nanos = Math.max(1, time.toNanos());
        remember(rows, nanos);
        double perRow = Math.max(1, (sumNanos / weight - fixed) / (sumRows / weight));
        double to = Math.max((settings.timeGoal().toNanos() - fixed) / perRow, fixed / perRow);
        to = Math.max(rows / GROWTH, Math.min(rows * GROWTH, to));
        // The rest of a chunk says nothing of what a larger batch would take.
        if (to > size || rows >= size) {
            size = (int) Math.max(1, Math.min(settings.mostSelected(), Math.round(to)));
        }
    }

    private void remember(int rows, double nanos) {
        weight = weight * REMEMBERED + 1;
        sumRows = sumRows * REMEMBERED + rows;
        sumNanos = sumNanos * REMEMBERED + nanos;
        sumSquares = sumSquares * REMEMBERED + (double) rows * rows;
        sumProducts = sumProducts * REMEMBERED + rows * nanos;
        double mean = sumRows / weight;
        double variance = sumSquares / weight - mean * mean;
        if (variance > SPREAD * SPREAD * mean * mean) {
            double slope = (sumProducts / weight - mean * sumNanos / weight) / variance;
            fixed = Math.max(0, sumNanos / weight - Math.max(0, slope) * mean);
        }
        fixed = Math.min(fixed, sumNanos / weight * 0.95);
    }

    /** A batch of so many rows was too much, or met others. */
    void tooLarge(int rows) {
        size = Math.max(1, rows / 2);
    }

    int size() {
        return size;
    }
}
