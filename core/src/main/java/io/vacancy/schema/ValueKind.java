// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.math.BigDecimal;
import java.math.BigInteger;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.Locale;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * The kinds of value that columns hold, each with the one Java class that stands for it everywhere in
 * Vacancy, and with the reading of other Java values and of text from a form or a URL.
 */
public enum ValueKind {
    /** A whole number: {@link BigInteger} beyond 64 bits, else {@link Long}. */
    INTEGER("a whole number, such as 17") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof Byte || given instanceof Short || given instanceof Integer) {
                return ((Number) given).longValue();
            }
            if (given instanceof BigInteger big) {
                return fit(big);
            }
            if (given instanceof BigDecimal decimal && written(decimal)) {
                return decimal.stripTrailingZeros().scale() <= 0 ? fit(decimal.toBigInteger()) : null;
            }
            // "+17" and " 17" are what forms send; "17.0" and "1e3" are no whole numbers to a reader.
            return given instanceof String text && text.strip().matches("[+-]?[0-9]{1,100}")
                    ? fit(new BigInteger(text.strip()))
                    : null;
        }

        private Object fit(BigInteger big) {
            return big.bitLength() < Long.SIZE ? (Object) big.longValue() : big;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof Long;
        }
    },
    /** An exact number: {@link BigDecimal}. */
    DECIMAL("a number, such as 12.50") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof Byte || given instanceof Short || given instanceof Integer || given instanceof Long) {
                return BigDecimal.valueOf(((Number) given).longValue());
            }
            if (given instanceof BigInteger big) {
                return new BigDecimal(big);
            }
            if (given instanceof Double || given instanceof Float) {
                return new BigDecimal(given.toString());
            }
            BigDecimal decimal =
                    given instanceof String text && text.length() <= LONGEST ? new BigDecimal(text.strip()) : null;
            return decimal != null && written(decimal) ? decimal : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof BigDecimal;
        }
    },
    /** A floating-point number: {@link Double}. */
    FLOATING("a number, such as 0.25") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof Number number) {
                return number.doubleValue();
            }
            return given instanceof String text && text.length() <= LONGEST ? Double.valueOf(text.strip()) : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof Double;
        }
    },
    /** Text: {@link String}. */
    TEXT("text") {
        @Override
        @Nullable
        Object readOther(Object given) {
            return given instanceof Number
                            || given instanceof UUID
                            || given instanceof Character
                            || given instanceof Enum
                    ? given.toString()
                    : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof String;
        }
    },
    /** A truth value: {@link Boolean}. */
    BOOLEAN("true or false") {
        @Override
        @Nullable
        Object readOther(Object given) {
            return switch (given.toString().strip().toLowerCase(Locale.ROOT)) {
                case "true", "1" -> true;
                case "false", "0" -> false;
                default -> null;
            };
        }

        @Override
        boolean holds(Object value) {
            return value instanceof Boolean;
        }
    },
    /** A calendar date: {@link LocalDate}. */
    DATE("a date, such as 2026-05-01") {
        @Override
        @Nullable
        Object readOther(Object given) {
            return given instanceof String text && text.length() <= LONGEST ? LocalDate.parse(text.strip()) : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof LocalDate;
        }
    },
    /** A time of day: {@link LocalTime}. */
    TIME("a time of day, such as 14:30:00") {
        @Override
        @Nullable
        Object readOther(Object given) {
            return given instanceof String text && text.length() <= LONGEST ? LocalTime.parse(text.strip()) : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof LocalTime;
        }
    },
    /** A date with a time of day and no zone: {@link LocalDateTime}. */
    TIMESTAMP("a date and time, such as 2026-05-01T14:30:00") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof LocalDate date) {
                return date.atStartOfDay();
            }
            if (!(given instanceof String text) || text.length() > LONGEST) {
                return null;
            }
            String iso = text.strip().replace(' ', 'T');
            return iso.indexOf('T') < 0 ? LocalDate.parse(iso).atStartOfDay() : LocalDateTime.parse(iso);
        }

        @Override
        boolean holds(Object value) {
            return value instanceof LocalDateTime;
        }
    },
    /** A point in time: {@link OffsetDateTime}. */
    INSTANT("a date and time with its offset, such as 2026-05-01T14:30:00Z") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof Instant instant) {
                return instant.atOffset(ZoneOffset.UTC);
            }
            return given instanceof String text && text.length() <= LONGEST
                    ? OffsetDateTime.parse(text.strip().replace(' ', 'T'))
                    : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof OffsetDateTime;
        }
    },
    /** A universally unique identifier: {@link UUID}. */
    UUID("a UUID, such as 123e4567-e89b-12d3-a456-426614174000") {
        @Override
        @Nullable
        Object readOther(Object given) {
            // java.util.UUID also reads "1-2-3-4-5", which nobody means as a key.
            return given instanceof String text && text.strip().length() == 36
                    ? java.util.UUID.fromString(text.strip())
                    : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof java.util.UUID;
        }
    },
    /** Bytes: {@link Binary}; as text, base64. */
    BINARY("bytes in base64") {
        @Override
        @Nullable
        Object readOther(Object given) {
            if (given instanceof byte[] bytes) {
                return Binary.of(bytes);
            }
            return given instanceof String text ? Binary.ofBase64(text.strip()) : null;
        }

        @Override
        boolean holds(Object value) {
            return value instanceof Binary;
        }
    },
    /** A type of the engine's own, read and written as its text: {@link String}. */
    OTHER("the type's own text form") {
        @Override
        @Nullable
        Object readOther(Object given) {
            return given.toString();
        }

        @Override
        boolean holds(Object value) {
            return value instanceof String;
        }
    };

    /** The most characters of a number, a date or a time. */
    private static final int LONGEST = 200;

    private static final int MOST_DIGITS = 2_000;

    /** Whether a number can be written out: 1e9000000 is short, and as an integer fills the memory. */
    private static boolean written(BigDecimal number) {
        return Math.abs((long) number.scale()) <= MOST_DIGITS;
    }

    private final String example;

    ValueKind(String example) {
        this.example = example;
    }

    /** What a value of this kind looks like, for messages: "a whole number, such as 17". */
    public String example() {
        return example;
    }

    /** Whether values of both kinds can be equal: numbers among one another, dates and times among one another. */
    public boolean comparableWith(ValueKind other) {
        Arguments.notNull(other, "other");
        return this == other
                || this == OTHER
                || other == OTHER
                || (numeric() && other.numeric())
                || (dated() && other.dated());
    }

    private boolean numeric() {
        return this == INTEGER || this == DECIMAL || this == FLOATING;
    }

    private boolean dated() {
        return this == DATE || this == TIMESTAMP || this == INSTANT;
    }

    /**
     * Reads a Java value or a text as a value of this kind.
     *
     * @return the value in the class of this kind, or null if the given one cannot be read as one
     */
    public @Nullable Object read(Object given) {
        if (holds(given)) {
            return given;
        }
        try {
            return readOther(given);
        } catch (IllegalArgumentException | DateTimeException notOfThisKind) {
            return null;
        }
    }

    abstract @Nullable Object readOther(Object given);

    abstract boolean holds(Object value);
}
