// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.Locale;

/** Points in time as all outputs for people have them: in this machine's zone, which stands with them. */
final class LocalTime {

    private static final DateTimeFormatter SECONDS = form("uuuu-MM-dd HH:mm:ss z");
    private static final DateTimeFormatter DAY = form("uuuu-MM-dd");

    private static final DateTimeFormatter TIME = form("HH:mm:ss");
    private static final DateTimeFormatter ZONE = form("z");

    private LocalTime() {}

    private static DateTimeFormatter form(String pattern) {
        return DateTimeFormatter.ofPattern(pattern, Locale.ROOT);
    }

    /** To the second. */
    static String seconds(Instant time) {
        return SECONDS.format(time.atZone(ZoneId.systemDefault()));
    }

    /** The time of the day to the second, where the day and the zone stand above it. */
    static String timeOfDay(Instant time) {
        return TIME.format(time.atZone(ZoneId.systemDefault()));
    }

    /** The zone of the times, as it is called at that time of the year. */
    static String zone(Instant time) {
        return ZONE.format(time.atZone(ZoneId.systemDefault()));
    }

    /** The day alone. */
    static String day(Instant time) {
        return DAY.format(time.atZone(ZoneId.systemDefault()));
    }
}
