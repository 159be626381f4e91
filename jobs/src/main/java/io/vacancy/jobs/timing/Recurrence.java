// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.timing;

import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.schedule.CronSchedule;
import com.github.kagkarlsson.scheduler.task.schedule.CronStyle;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.Arrays;
import java.util.Optional;

/** When a job is done again and again. */
public sealed interface Recurrence {

    /** The next time after this one; empty if there is none. */
    Optional<Instant> after(Instant time);

    /** The written form, as {@link #read} reads it. */
    String written();

    /**
     * Every day at a time of day. Where a day has no such time, since clocks are put forward, it is as much later as they
     * are; where a day has it twice, it is the first of them.
     */
    record Daily(LocalTime at, ZoneId zone) implements Recurrence {
        @Override
        public Optional<Instant> after(Instant time) {
            ZonedDateTime next = time.atZone(zone).toLocalDate().atTime(at).atZone(zone);
            for (int day = 1; !next.toInstant().isAfter(time); day++) {
                next = time.atZone(zone).toLocalDate().plusDays(day).atTime(at).atZone(zone);
            }
            return Optional.of(next.toInstant());
        }

        @Override
        public String written() {
            return at + " " + zone;
        }
    }

    /** So long after the end of the one before. */
    record FixedDelay(Duration delay) implements Recurrence {
        public FixedDelay {
            if (delay.isZero() || delay.isNegative()) {
                throw new MisuseException("A delay must be more than nothing, not " + delay + ".");
            }
        }

        @Override
        public Optional<Instant> after(Instant time) {
            return Optional.of(time.plus(delay));
        }

        @Override
        public String written() {
            return delay.toString();
        }
    }

    /** By the five fields of crontab (POSIX): minute, hour, day of the month, month, day of the week. */
    record Cron(String fields, ZoneId zone) implements Recurrence {
        public Cron {
            schedule(fields, zone);
        }

        private static CronSchedule schedule(String fields, ZoneId zone) {
            try {
                return new CronSchedule(fields, zone, CronStyle.UNIX);
            } catch (IllegalArgumentException wrong) {
                throw new MisuseException(
                        "\"" + fields + "\" is not a time table: " + wrong.getMessage(),
                        "Give minute, hour, day of the month, month and day of the week, such as \"30 2 * * 1-5\".");
            }
        }

        @Override
        public Optional<Instant> after(Instant time) {
            Instant next = schedule(fields, zone).getNextExecutionTime(ExecutionComplete.simulatedSuccess(time));
            return next.equals(CronSchedule.NEVER) ? Optional.empty() : Optional.of(next);
        }

        @Override
        public String written() {
            return fields + " " + zone;
        }
    }

    /**
     * Reads {@code 03:00} (every day), {@code PT6H} (so long after the last end) or five fields of crontab; behind them a
     * zone such as {@code Europe/Oslo}.
     *
     * @param usual the zone where none is written
     * @throws MisuseException if it is none of these
     */
    static Recurrence read(String written, ZoneId usual) {
        Arguments.notNull(usual, "usual");
        String[] words = Arguments.notNull(written, "written").strip().split("\\s+");
        try {
            if (words.length <= 2 && words[0].matches("\\d{1,2}:\\d\\d(:\\d\\d)?")) {
                String time = words[0].indexOf(':') == 1 ? "0" + words[0] : words[0];
                return new Daily(LocalTime.parse(time), words.length == 2 ? ZoneId.of(words[1]) : usual);
            }
            if (words.length == 1 && words[0].startsWith("P")) {
                return new FixedDelay(Duration.parse(words[0]));
            }
            if (words.length == 5 || words.length == 6) {
                String fields = String.join(" ", Arrays.copyOf(words, 5));
                return new Cron(fields, words.length == 6 ? ZoneId.of(words[5]) : usual);
            }
        } catch (DateTimeException wrong) {
            throw notRead(written);
        }
        throw notRead(written);
    }

    private static MisuseException notRead(String written) {
        return new MisuseException(
                "\"" + written + "\" does not say when something is done again.",
                "Give a time of day such as 03:00, a duration such as PT6H, or the five fields of crontab, and behind"
                        + " them a zone such as Europe/Oslo.");
    }
}
