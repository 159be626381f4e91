// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Parameter;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.SourceLocation;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.argument.NearestName;
import io.vacancy.schema.ValueKind;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A deletion that the rule book has a name for, with values that are given when it is run. Immutable.
 *
 * @param table the table, or an empty text while none has been named
 * @param where which rows, with {@link Parameter}s in the place of values; null while nothing has been said
 * @param parameters the parameters, and of which kind their values are
 * @param first how many of the rows at most, or null for all
 * @param order in which they are counted off
 * @param because why, unless the one who runs it says why; or null
 * @param schedule when it is carried out by itself, or null for never
 * @param place where it stands, or null if it was written in Java
 */
public record NamedDeletion(
        String name,
        String table,
        @Nullable Condition where,
        Map<String, ValueKind> parameters,
        @Nullable Long first,
        List<Order> order,
        Limits limits,
        @Nullable String because,
        @Nullable DeletionSchedule schedule,
        @Nullable SourceLocation place) {

    public NamedDeletion {
        parameters = Collections.unmodifiableMap(new LinkedHashMap<>(parameters));
        order = List.copyOf(order);
        if (first != null) {
            RequestParts.limit(first);
        }
    }

    /** A deletion that says nothing yet. */
    public static NamedDeletion of(String name) {
        Arguments.notBlank(name, "name");
        return new NamedDeletion(name, "", null, Map.of(), null, List.of(), Limits.NONE, null, null, null);
    }

    public NamedDeletion from(String of) {
        Arguments.notBlank(of, "of");
        return new NamedDeletion(name, of, where, parameters, first, order, limits, because, schedule, place);
    }

    /** Which rows: {@code where(column("left_on").before(parameter("before")))}. */
    public NamedDeletion where(Condition which) {
        Arguments.notNull(which, "which");
        return new NamedDeletion(name, table, which, parameters, first, order, limits, because, schedule, place);
    }

    /** Says of which kind the values of a parameter are. */
    public NamedDeletion parameter(String called, ValueKind kind) {
        Arguments.notBlank(called, "called");
        Arguments.notNull(kind, "kind");
        Map<String, ValueKind> more = new LinkedHashMap<>(parameters);
        more.put(called, kind);
        return new NamedDeletion(name, table, where, more, first, order, limits, because, schedule, place);
    }

    public NamedDeletion limits(Limits all) {
        Arguments.notNull(all, "all");
        return new NamedDeletion(name, table, where, parameters, first, order, all, because, schedule, place);
    }

    /** At most so many rows may be selected. */
    public NamedDeletion atMost(long rows) {
        return limits(limits.atMost(rows));
    }

    /** Only the first of the rows, in this order. */
    public NamedDeletion first(@Nullable Long rows, Order... by) {
        return new NamedDeletion(name, table, where, parameters, rows, List.of(by), limits, because, schedule, place);
    }

    public NamedDeletion because(String reason) {
        Arguments.notBlank(reason, "reason");
        return new NamedDeletion(name, table, where, parameters, first, order, limits, reason, schedule, place);
    }

    /** Carries it out by itself, as a job; it has no parameters then, since nobody gives them values. */
    public NamedDeletion schedule(DeletionSchedule when) {
        Arguments.notNull(when, "when");
        return new NamedDeletion(name, table, where, parameters, first, order, limits, because, when, place);
    }

    public NamedDeletion at(SourceLocation there) {
        return new NamedDeletion(name, table, where, parameters, first, order, limits, because, schedule, there);
    }

    /**
     * The request with these values in the place of the parameters.
     *
     * @param given a value, or the text of one, for each parameter
     * @throws MisuseException if one is missing, unknown or of another kind
     */
    public Request request(Map<String, ?> given) {
        return request(given, null);
    }

    /**
     * The same in a mode of the caller's.
     *
     * @param mode null for the table's usual mode
     */
    public Request request(Map<String, ?> given, @Nullable Mode mode) {
        Arguments.named(given, "values");
        for (String name : given.keySet()) {
            if (!parameters.containsKey(name)) {
                throw new MisuseException("Deletion @" + this.name + " has no parameter " + name
                        + NearestName.question(name, parameters.keySet()));
            }
        }
        Map<String, Object> values = new LinkedHashMap<>();
        parameters.forEach((parameter, kind) -> values.put(parameter, value(parameter, kind, given.get(parameter))));
        if (where == null) {
            throw new MisuseException("Deletion @" + name + " does not say which rows.");
        }
        Condition filled = where.replaceValues(
                value -> value instanceof Parameter parameter ? values.getOrDefault(parameter.name(), value) : value);
        SelectionStep step = mode == null ? Request.delete(table) : Request.delete(table, mode);
        Request request = step.where(filled).limits(limits).ofDeletion(name, values);
        for (Order by : order) {
            request = by.descending() ? request.orderByDescending(by.column()) : request.orderBy(by.column());
        }
        request = first == null ? request : request.limit(first);
        return because == null ? request : request.because(because);
    }

    private Object value(String parameter, ValueKind kind, @Nullable Object given) {
        if (given == null || given.equals("")) {
            throw new MisuseException(
                    "Deletion @" + name + " requires a value for " + parameter + ", and none is given.",
                    "Give " + parameter + ": " + kind.example() + ".");
        }
        Object value = kind.read(given);
        if (value == null) {
            throw new MisuseException(
                    "\"" + given + "\" cannot be the value of " + parameter + " of deletion @" + name + ".",
                    "Give " + kind.example() + ".");
        }
        return value;
    }
}
