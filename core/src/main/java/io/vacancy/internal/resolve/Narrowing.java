// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.condition.Condition;
import io.vacancy.request.Order;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * What leaves rows of a selection out.
 *
 * @param condition what must be true of them besides, or null
 * @param filter code that must accept them, or null
 * @param first how many of them at most, or null for all
 * @param order in which they are counted off
 */
public record Narrowing(
        @Nullable Condition condition,
        @Nullable Predicate<Row> filter,
        @Nullable Long first,
        List<Order> order) {

    public Narrowing {
        order = List.copyOf(order);
    }

    public static Narrowing of(Request request) {
        return new Narrowing(request.condition(), request.filter(), request.first(), request.order());
    }

    /** Whether it leaves nothing out. */
    public boolean isEmpty() {
        return condition == null && filter == null && first == null && order.isEmpty();
    }
}
