// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How a table says that a row is soft-deleted. A date tells more than a flag: when, and by that which rows are
 * old enough to be gone for good.
 *
 * @param sign the column or columns by which it is seen
 * @param who the column that keeps who did it, or null; NULL while the row is active
 * @param why the column that keeps the reason, or null; NULL while the row is active
 * @param receipt the column that keeps the identifier of the receipt, or null; NULL while the row is active. By
 *     it rows are known that were marked together
 * @param restoredAt the column that keeps when the row last came back, or null
 */
public record Marker(
        Kind sign,
        @Nullable String who,
        @Nullable String why,
        @Nullable String receipt,
        @Nullable String restoredAt) {

    /** By what a row is seen to be soft-deleted. */
    public sealed interface Kind {}

    /**
     * One value while the row is active, another one afterwards. Anything else, NULL too, counts as active.
     *
     * @param active the value that a row gets that comes back
     */
    public record Flag(String column, Object active, Object deleted) implements Kind {
        public Flag {
            Arguments.notBlank(column, "column");
            Arguments.notNull(active, "active");
            Arguments.notNull(deleted, "deleted");
        }
    }

    /** A date or time that is NULL while the row is active. */
    public record Date(String column) implements Kind {
        public Date {
            Arguments.notBlank(column, "column");
        }
    }

    /**
     * An end that lies far in the future while the row is active; NULL counts as active, too.
     *
     * @param whileActive the end of active rows; an earlier one means that the row is soft-deleted
     */
    public record EndDate(String column, Object whileActive) implements Kind {
        public EndDate {
            Arguments.notBlank(column, "column");
            Arguments.notNull(whileActive, "whileActive");
        }
    }

    /**
     * A status of which some values mean that the row is active; NULL counts as active, too.
     *
     * @param active those values; a row that comes back gets the first of them unless its own was kept
     * @param deleted the value of rows that are soft-deleted from now on
     * @param was the column that keeps the status that the row had before, or null
     */
    public record Status(
            String column,
            List<Object> active,
            Object deleted,
            @Nullable String was) implements Kind {
        public Status {
            Arguments.notBlank(column, "column");
            Arguments.noneNull(active, "active");
            Arguments.notNull(deleted, "deleted");
            active = List.copyOf(active);
        }
    }

    /**
     * Several rows per logical key, of which the current one is that with the latest start not after now. It is
     * soft-deleted by an end, or by a status that closes it.
     *
     * @param of the columns of the logical key
     * @param start the column from when a version holds
     * @param end the column until when it holds, itself excluded, NULL while open; or null
     * @param status the status that closes it, or null
     */
    public record Versions(
            List<String> of,
            String start,
            @Nullable String end,
            @Nullable Status status) implements Kind {
        public Versions {
            of = List.copyOf(of);
        }
    }

    /** A column of two values: {@code flag("active", "Y", "N")}. */
    public static Marker flag(String column, Object active, Object deleted) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(active, "active");
        Arguments.notNull(deleted, "deleted");
        return of(new Flag(column, active, deleted));
    }

    /** A date or time that is NULL while the row is active. */
    public static Marker date(String column) {
        Arguments.notBlank(column, "column");
        return of(new Date(column));
    }

    /** An end that lies far in the future while the row is active: {@code endDate("valid_until", "9999-12-31")}. */
    public static Marker endDate(String column, Object whileActive) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(whileActive, "whileActive");
        return of(new EndDate(column, whileActive));
    }

    /** A status: {@code status("state", "gone", "moored", "away")}. */
    public static Marker status(String column, Object deleted, Object... active) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(deleted, "deleted");
        Arguments.noneNull(active, "active");
        return of(new Status(column, Arrays.asList(active), deleted, null));
    }

    /** Versions that are closed by their end. */
    public static Marker versions(List<String> of, String start, String end) {
        Arguments.noneNull(of, "of");
        Arguments.notBlank(start, "start");
        Arguments.notBlank(end, "end");
        return of(new Versions(of, start, end, null));
    }

    /** Versions that are closed by a status. */
    public static Marker versions(List<String> of, String start, Status closing) {
        Arguments.noneNull(of, "of");
        Arguments.notBlank(start, "start");
        Arguments.notNull(closing, "closing");
        return of(new Versions(of, start, null, closing));
    }

    static Marker of(Kind sign) {
        return new Marker(sign, null, null, null, null);
    }

    /** Names the column that keeps who did it. */
    public Marker who(String column) {
        Arguments.notBlank(column, "column");
        return new Marker(sign, column, why, receipt, restoredAt);
    }

    /** Names the column that keeps the reason. */
    public Marker why(String column) {
        Arguments.notBlank(column, "column");
        return new Marker(sign, who, column, receipt, restoredAt);
    }

    /** Names the column that keeps the receipt's identifier. */
    public Marker receipt(String column) {
        Arguments.notBlank(column, "column");
        return new Marker(sign, who, why, column, restoredAt);
    }

    /** Names the column that keeps when the row last came back. */
    public Marker restoredAt(String column) {
        Arguments.notBlank(column, "column");
        return new Marker(sign, who, why, receipt, column);
    }

    /** Names the column that keeps the status that a row had before; only for a status. */
    public Marker was(String column) {
        if (!(sign instanceof Status status)) {
            throw new MisuseException("Only a status has something that it was before.");
        }
        return new Marker(
                new Status(status.column(), status.active(), status.deleted(), column), who, why, receipt, restoredAt);
    }

    /** What holds for the rows that an application shows. Never unknown. */
    public Condition active() {
        return active(sign);
    }

    private static Condition active(Kind sign) {
        if (sign instanceof Flag flag) {
            return ColumnRef.column(flag.column())
                    .isNull()
                    .or(ColumnRef.column(flag.column()).notEqualTo(flag.deleted()));
        }
        if (sign instanceof Date date) {
            return ColumnRef.column(date.column()).isNull();
        }
        if (sign instanceof EndDate end) {
            return ColumnRef.column(end.column())
                    .isNull()
                    .or(ColumnRef.column(end.column()).atLeast(end.whileActive()));
        }
        if (sign instanceof Status status) {
            return ColumnRef.column(status.column())
                    .isNull()
                    .or(ColumnRef.column(status.column()).in(status.active()));
        }
        Versions versions = (Versions) sign;
        return new Condition.Latest(versions.of(), versions.start()).and(open(versions));
    }

    private static Condition open(Versions versions) {
        String end = versions.end();
        return end == null
                ? active(closing(versions))
                : ColumnRef.column(end).isNull().or(ColumnRef.column(end).after(RelativeTime.now()));
    }

    private static Status closing(Versions versions) {
        Status status = versions.status();
        if (status == null) {
            throw new MisuseException(
                    "Versions without an end or a closing status cannot be soft-deleted.",
                    "Name the column of either.");
        }
        return status;
    }

    /**
     * What holds for the rows that are soft-deleted. Of versions only the latest can be: earlier ones are neither
     * active nor soft-deleted.
     */
    public Condition deleted() {
        return sign instanceof Versions versions
                ? new Condition.Latest(versions.of(), versions.start())
                        .and(open(versions).not())
                : active().not();
    }

    /** What is written into a row that is soft-deleted, but for who, why and by which receipt. */
    List<Assignment> marking() {
        return marking(sign);
    }

    private static List<Assignment> marking(Kind sign) {
        if (sign instanceof Flag flag) {
            return List.of(new Assignment(flag.column(), flag.deleted()));
        }
        if (sign instanceof Date date) {
            return List.of(new Assignment(date.column(), RelativeTime.now()));
        }
        if (sign instanceof EndDate end) {
            return List.of(new Assignment(end.column(), RelativeTime.now()));
        }
        if (sign instanceof Status status) {
            List<Assignment> all = new ArrayList<>();
            if (status.was() != null) {
                all.add(new Assignment(status.was(), ColumnRef.column(status.column())));
            }
            all.add(new Assignment(status.column(), status.deleted()));
            return all;
        }
        Versions versions = (Versions) sign;
        return versions.end() == null
                ? marking(closing(versions))
                : List.of(new Assignment(versions.end(), RelativeTime.now()));
    }

    /** What is written into a row that comes back. */
    List<Assignment> unmarking() {
        return unmarking(sign);
    }

    private static List<Assignment> unmarking(Kind sign) {
        if (sign instanceof Flag flag) {
            return List.of(new Assignment(flag.column(), flag.active()));
        }
        if (sign instanceof Date date) {
            return List.of(new Assignment(date.column(), null));
        }
        if (sign instanceof EndDate end) {
            return List.of(new Assignment(end.column(), end.whileActive()));
        }
        if (sign instanceof Status status) {
            return status.was() == null
                    ? List.of(new Assignment(status.column(), status.active().get(0)))
                    : List.of(
                            new Assignment(status.column(), ColumnRef.column(status.was())),
                            new Assignment(status.was(), null));
        }
        Versions versions = (Versions) sign;
        return versions.end() == null ? unmarking(closing(versions)) : List.of(new Assignment(versions.end(), null));
    }

    /** The columns beside the sign. */
    List<String> companions() {
        return Stream.of(who, why, receipt, restoredAt)
                .filter(column -> column != null)
                .map(String::valueOf)
                .toList();
    }
}
