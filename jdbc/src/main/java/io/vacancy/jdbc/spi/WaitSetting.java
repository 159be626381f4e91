// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.time.Duration;

/**
 * The setting that limits how long a statement waits for rows that somebody else holds.
 *
 * @param read a query for its present value
 * @param write a statement that sets it, with the value in the place of %s
 * @param unit what it is counted in; at least one unit is waited
 */
public record WaitSetting(String read, String write, Duration unit) {

    /** The value for a duration, as the statement wants it. */
    public String valueOf(Duration wait) {
        return Long.toString(Math.max(1, wait.dividedBy(unit)));
    }

    /** The statement that sets a value. */
    public String set(String value) {
        return String.format(write, value);
    }
}
