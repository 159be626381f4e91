// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.Key;
import java.lang.invoke.MethodType;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.function.Supplier;
import org.hibernate.Hibernate;
import org.hibernate.HibernateException;
import org.hibernate.Session;
import org.hibernate.engine.spi.SharedSessionContractImplementor;
import org.hibernate.metamodel.mapping.BasicValuedModelPart;
import org.hibernate.metamodel.mapping.EntityAssociationMapping;
import org.hibernate.metamodel.mapping.EntityIdentifierMapping;
import org.hibernate.metamodel.mapping.ForeignKeyDescriptor;
import org.hibernate.metamodel.mapping.ModelPart;
import org.hibernate.metamodel.mapping.NonAggregatedIdentifierMapping;
import org.jspecify.annotations.Nullable;

/**
 * What values of an entity's attributes are in its columns. For all threads.
 *
 * @param entity its name
 * @param sessions opens one that needs no connection, for conversions that want one
 */
record AttributeValues(String entity, Supplier<Session> sessions) {

    /** The key of the row that an identifier stands for. */
    Key key(EntityIdentifierMapping identifier, Object id) {
        Class<?> wanted = type(identifier);
        if (!boxed(wanted).isInstance(id)) {
            throw new MisuseException(
                    "The identifier of " + entity + " is a " + wanted.getSimpleName() + ", and "
                            + id.getClass().getSimpleName() + " was given.",
                    "Give the identifier as the entity has it.");
        }
        Map<String, Object> parts = new LinkedHashMap<>();
        inColumns(identifier, id).forEach((column, value) -> {
            if (value == null) {
                throw new MisuseException("The identifier of " + entity + " has no value for " + column + ".");
            }
            parts.put(column, value);
        });
        return parts.size() == 1 ? Key.of(parts.values().iterator().next()) : new Key(parts);
    }

    private static Class<?> type(EntityIdentifierMapping identifier) {
        return identifier instanceof NonAggregatedIdentifierMapping several
                ? several.getMappedIdEmbeddableTypeDescriptor()
                        .getMappedJavaType()
                        .getJavaTypeClass()
                : identifier.getJavaType().getJavaTypeClass();
    }

    private static Class<?> boxed(Class<?> type) {
        return MethodType.methodType(type).wrap().returnType();
    }

    /** An attribute's value, by column. */
    Map<String, @Nullable Object> of(ModelPart part, @Nullable Object value, String path) {
        Class<?> wanted = boxed(part.getJavaType().getJavaTypeClass());
        boolean fits = value == null
                || wanted.isInstance(value)
                || (value instanceof Number && Number.class.isAssignableFrom(wanted));
        if (!fits) {
            throw unfit(path, value, wanted);
        }
        try {
            if (part instanceof EntityAssociationMapping reference) {
                return inColumns(
                        reference.getForeignKeyDescriptor().getKeyPart(),
                        value == null ? null : referred(reference, value));
            }
            return inColumns(part, value);
        } catch (ClassCastException | IllegalArgumentException | HibernateException wrong) {
            throw unfit(path, value, wanted);
        }
    }

    private MisuseException unfit(String path, @Nullable Object value, Class<?> wanted) {
        return new MisuseException(
                "Attribute " + path + " of " + entity + " holds " + wanted.getSimpleName() + ", and "
                        + (value == null ? "null" : value.getClass().getSimpleName()) + " was given.",
                "Give a value as the entity has it.");
    }

    /** By what a row refers to an entity, which need not be read for it. */
    private @Nullable Object referred(EntityAssociationMapping reference, Object referred) {
        try (Session opened = sessions.get()) {
            SharedSessionContractImplementor session = opened.unwrap(SharedSessionContractImplementor.class);
            if (reference.isReferenceToPrimaryKey()) {
                return session.getFactory().getPersistenceUnitUtil().getIdentifier(referred);
            }
            ForeignKeyDescriptor key = reference.getForeignKeyDescriptor();
            return key.getAssociationKeyFromSide(Hibernate.unproxy(referred), key.getTargetSide(), session);
        }
    }

    private Map<String, @Nullable Object> inColumns(ModelPart part, @Nullable Object value) {
        Map<String, @Nullable Object> columns = new LinkedHashMap<>();
        if (part instanceof BasicValuedModelPart basic) {
            // A million keys are welcome, and none of them needs a session.
            columns.put(
                    TableNames.column(basic.getSelectionExpression()),
                    ColumnValue.of(
                            basic.getJdbcMapping().convertToRelationalValue(value),
                            basic.getJdbcMapping().getJdbcType()));
            return columns;
        }
        try (Session session = sessions.get()) {
            part.breakDownJdbcValues(
                    value,
                    (index, each, selectable) -> columns.put(
                            TableNames.column(selectable.getSelectionExpression()),
                            ColumnValue.of(each, selectable.getJdbcMapping().getJdbcType())),
                    session.unwrap(SharedSessionContractImplementor.class));
        }
        return columns;
    }
}
