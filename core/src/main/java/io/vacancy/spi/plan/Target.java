// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.condition.Condition;
import io.vacancy.request.Order;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * A selection whose names and values have been read against the schema: the rows of these keys, if there are
 * any, for which the condition is true and that the code accepts; of those the first.
 *
 * @param keys null where rows are not given by key
 * @param which null where every such row is meant
 * @param seen what holds for the rows that are selected from at all, those that are marked as deleted left out;
 *     null where all are
 * @param filter code that must accept them, or null
 * @param first how many of them, or null for all
 * @param order by which they are counted off; the key's columns come after it
 * @param orphansOf only rows whose parent by this relation is missing, or null
 * @param into what holds for the row of the table that they are merged into, which has to be there and to stay, so that it is
 *     locked with them; null where nothing is merged
 */
public record Target(
        @Nullable Keys keys,
        @Nullable Condition which,
        @Nullable Condition seen,
        @Nullable Predicate<Row> filter,
        @Nullable Long first,
        List<Order> order,
        @Nullable Relation orphansOf,
        @Nullable Condition into) {

    public Target {
        order = List.copyOf(order);
    }

    /**
     * Keys, of which some may be the same.
     *
     * @param given how many, the same ones counted again
     * @param each one value per column of the table's identity, in its order; read anew by each iterator
     */
    public record Keys(long given, Iterable<List<Object>> each) {}
}
