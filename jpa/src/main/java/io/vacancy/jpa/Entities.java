// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.request.ReplacementStep;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import jakarta.persistence.EntityManagerFactory;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * Requests by entity instead of table: {@code entities.delete(Boat.class).key(17).because("sold")}. Names of tables and columns,
 * and what values are in them, come from the provider's mapping, naming strategies and quoting included. For all threads.
 *
 * <p>A class that is no entity, an attribute that it has not and a value that the attribute cannot hold are a
 * {@link MisuseException}.
 */
public final class Entities {

    private final EntityMapping mapping;

    private Entities(EntityMapping mapping) {
        this.mapping = mapping;
    }

    /**
     * The entities of a persistence unit.
     *
     * @throws MisuseException if the provider is not Hibernate
     */
    public static Entities of(EntityManagerFactory factory) {
        return new Entities(EntityMapping.of(factory));
    }

    /** Removes or marks rows, as the rule book says of the table. */
    public <E> EntityStep<E> delete(Class<E> entity) {
        return step(entity, Request::delete);
    }

    /** Removes rows, whatever the table's usual mode is. */
    public <E> EntityStep<E> erase(Class<E> entity) {
        return step(entity, Request::erase);
    }

    /** Marks rows as deleted, whatever the table's usual mode is; they stay, and can be restored. */
    public <E> EntityStep<E> softDelete(Class<E> entity) {
        return step(entity, Request::softDelete);
    }

    /** Restores rows, soft-deleted ones where the selection has any, else archived ones, with what went with them. */
    public <E> EntityStep<E> restore(Class<E> entity) {
        return step(entity, Request::restore);
    }

    /** Removes archived rows for good, of any receipt. */
    public <E> EntityStep<E> purge(Class<E> entity) {
        return step(entity, Request::purge);
    }

    /** Removes those archived rows for good whose retention has expired. */
    public Request purgeDue(Class<?> entity) {
        MappedEntity mapped = mapping.entity(entity);
        if (mapped.ofThisClass() != null) {
            throw new MisuseException(
                    "Entity " + mapped.name() + " shares table " + mapped.table()
                            + " with others, and a due purge is one of a table.",
                    "Name the root class.");
        }
        return Request.purgeDue(mapped.table());
    }

    /** Ends one row and has a successor take its place; for tables of versions or with end dates. */
    public <E> Replacement<E> replace(Class<E> entity) {
        return new Replacement<>(mapping.entity(entity));
    }

    /**
     * What identifies the row that an object stands for.
     *
     * @throws MisuseException if it has none yet
     */
    public Object identifier(Object entity) {
        Object id = mapping.identifier(Objects.requireNonNull(entity, "entity"));
        if (id == null) {
            throw new MisuseException("The object has no identifier, so there is no row that it stands for.");
        }
        return id;
    }

    /** The table of an entity, as it is written in requests and rule books. */
    public String table(Class<?> entity) {
        return mapping.entity(entity).table();
    }

    private <E> EntityStep<E> step(Class<E> entity, Function<String, SelectionStep> operation) {
        MappedEntity mapped = mapping.entity(entity);
        return new EntityStep<>(mapped, operation.apply(mapped.table()), this::identifier);
    }

    /**
     * A replacement of which only the entity is said.
     *
     * @param <E> the entity
     */
    public static final class Replacement<E> {

        private final MappedEntity entity;

        private Replacement(MappedEntity entity) {
            this.entity = entity;
            Condition ofClass = entity.ofThisClass();
            if (ofClass != null) {
                throw new MisuseException(
                        "Entity " + entity.name() + " shares its table with others, and is not replaced by class.");
            }
        }

        /** The row with this identifier. */
        public Row key(Object id) {
            return new Row(Request.replace(entity.table()).key(entity.key(Objects.requireNonNull(id, "id"))));
        }

        /** The row for which a condition is true; several refuse the request. */
        public Row where(AttributeCondition<? super E> condition) {
            return new Row(Request.replace(entity.table())
                    .where(Objects.requireNonNull(condition, "condition").in(entity)));
        }

        /** The row that ends is said; what its successor has comes next. */
        public final class Row {

            private final ReplacementStep.Row row;

            private Row(ReplacementStep.Row row) {
                this.row = row;
            }

            /**
             * What the successor has instead of what the row has; when it begins comes next.
             *
             * @param values by attribute; a value may be null, and there may be none
             */
            public ReplacementStep.Start with(Map<String, ? extends @Nullable Object> values) {
                Map<String, @Nullable Object> columns = new LinkedHashMap<>();
                Objects.requireNonNull(values, "values")
                        .forEach((attribute, value) -> columns.putAll(entity.values(attribute, value)));
                return row.with(columns);
            }
        }
    }
}
