// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.temporal.ChronoUnit;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * How a column keeps dates or times whose declared type is of texts or numbers, as SQLite has no other. Values are
 * compared as they are kept, so that all of a column must be kept in one way.
 */
public enum TimeEncoding {
    /** A day as a text: {@code 2026-05-01}. */
    ISO_DATE(ValueKind.DATE, ValueKind.TEXT) {
        @Override
        Object encoded(Object time) {
            return time.toString();
        }

        @Override
        Object decode(Object stored) {
            return LocalDate.parse(stored.toString());
        }
    },
    /** A time without a zone as a text of ISO 8601: {@code 2026-05-01T14:30:00}. */
    ISO_TIMESTAMP(ValueKind.TIMESTAMP, ValueKind.TEXT) {
        @Override
        Object encoded(Object time) {
            return written(time, 'T');
        }

        @Override
        Object decode(Object stored) {
            return LocalDateTime.parse(stored.toString());
        }
    },
    /** The same as SQL writes it: {@code 2026-05-01 14:30:00}. */
    SQL_TIMESTAMP(ValueKind.TIMESTAMP, ValueKind.TEXT) {
        @Override
        Object encoded(Object time) {
            return written(time, ' ');
        }

        @Override
        Object decode(Object stored) {
            return LocalDateTime.parse(stored.toString().replace(' ', 'T'));
        }
    },
    /** A point in time as whole seconds since 1970-01-01T00:00:00Z. */
    EPOCH_SECONDS(ValueKind.INSTANT, ValueKind.INTEGER) {
        @Override
        Object encoded(Object time) {
            return ((OffsetDateTime) time).toEpochSecond();
        }

        @Override
        Object decode(Object stored) {
            return Instant.ofEpochSecond((Long) stored).atOffset(ZoneOffset.UTC);
        }
    },
    /** The same in milliseconds. */
    EPOCH_MILLISECONDS(ValueKind.INSTANT, ValueKind.INTEGER) {
        @Override
        Object encoded(Object time) {
            return ((OffsetDateTime) time).toInstant().toEpochMilli();
        }

        @Override
        Object decode(Object stored) {
            return Instant.ofEpochMilli((Long) stored).atOffset(ZoneOffset.UTC);
        }
    },
    /** A point in time as the days since noon of 24 November 4714 BC at Greenwich, to the millisecond. */
    JULIAN_DAY(ValueKind.INSTANT, ValueKind.FLOATING) {
        @Override
        Object encoded(Object time) {
            return (((OffsetDateTime) time).toInstant().toEpochMilli() + JULIAN_EPOCH) / DAY;
        }

        @Override
        Object decode(Object stored) {
            return Instant.ofEpochMilli(Math.round((Double) stored * DAY) - JULIAN_EPOCH)
                    .atOffset(ZoneOffset.UTC);
        }
    };

    private static final double DAY = 86_400_000;
    /** 1970-01-01T00:00:00Z, the Julian day 2440587.5, in milliseconds. */
    private static final long JULIAN_EPOCH = 210_866_760_000_000L;

    private final ValueKind kind;
    private final ValueKind storedKind;

    TimeEncoding(ValueKind kind, ValueKind storedKind) {
        this.kind = kind;
        this.storedKind = storedKind;
    }

    /** What values of such a column are to Vacancy: a date or a time. */
    public ValueKind kind() {
        return kind;
    }

    /** What they are to the database. */
    public ValueKind storedKind() {
        return storedKind;
    }

    /** A date or time as the column keeps it. */
    public Object encode(Object time) {
        Arguments.notNull(time, "time");
        return encoded(time);
    }

    /** The date or time of a stored value; the value itself where it is not kept in this way. */
    public Object decoded(Object stored) {
        Arguments.notNull(stored, "stored");
        Object plain = storedKind.read(stored);
        try {
            Object time = plain == null ? null : decode(plain);
            // Only what would be written back the same is told in another form.
            return time != null && encoded(time).equals(plain) ? time : stored;
        } catch (DateTimeException | ArithmeticException notOfThisKind) {
            return stored;
        }
    }

    /** Its name in a rule book: {@code epoch-seconds}. */
    public String word() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    abstract Object encoded(Object time);

    abstract @Nullable Object decode(Object stored);

    private static String written(Object time, char between) {
        LocalDateTime milliseconds = ((LocalDateTime) time).truncatedTo(ChronoUnit.MILLIS);
        String pattern = "uuuu-MM-dd'" + between + "'HH:mm:ss" + (milliseconds.getNano() == 0 ? "" : ".SSS");
        return DateTimeFormatter.ofPattern(pattern, Locale.ROOT).format(milliseconds);
    }
}
