// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * Guards by number: what is beyond them is refused, whatever the answer.
 *
 * @param expect how many selected rows go, exactly; null for any number
 * @param atMost how many selected rows go at most; null for any number
 * @param atMostInAll how many rows of all tables go at most; null for any number
 * @param atMostPercent how large a part of the table's rows may be selected, above 0 and up to 100, rounded
 *     down to whole rows; null for any part
 */
public record Limits(
        @Nullable Long expect,
        @Nullable Long atMost,
        @Nullable Long atMostInAll,
        @Nullable Double atMostPercent) {

    public static final Limits NONE = new Limits(null, null, null, null);

    public Limits {
        notNegative(expect);
        notNegative(atMost);
        notNegative(atMostInAll);
        if (atMostPercent != null && !(atMostPercent > 0 && atMostPercent <= 100)) {
            throw new MisuseException("A percentage must be above 0 and at most 100, not " + atMostPercent + ".");
        }
    }

    private static void notNegative(@Nullable Long rows) {
        if (rows != null && rows < 0) {
            throw new MisuseException("A number of rows must be 0 or more, not " + rows + ".");
        }
    }

    public Limits expect(long rows) {
        return new Limits(rows, atMost, atMostInAll, atMostPercent);
    }

    public Limits atMost(long rows) {
        return new Limits(expect, rows, atMostInAll, atMostPercent);
    }

    public Limits atMostInAll(long rows) {
        return new Limits(expect, atMost, rows, atMostPercent);
    }

    public Limits atMostPercent(double percent) {
        return new Limits(expect, atMost, atMostInAll, percent);
    }

    /** How many of a table's rows the part is at most. */
    public static long rowsOf(double percent, long all) {
        return (long) Math.floor(all * percent / 100);
    }

    /** Of each limit the stricter one; {@link #expect} of this one, unless only the other has one. */
    public Limits stricter(Limits other) {
        Arguments.notNull(other, "other");
        return new Limits(
                expect == null ? other.expect : expect,
                least(atMost, other.atMost),
                least(atMostInAll, other.atMostInAll),
                least(atMostPercent, other.atMostPercent));
    }

    private static <N extends Comparable<N>> @Nullable N least(@Nullable N one, @Nullable N other) {
        if (one == null || other == null) {
            return one == null ? other : one;
        }
        return Objects.requireNonNull(one).compareTo(other) <= 0 ? one : other;
    }
}
