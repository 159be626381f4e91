// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.rules.Marker.Date;
import io.vacancy.rules.Marker.EndDate;
import io.vacancy.rules.Marker.Flag;
import io.vacancy.rules.Marker.Kind;
import io.vacancy.rules.Marker.Status;
import io.vacancy.rules.Marker.Versions;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Holds a marker against its table: a column that cannot work is told before any row is marked. */
final class MarkerResolver {

    private static final Set<ValueKind> TIMES = EnumSet.of(ValueKind.DATE, ValueKind.TIMESTAMP, ValueKind.INSTANT);

    private final Table table;

    MarkerResolver(Table table) {
        this.table = table;
    }

    ResolvedMarker fitted(Marker written) {
        if (table.view()) {
            throw new MisuseException(
                    "The view " + table + " cannot have a marker.", "Give it to the table that the view shows.");
        }
        Marker marker = new Marker(
                sign(written.sign()),
                text(written.who()),
                text(written.why()),
                text(written.receipt()),
                written.restoredAt() == null ? null : time(written.restoredAt()).name());
        for (String companion : marker.companions()) {
            if (!table.column(companion).nullable()) {
                throw new MisuseException("Column " + companion + " of " + table
                        + " cannot be NULL, and of an active row there is nothing to keep in it.");
            }
        }
        Condition active = settled(marker.active());
        return new ResolvedMarker(table, marker, active, settled(marker.deleted()));
    }

    private Kind sign(Kind sign) {
        if (sign instanceof Flag flag) {
            Column column = writable(flag.column());
            Flag fitted = new Flag(
                    column.name(), column.read(flag.active(), table.name()), column.read(flag.deleted(), table.name()));
            if (fitted.active().equals(fitted.deleted())) {
                throw new MisuseException("The marker of " + table + " has the same value of " + column.name()
                        + " for active and for soft-deleted rows.");
            }
            defaultIsActive(column, value -> !value.equals(fitted.deleted()));
            return fitted;
        }
        if (sign instanceof Date date) {
            Column column = time(date.column());
            if (!column.nullable()) {
                throw new MisuseException(
                        "Column " + column.name() + " of " + table
                                + " cannot be NULL, so a date in it cannot say that a" + " row is active.",
                        "Use an end date with a far-future value, or let the column be NULL.");
            }
            defaultIsActive(column, value -> false);
            return new Date(column.name());
        }
        if (sign instanceof EndDate end) {
            Column column = time(end.column());
            EndDate fitted = new EndDate(column.name(), column.read(end.whileActive(), table.name()));
            defaultIsActive(column, value -> value.equals(fitted.whileActive()));
            return fitted;
        }
        return sign instanceof Status status ? status(status) : versions((Versions) sign);
    }

    private Status status(Status status) {
        Column column = writable(status.column());
        List<Object> active = status.active().stream()
                .map(value -> column.read(value, table.name()))
                .toList();
        Object deleted = column.read(status.deleted(), table.name());
        if (active.isEmpty() || active.contains(deleted)) {
            throw new MisuseException("The status " + column.name() + " of " + table + " "
                    + (active.isEmpty()
                            ? "has no value for active rows."
                            : "has \"" + deleted + "\" for active and for soft-deleted rows."));
        }
        defaultIsActive(column, active::contains);
        String was = status.was();
        if (was != null) {
            Column before = writable(was);
            if (before.type().kind() != column.type().kind() || !before.nullable()) {
                throw new MisuseException("Column " + before.name() + " of " + table + " cannot keep what "
                        + column.name() + " was: it must hold the same kind of value, and may be NULL.");
            }
            was = before.name();
        }
        return new Status(column.name(), active, deleted, was);
    }

