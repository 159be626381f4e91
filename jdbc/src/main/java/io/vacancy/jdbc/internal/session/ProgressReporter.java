// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.listener.Progress;
import io.vacancy.listener.Progress.Step;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** Counts rows as they are worked on, and tells it when somebody would begin to wonder. One thread only. */
public final class ProgressReporter {

    private static final long QUIET_NANOS = Duration.ofSeconds(1).toNanos();
    private static final long BETWEEN_NANOS = Duration.ofMillis(200).toNanos();

    private final ExecutionMonitor monitor;
    private final long began = System.nanoTime();
    private long stepBegan = began;
    private long told;
    private Step step = Step.FINDING;
    private @Nullable Long expected;
    private long done;

    ProgressReporter(ExecutionMonitor monitor) {
        this.monitor = monitor;
    }

    /**
     * Begins a kind of step.
     *
     * @param rows how many rows it will be done to, or null while nobody can tell
     */
    public void begin(Step next, @Nullable Long rows) {
        step = next;
        expected = rows;
        done = 0;
        stepBegan = System.nanoTime();
    }

    /** A statement on a table begins, which may take long; told even if the last telling was just now. */
    public void at(TableName table) {
        told = 0;
        did(table, 0);
    }

    /** So many rows more. */
    public void did(TableName table, long rows) {
        done += rows;
        long now = System.nanoTime();
        if (now - began > QUIET_NANOS && now - told > BETWEEN_NANOS) {
            told = now;
            monitor.progress(new Progress(step, table, done, expected, Duration.ofNanos(now - stepBegan)));
        }
    }
}
