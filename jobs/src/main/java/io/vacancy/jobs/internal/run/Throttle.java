// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.jobs.pace.LoadProbe;
import io.vacancy.jobs.pace.Throttling;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Holds a lane back, for as long as its pace or somebody else's load wants. One thread only. */
final class Throttle {

    private final List<LoadProbe> probes;
    private long restUntil = System.nanoTime();

    /** Why it holds back where nobody needs to be told. */
    static final String PACE = "keeps to its pace";

    Throttle(List<LoadProbe> probes) {
        this.probes = probes;
    }

    /** A batch of so many rows took this time: how long to rest follows from it. */
    void took(long rows, Duration time, Throttling pace, int lanes) {
        double seconds = time.toNanos() / 1e9;
        double rest = seconds * (1 / pace.share() - 1);
        Double most = pace.rowsPerSecond();
        if (most != null) {
            rest = Math.max(rest, rows / (most / lanes) - seconds);
        }
        restUntil = System.nanoTime() + (long) (Math.max(0, rest) * 1e9);
    }

    /** Rests at least so long. */
    void rest(Duration time) {
        restUntil = Math.max(restUntil, System.nanoTime() + time.toNanos());
    }

    /** Why it holds back now, or null to go on. */
    @Nullable
    String reason() {
        if (restUntil - System.nanoTime() > 0) {
            return PACE;
        }
        for (LoadProbe probe : probes) {
            try {
                String reason = probe.reasonToWait();
                if (reason != null) {
                    return reason;
                }
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                return "interrupted";
            } catch (Exception failed) {
                return "the load cannot be told: " + failed.getMessage();
            }
        }
        return null;
    }

    /** How long until the next look. */
    long millis() {
        long rest = (restUntil - System.nanoTime()) / 1_000_000;
        return Math.max(1, Math.min(200, rest <= 0 ? 200 : rest));
    }
}
