// SPDX-License-Identifier: Apache-2.0
package io.vacancy.listener;

import io.vacancy.schema.TableName;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/**
 * How far a deletion or a preview is.
 *
 * @param step what is being done
 * @param table the table it is being done to
 * @param done rows that this kind of step has been done to so far, in all tables
 * @param expected rows that it will have been done to at its end, or null while nobody can tell
 * @param elapsed since this kind of step began
 */
public record Progress(
        Step step, TableName table, long done, @Nullable Long expected, Duration elapsed) {

    /** What is being done to rows. */
    public enum Step {
        FINDING("finding"),
        READING("reading"),
        CHANGING("changing"),
        REMOVING("removing");

        private final String word;

        Step(String word) {
            this.word = word;
        }

        public String word() {
            return word;
        }
    }

    /** Rows a second so far; 0 before the first. */
    public double rate() {
        double seconds = elapsed.toNanos() / 1e9;
        return seconds == 0 ? 0 : done / seconds;
    }

    /** How long the rest will take at this rate; null while nobody can tell. */
    public @Nullable Duration rest() {
        double rate = rate();
        return expected == null || rate == 0
                ? null
                : Duration.ofMillis(Math.max(0, Math.round((expected - done) / rate * 1000)));
    }
}
