// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.time.Period;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * How long something is kept before it may go for good.
 *
 * @param kept whether images are kept at all
 * @param images how long images are kept; null for as long as nobody purges them
 * @param softDeleted how long rows that are marked as deleted stay; null for as long as nobody erases them
 */
public record Retention(
        boolean kept, @Nullable Period images, @Nullable Period softDeleted) {

    /** Everything is kept until somebody says otherwise. */
    public static final Retention UNLIMITED = new Retention(true, null, null);

    private static final Pattern PERIOD = Pattern.compile("([0-9]{1,5}) +(day|week|month|year)s?");

    public Retention {
        if ((images != null && images.isNegative()) || (softDeleted != null && softDeleted.isNegative())) {
            throw new MisuseException("Nothing is kept for a negative time.");
        }
    }

    /** The same without images. */
    public Retention withoutImages() {
        return new Retention(false, null, softDeleted);
    }

    /** The same with images for so long. */
    public Retention images(Period time) {
        Arguments.notNull(time, "time");
        return new Retention(true, time, softDeleted);
    }

    /** The same with rows that are marked as deleted staying for so long. */
    public Retention softDeleted(Period time) {
        Arguments.notNull(time, "time");
        return new Retention(kept, images, time);
    }

    /** Until when an image that is made now is kept; null without a limit. */
    public @Nullable ZonedDateTime imagesUntil(ZonedDateTime now) {
        Arguments.notNull(now, "now");
        return images == null ? null : now.plus(images);
    }

    /**
     * Reads {@code 30 days}, {@code 6 weeks}, {@code 3 months} or {@code 7 years}.
     *
     * @throws MisuseException if it is anything else
     */
    public static Period period(String written) {
        Arguments.notNull(written, "written");
        Matcher parts = PERIOD.matcher(written.strip().toLowerCase(Locale.ROOT));
        if (!parts.matches()) {
            throw new MisuseException(
                    "\"" + written + "\" is no length of time.", "Write 30 days, 6 weeks, 3 months or 7 years.");
        }
        int number = Integer.parseInt(parts.group(1));
        return switch (parts.group(2)) {
            case "day" -> Period.ofDays(number);
            case "week" -> Period.ofWeeks(number);
            case "month" -> Period.ofMonths(number);
            default -> Period.ofYears(number);
        };
    }

    /** As people read it: "30 days", "7 years". */
    public static String written(Period time) {
        Arguments.notNull(time, "time");
        List<String> parts = new ArrayList<>();
        part(time.getYears(), "year", parts);
        part(time.getMonths(), "month", parts);
        part(time.getDays(), "day", parts);
        return parts.isEmpty() ? "no time" : String.join(" and ", parts);
    }

    private static void part(int number, String unit, List<String> parts) {
        if (number != 0) {
            parts.add(number + " " + unit + (number == 1 ? "" : "s"));
        }
    }
}
