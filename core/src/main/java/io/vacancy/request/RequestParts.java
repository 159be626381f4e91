// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.schema.Row;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/** The parts of a request; changed only before a request has them. */
final class RequestParts {

    final Operation operation;
    final @Nullable String table;

    @Nullable
    Selection selection;

    @Nullable
    Condition condition;

    @Nullable
    Predicate<Row> filter;

    @Nullable
    Long first;

    List<Order> order = List.of();
    Limits limits = Limits.NONE;

    @Nullable
    String because;

    @Nullable
    String withoutConfirmation;

    boolean acceptedUnasked;

    @Nullable
    Duration lockTimeout;

    @Nullable
    String deletion;

    Map<String, Object> parameters = Map.of();

    OnBlocked onBlocked = OnBlocked.REFUSE;
    boolean includesMarked;
    boolean archived = true;
    Map<String, String> rules = Map.of();

    @Nullable
    String id;

    List<Request> others = List.of();

    RequestParts(Operation operation, @Nullable String table, @Nullable Selection selection) {
        this.operation = operation;
        this.table = table;
        this.selection = selection;
    }

    RequestParts(RequestParts of) {
        operation = of.operation;
        table = of.table;
        selection = of.selection;
        condition = of.condition;
        filter = of.filter;
        first = of.first;
        order = of.order;
        limits = of.limits;
        because = of.because;
        withoutConfirmation = of.withoutConfirmation;
        acceptedUnasked = of.acceptedUnasked;
        lockTimeout = of.lockTimeout;
        deletion = of.deletion;
        parameters = of.parameters;
        onBlocked = of.onBlocked;
        includesMarked = of.includesMarked;
        archived = of.archived;
        rules = of.rules;
        id = of.id;
        others = of.others;
    }

    /** The number of rows that are taken at most. */
    static long limit(long rows) {
        if (rows < 1) {
            throw new MisuseException("A limit must be 1 or more, not " + rows + ".");
        }
        return rows;
    }
}
