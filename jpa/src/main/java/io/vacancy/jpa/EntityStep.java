// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import java.util.Collection;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A request of which only the operation and the entity are said: which rows comes next. What comes out is an ordinary request.
 * Immutable.
 *
 * @param <E> the entity; of an entity with subclasses, rows of these are meant as well
 */
public final class EntityStep<E> {

    private final MappedEntity entity;
    private final SelectionStep step;
    private final @Nullable Condition ofClass;
    private final Function<Object, Object> identifier;

    EntityStep(MappedEntity entity, SelectionStep step, Function<Object, Object> identifier) {
        this.entity = entity;
        this.step = step;
        this.ofClass = entity.ofThisClass();
        this.identifier = identifier;
    }

    /**
     * The one with this identifier.
     *
     * @param id as the entity has it: a value, an embedded id or an instance of its id class
     */
    public Request key(Object id) {
        return ofClass(step.key(entity.key(Objects.requireNonNull(id, "id"))));
    }

    /** Those with these identifiers; at least one. */
    public Request keys(Collection<?> ids) {
        return keys(Objects.requireNonNull(ids, "ids").stream());
    }

    /** The same of a stream, which is read to its end and closed. */
    public Request keys(Stream<?> ids) {
        return ofClass(step.keys(Objects.requireNonNull(ids, "ids").map(entity::key)));
    }

    /**
     * The one that an object stands for, be it managed or detached. Where the entity has a version, only as the object knows it:
     * if somebody has changed the row since, nothing is selected.
     */
    public Request entity(E object) {
        Objects.requireNonNull(object, "object");
        Request request = key(identifier.apply(object));
        String version = entity.versionAttribute();
        if (version == null) {
            return request;
        }
        Object known = entity.version(object);
        return known == null
                ? request
                : request.and(AttributeRef.<Object, Object>named(version)
                        .equalTo(known)
                        .in(entity));
    }

    /** The one whose attribute has this value. Where several have it, the request is refused and shows them. */
    public <V> Request matching(AttributeRef<? super E, V> attribute, V value) {
        Objects.requireNonNull(value, "value");
        Map<String, @Nullable Object> values =
                entity.values(Objects.requireNonNull(attribute, "attribute").path(), value);
        if (values.containsValue(null)) {
            throw new MisuseException("A part of attribute " + attribute.path() + " is null, and nothing equals NULL.");
        }
        return ofClass(step.matching(Map.copyOf(values)));
    }

    /** Those for which a condition is true. */
    public Request where(AttributeCondition<? super E> condition) {
        return ofClass(step.where(Objects.requireNonNull(condition, "condition").in(entity)));
    }

    /** All there are, each with all that depends on it. */
    public Request everyRow() {
        return ofClass == null ? step.everyRow() : step.where(ofClass);
    }

    private Request ofClass(Request request) {
        return ofClass == null ? request : request.and(ofClass);
    }
}