    private Versions versions(Versions versions) {
        List<String> of =
                versions.of().stream().map(name -> table.column(name).name()).toList();
        if (of.isEmpty()) {
            throw new MisuseException("The versions of " + table + " do not say in which columns they agree.");
        }
        String start = time(versions.start()).name();
        Status closing = versions.status();
        if (versions.end() == null && closing == null) {
            throw new MisuseException(
                    "Versions of " + table + " without an end or a closing status cannot be soft-deleted.",
                    "Name the column of either.");
        }
        String end = null;
        if (versions.end() != null) {
            Column column = time(versions.end());
            if (!column.nullable()) {
                throw new MisuseException(
                        "Column " + column.name() + " of " + table + " cannot be NULL, so no version can be open.");
            }
            defaultIsActive(column, value -> false);
            end = column.name();
        }
        return new Versions(of, start, end, closing == null ? null : status(closing));
    }

    private Column writable(String name) {
        Column column = table.column(name);
        if (column.generated()) {
            throw new MisuseException(
                    "Column " + column.name() + " of " + table + " cannot mark rows: the database computes it.");
        }
        return column;
    }

    private Column time(String name) {
        Column column = writable(name);
        if (!TIMES.contains(column.type().kind())) {
            throw new MisuseException(
                    "Column " + column.name() + " of " + table + " holds "
                            + column.type().declared() + ", which is neither a date nor a time.",
                    byEncoding(column));
        }
        return column;
    }

    /** What to say where a column may keep dates after all. */
    private static @Nullable String byEncoding(Column column) {
        return switch (column.type().kind()) {
            case TEXT ->
                "If it keeps them as texts, say how in the rule book: times: {" + column.name() + ": iso-date}.";
            case INTEGER, FLOATING, DECIMAL ->
                "If it keeps them as numbers, say how in the rule book: times: {" + column.name() + ": epoch-seconds}.";
            default -> null;
        };
    }

    private @Nullable String text(@Nullable String name) {
        if (name == null) {
            return null;
        }
        Column column = writable(name);
        if (column.type().kind() != ValueKind.TEXT) {
            throw new MisuseException("Column " + column.name() + " of " + table + " holds "
                    + column.type().declared() + ", no text.");
        }
        return column.name();
    }

    private interface Test {
        boolean of(Object value);
    }

    /** A row that says nothing of the column must not be born deleted. */
    private void defaultIsActive(Column column, Test active) {
        String written = column.byDefault();
        if (written == null
                || written.equalsIgnoreCase("NULL")
                || written.toUpperCase(java.util.Locale.ROOT).startsWith("NULL::")) {
            return;
        }
        // What stands behind the value, such as a cast, is the engine's own.
        String literal = written.startsWith("'") && written.lastIndexOf('\'') > 0
                ? written.substring(1, written.lastIndexOf('\''))
                : written;
        Object value = column.type().kind().read(literal);
        if (value == null ? isTime(column) : !active.of(value)) {
            throw new MisuseException(
                    "Column " + column.name() + " of " + table + " is " + written
                            + " by default, so new rows would be soft-deleted from the start.",
                    "Give it a default that means active.");
        }
    }

    /** A default that is worked out, such as the day, is no value that an active row could have. */
    private static boolean isTime(Column column) {
        return TIMES.contains(column.type().kind());
    }

    /** Now is the day in a column of days. */
    private Condition settled(Condition condition) {
        return today(condition).readFor(table);
    }

    private Condition today(Condition condition) {
        if (condition instanceof Condition.Compare compare && compare.value() instanceof RelativeTime) {
            return new Condition.Compare(
                    compare.column(), compare.comparison(), RelativeTime.nowIn(table.column(compare.column())));
        }
        if (condition instanceof Condition.All all) {
            return new Condition.All(all.parts().stream().map(this::today).toList());
        }
        if (condition instanceof Condition.Any any) {
            return new Condition.Any(any.parts().stream().map(this::today).toList());
        }
        return condition instanceof Condition.Not not ? new Condition.Not(today(not.part())) : condition;
    }
}
