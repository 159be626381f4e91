// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.timing;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.time.DateTimeException;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.EnumSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;

/**
 * The hours in which a job may work, such as the nights. A batch that has begun is ended.
 *
 * @param from when it opens
 * @param to when it closes; on the next day if it is not after {@code from}
 * @param days on which it opens
 * @param zone in which that is meant; where clocks are put forward or back, the window is that much shorter or longer
 */
public record Window(LocalTime from, LocalTime to, Set<DayOfWeek> days, ZoneId zone) {

    public Window {
        if (days.isEmpty()) {
            throw new MisuseException("A window that opens on no day never opens.", "Name a day, or leave days out.");
        }
        days = Set.copyOf(days);
    }

    /** Every day between two times of the day. */
    public static Window daily(LocalTime from, LocalTime to, ZoneId zone) {
        return new Window(from, to, EnumSet.allOf(DayOfWeek.class), zone);
    }

    /** Whether it is open. */
    public boolean open(Instant now) {
        return !opens(now).isAfter(now);
    }

    /** When it opens next; the same time if it is open. */
    public Instant opens(Instant now) {
        LocalDate today = now.atZone(zone).toLocalDate();
        for (LocalDate day = today.minusDays(1); ; day = day.plusDays(1)) {
            if (days.contains(day.getDayOfWeek())) {
                Instant begin = day.atTime(from).atZone(zone).toInstant();
                Instant end = (to.isAfter(from) ? day : day.plusDays(1))
                        .atTime(to)
                        .atZone(zone)
                        .toInstant();
                if (now.isBefore(end)) {
                    return begin.isAfter(now) ? begin : now;
                }
            }
        }
    }

    /** The written form, as {@link #read} reads it. */
    public String written() {
        List<DayOfWeek> inOrder = days.stream().sorted().toList();
        String some = inOrder.size() == 7
                ? ""
                : String.join(
                                ",",
                                inOrder.stream()
                                        .map(day -> day.name().substring(0, 3).toLowerCase(Locale.ROOT))
                                        .toList())
                        + " ";
        return some + from + "-" + to + " " + zone;
    }

    /**
     * Reads {@code 22:00-05:30}, before it days such as {@code mon,tue}, behind it a zone.
     *
     * @param usual the zone where none is written
     * @throws MisuseException if it is no window
     */
    public static Window read(String written, ZoneId usual) {
        Arguments.notNull(written, "written");
        Arguments.notNull(usual, "usual");
        try {
            List<String> words = List.of(written.strip().split("\\s+"));
            boolean someDays = words.get(0).matches("[A-Za-z,]+");
            String[] times = words.get(someDays ? 1 : 0).split("-");
            List<String> rest = words.subList(someDays ? 2 : 1, words.size());
            if (times.length == 2 && rest.size() <= 1) {
                return new Window(
                        LocalTime.parse(times[0]),
                        LocalTime.parse(times[1]),
                        someDays ? days(words.get(0)) : EnumSet.allOf(DayOfWeek.class),
                        rest.isEmpty() ? usual : ZoneId.of(rest.get(0)));
            }
        } catch (DateTimeException | IndexOutOfBoundsException wrong) {
            throw notRead(written);
        }
        throw notRead(written);
    }

    private static Set<DayOfWeek> days(String written) {
        Set<DayOfWeek> days = EnumSet.noneOf(DayOfWeek.class);
        for (String word : written.split(",")) {
            days.add(Arrays.stream(DayOfWeek.values())
                    .filter(day -> word.length() >= 2 && day.name().startsWith(word.toUpperCase(Locale.ROOT)))
                    .findFirst()
                    .orElseThrow(() -> new DateTimeException(word)));
        }
        return days;
    }

    private static MisuseException notRead(String written) {
        return new MisuseException(
                "\"" + written + "\" is not a window of time.",
                "Give two times of the day such as 22:00-05:30, before them days such as sat,sun, and behind them a zone"
                        + " such as Europe/Oslo.");
    }
}
