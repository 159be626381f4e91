// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import jakarta.persistence.metamodel.SingularAttribute;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Objects;
import java.util.function.BiFunction;
import org.jspecify.annotations.Nullable;

/**
 * An attribute of an entity, from which conditions are made: {@code attribute(Boat_.leftOn).before(day)}, or
 * {@code attribute(Boat.class, "leftOn").before(day)}. What a value is in columns, the mapping says: converters, enumerations
 * and references to entities included. Immutable.
 *
 * @param <E> the entity
 * @param <V> what the attribute holds
 */
public final class AttributeRef<E, V> {

    private final String path;

    private AttributeRef(String path) {
        this.path = path;
    }

    /** Of the static metamodel. */
    public static <E, V> AttributeRef<E, V> attribute(SingularAttribute<E, V> attribute) {
        return new AttributeRef<>(Objects.requireNonNull(attribute, "attribute").getName());
    }

    /**
     * By name.
     *
     * @param path its name, after that of the embeddable that it is in: {@code place.row}
     */
    public static <E> AttributeRef<E, Object> attribute(Class<E> entity, String path) {
        Objects.requireNonNull(entity, "entity");
        if (Objects.requireNonNull(path, "path").isBlank()) {
            throw new MisuseException("The argument path is blank.", "Give the name of an attribute.");
        }
        return new AttributeRef<>(path);
    }

    static <E, V> AttributeRef<E, V> named(String path) {
        return new AttributeRef<>(path);
    }

    /** An attribute of the embeddable that this one holds. */
    public <W> AttributeRef<E, W> then(SingularAttribute<? super V, W> inside) {
        return new AttributeRef<>(
                path + "." + Objects.requireNonNull(inside, "inside").getName());
    }

    /** Its name, after that of the embeddable that it is in. */
    public String path() {
        return path;
    }

    public AttributeCondition<E> equalTo(V value) {
        Objects.requireNonNull(value, "value");
        return new AttributeCondition<>(entity -> {
            List<Condition> parts = new ArrayList<>();
            entity.values(path, value)
                    .forEach((column, part) -> parts.add(
                            part == null
                                    ? ColumnRef.column(column).isNull()
                                    : ColumnRef.column(column).equalTo(part)));
            return all(parts);
        });
    }

    public AttributeCondition<E> notEqualTo(V value) {
        return comparing(ColumnRef::notEqualTo, value);
    }

    public AttributeCondition<E> lessThan(V value) {
        return comparing(ColumnRef::lessThan, value);
    }

    public AttributeCondition<E> atMost(V value) {
        return comparing(ColumnRef::atMost, value);
    }

    public AttributeCondition<E> greaterThan(V value) {
        return comparing(ColumnRef::greaterThan, value);
    }

    public AttributeCondition<E> atLeast(V value) {
        return comparing(ColumnRef::atLeast, value);
    }

    /** Earlier than a date or a time. */
    public AttributeCondition<E> before(V time) {
        return comparing(ColumnRef::before, time);
    }

    /** Later than a date or a time. */
    public AttributeCondition<E> after(V time) {
        return comparing(ColumnRef::after, time);
    }

    /** From one value to another, both included. */
    public AttributeCondition<E> between(V from, V to) {
        return atLeast(from).and(atMost(to));
    }

    /** One of several. */
    public AttributeCondition<E> in(Collection<? extends V> values) {
        List<V> all = List.copyOf(values);
        return new AttributeCondition<>(entity -> ColumnRef.column(only(entity.columns(path)))
                .in(all.stream()
                        .map(value -> single(entity.values(path, value).values()))
                        .toList()));
    }

    /** A text matches a pattern in which % stands for any text and _ for any character. */
    public AttributeCondition<E> like(String pattern) {
        Objects.requireNonNull(pattern, "pattern");
        return new AttributeCondition<>(
                entity -> ColumnRef.column(only(entity.columns(path))).like(pattern));
    }

    /** It holds nothing; of several columns, in none of them. */
    public AttributeCondition<E> isNull() {
        return new AttributeCondition<>(entity -> all(entity.columns(path).stream()
                .map(column -> ColumnRef.column(column).isNull())
                .toList()));
    }

    /** It holds something. */
    public AttributeCondition<E> isNotNull() {
        return isNull().not();
    }

    private AttributeCondition<E> comparing(BiFunction<ColumnRef, Object, Condition> how, V value) {
        Objects.requireNonNull(value, "value");
        return new AttributeCondition<>(entity -> how.apply(
                ColumnRef.column(only(entity.columns(path))),
                single(entity.values(path, value).values())));
    }

    private String only(List<String> columns) {
        if (columns.size() != 1) {
            throw new MisuseException(
                    "Attribute " + path + " has the columns " + String.join(", ", columns) + ", so it has no order.",
                    "Compare it by equalTo, or compare one of its own attributes.");
        }
        return columns.get(0);
    }

    private Object single(Collection<? extends @Nullable Object> values) {
        Object value = values.iterator().next();
        if (value == null) {
            throw new MisuseException(
                    "What attribute " + path + " is compared with is kept as NULL, and nothing equals NULL.",
                    "Say isNull().");
        }
        return value;
    }

    private static Condition all(List<Condition> parts) {
        return parts.size() == 1 ? parts.get(0) : new Condition.All(parts);
    }
}
