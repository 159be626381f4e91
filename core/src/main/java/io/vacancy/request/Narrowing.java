// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Row;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What leaves rows of a selection out.
 *
 * @param condition what must be true of them besides, or null
 * @param filter code that must accept them, or null; called once or several times for each row, on the thread
 *     that makes the request, with nothing of the row's table removed yet
 * @param first how many of them at most, or null for all
 * @param order in which they are counted off; the key's columns decide between equals, and alone where it is
 *     empty
 */
public record Narrowing(
        @Nullable Condition condition,
        @Nullable Predicate<Row> filter,
        @Nullable Long first,
        List<Order> order) {

    public static final Narrowing NONE = new Narrowing(null, null, null, List.of());

    public Narrowing {
        order = List.copyOf(order);
        if (first != null && first < 1) {
            throw new MisuseException("A limit must be 1 or more, not " + first + ".");
        }
    }

    /**
     * A column that rows are put in order by; where NULL stands in it is for the database to say.
     *
     * @param descending whether the greatest comes first
     */
    public record Order(String column, boolean descending) {

        public Order {
            Arguments.notBlank(column, "column");
        }

        /**
         * Reads {@code left_on} or {@code left_on desc}.
         *
         * @throws MisuseException if it is neither
         */
        public static Order read(String written) {
            Arguments.notNull(written, "written");
            String[] words = written.strip().split("\\s+");
            String way = words.length == 2 ? words[1].toLowerCase(Locale.ROOT) : "asc";
            if (words.length > 2
                    || words[0].isEmpty()
                    || !List.of("asc", "desc").contains(way)) {
                throw new MisuseException(
                        "\"" + written + "\" is not an order.",
                        "Give a column, or a column and desc: \"left_on desc\".");
            }
            return new Order(words[0], way.equals("desc"));
        }

        @Override
        public String toString() {
            return column + (descending ? " desc" : "");
        }
    }

    Narrowing and(Condition further) {
        return new Narrowing(condition == null ? further : condition.and(further), filter, first, order);
    }

    Narrowing filter(Predicate<Row> accepts) {
        return new Narrowing(condition, filter == null ? accepts : filter.and(accepts), first, order);
    }

    Narrowing limit(long rows) {
        return new Narrowing(condition, filter, rows, order);
    }

    Narrowing orderBy(Order by) {
        List<Order> longer = new ArrayList<>(order);
        longer.add(by);
        return new Narrowing(condition, filter, first, longer);
    }
}
