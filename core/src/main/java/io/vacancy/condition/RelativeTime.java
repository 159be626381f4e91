// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.time.ZonedDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;

/**
 * A date or time that is worked out anew whenever a condition is used: today or now, by the clock of the
 * {@link io.vacancy.Vacancy} that uses it, and so much before or after.
 *
 * @param date whether it is a day, else a point in time
 * @param amount how many units later; negative for earlier
 */
public record RelativeTime(boolean date, long amount, ChronoUnit unit) {

    /** The units that a moment may be moved by. */
    public static final List<ChronoUnit> UNITS = List.of(
            ChronoUnit.YEARS,
            ChronoUnit.MONTHS,
            ChronoUnit.DAYS,
            ChronoUnit.HOURS,
            ChronoUnit.MINUTES,
            ChronoUnit.SECONDS);

    public RelativeTime {
        Arguments.notNull(unit, "unit");
        if (!UNITS.contains(unit) || (date && !unit.isDateBased())) {
            throw new MisuseException((date ? "A day" : "A time") + " cannot be moved by " + unit + ".");
        }
    }

    public static RelativeTime today() {
        return new RelativeTime(true, 0, ChronoUnit.DAYS);
    }

    public static RelativeTime now() {
        return new RelativeTime(false, 0, ChronoUnit.DAYS);
    }

    /** So much earlier; to be said once. */
    public RelativeTime minus(long earlier, ChronoUnit by) {
        Arguments.notNull(by, "by");
        return plus(Math.negateExact(earlier), by);
    }

    /** So much later; to be said once. */
    public RelativeTime plus(long later, ChronoUnit by) {
        Arguments.notNull(by, "by");
        if (amount != 0) {
            throw new MisuseException(this + " has been moved already.");
        }
        return new RelativeTime(date, later, by);
    }

    void checkedFor(Column column, Table table) {
        ValueKind kind = column.type().kind();
        boolean fits = kind == ValueKind.TIMESTAMP || kind == ValueKind.INSTANT || (date && kind == ValueKind.DATE);
        if (!fits) {
            throw new MisuseException(
                    this + " cannot be a value of " + table + "." + column.name() + ", which holds "
                            + column.type().declared() + ".",
                    kind == ValueKind.DATE ? "Use CURRENT_DATE." : null);
        }
    }

    /** The moment that is now in a column of this kind: the day for a date. */
    public static RelativeTime nowIn(Column column) {
        return column.type().kind() == ValueKind.DATE ? today() : now();
    }

    static void checkTime(Column column, Table table) {
        (column.type().kind() == ValueKind.DATE ? today() : now()).checkedFor(column, table);
    }

    /**
     * The value for a column of this kind.
     *
     * @param kind a date or a time
     */
    public Object at(ZonedDateTime now, ValueKind kind) {
        Arguments.notNull(now, "now");
        Arguments.notNull(kind, "kind");
        ZonedDateTime moment = (date ? now.truncatedTo(ChronoUnit.DAYS) : now).plus(amount, unit);
        return switch (kind) {
            case DATE -> moment.toLocalDate();
            case TIMESTAMP -> moment.toLocalDateTime();
            case INSTANT -> moment.toOffsetDateTime();
            default -> throw new IllegalStateException(this + " for " + kind);
        };
    }

    /** As SQL writes it: {@code CURRENT_DATE - INTERVAL '30' DAY}. */
    @Override
    public String toString() {
        String word = unit.name().substring(0, unit.name().length() - 1);
        return (date ? "CURRENT_DATE" : "CURRENT_TIMESTAMP")
                + (amount == 0 ? "" : (amount < 0 ? " - " : " + ") + "INTERVAL '" + Math.abs(amount) + "' " + word);
    }
}
