// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.pace;

import io.vacancy.failure.MisuseException;
import org.jspecify.annotations.Nullable;

/**
 * How fast a job may work. It can be changed while it runs.
 *
 * @param rowsPerSecond at most so many rows a second in all tables together, or null for as many as it can
 * @param share which share of the time it works, above 0 and up to 1; the rest it leaves to others
 */
public record Throttling(@Nullable Double rowsPerSecond, double share) {

    /** As fast as it can. */
    public static final Throttling FULL = new Throttling(null, 1);

    public Throttling {
        if (rowsPerSecond != null && !(rowsPerSecond > 0)) {
            throw new MisuseException("Rows per second must be above 0, not " + rowsPerSecond + ".");
        }
        if (!(share > 0 && share <= 1)) {
            throw new MisuseException("The share of time must be above 0 and at most 1, not " + share + ".");
        }
    }

    /** At most so many rows a second. */
    public static Throttling rowsPerSecond(double rows) {
        return new Throttling(rows, 1);
    }

    /** Only a share of the time. */
    public static Throttling share(double share) {
        return new Throttling(null, share);
    }
}
