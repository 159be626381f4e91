// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import io.vacancy.condition.Condition;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import java.util.Objects;
import java.util.function.Function;

/**
 * A condition over the attributes of one entity, with the three truth values of SQL. Made by {@link AttributeRef}. Immutable.
 *
 * @param <E> the entity
 */
public final class AttributeCondition<E> {

    private final Function<MappedEntity, Condition> columns;

    AttributeCondition(Function<MappedEntity, Condition> columns) {
        this.columns = columns;
    }

    /** This and another. */
    public AttributeCondition<E> and(AttributeCondition<? super E> other) {
        Objects.requireNonNull(other, "other");
        return new AttributeCondition<>(entity -> in(entity).and(other.in(entity)));
    }

    /** This or another. */
    public AttributeCondition<E> or(AttributeCondition<? super E> other) {
        Objects.requireNonNull(other, "other");
        return new AttributeCondition<>(entity -> in(entity).or(other.in(entity)));
    }

    /** The opposite of this. */
    public AttributeCondition<E> not() {
        return new AttributeCondition<>(entity -> in(entity).not());
    }

    /** The same over the entity's columns. */
    Condition in(MappedEntity entity) {
        return columns.apply(entity);
    }
}
