// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Key;
import jakarta.persistence.metamodel.Attribute;
import jakarta.persistence.metamodel.EmbeddableType;
import jakarta.persistence.metamodel.EntityType;
import jakarta.persistence.metamodel.ManagedType;
import jakarta.persistence.metamodel.SingularAttribute;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.function.Function;
import java.util.function.Supplier;
import org.hibernate.Session;
import org.hibernate.metamodel.mapping.Association;
import org.hibernate.metamodel.mapping.AttributeMapping;
import org.hibernate.metamodel.mapping.EmbeddableValuedModelPart;
import org.hibernate.metamodel.mapping.EntityAssociationMapping;
import org.hibernate.metamodel.mapping.EntityDiscriminatorMapping;
import org.hibernate.metamodel.mapping.ForeignKeyDescriptor;
import org.hibernate.metamodel.mapping.ManagedMappingType;
import org.hibernate.metamodel.mapping.ModelPart;
import org.hibernate.metamodel.mapping.PluralAttributeMapping;
import org.hibernate.metamodel.mapping.SelectableMapping;
import org.hibernate.persister.entity.EntityPersister;
import org.jspecify.annotations.Nullable;

/** One entity: its table, its columns, its links. For all threads. */
public final class MappedEntity {

    private final EntityType<?> standard;
    private final String name;
    private final EntityPersister entity;
    private final TableNames names;
    private final AttributeValues values;
    private final Function<String, EntityPersister> others;

    MappedEntity(
            EntityType<?> standard,
            EntityPersister entity,
            TableNames names,
            Supplier<Session> sessions,
            Function<String, EntityPersister> others) {
        this.standard = standard;
        this.name = standard.getName();
        this.entity = entity;
        this.names = names;
        this.values = new AttributeValues(name, sessions);
        this.others = others;
    }

    /** Its class. */
    public Class<?> type() {
        return entity.getMappedJavaType().getJavaTypeClass();
    }

    /** As queries call it. */
    public String name() {
        return name;
    }

    /**
     * The table that has a row for each of it.
     *
     * @throws MisuseException if each of its subclasses has a table of its own
     */
    public String table() {
        String expression = entity.getIdentifierTableDetails().getTableName();
        if (severalTables()) {
            throw new MisuseException(
                    "Entity " + name() + " has no table of its own: each of its subclasses has one.",
                    "Name the subclass whose rows are meant.");
        }
        return names.table(expression);
    }

    /** Whether its rows are in a table for each subclass. */
    public boolean severalTables() {
        String own = entity.getIdentifierTableDetails().getTableName();
        return entity.getSubclassEntityNames().stream().anyMatch(each -> !others.apply(each)
                .getIdentifierTableDetails()
                .getTableName()
                .equals(own));
    }

    /**
     * What holds for the rows of the table that are of this class; null where all are.
     *
     * @throws MisuseException if no column tells
     */
    public @Nullable Condition ofThisClass() {
        if (entity.getSuperMappingType() == null || oneTableEach()) {
            return null;
        }
        EntityDiscriminatorMapping discriminator = entity.getDiscriminatorMapping();
        if (discriminator == null || !discriminator.hasPhysicalColumn() || discriminator.isFormula()) {
            throw new MisuseException(
                    "No column of " + table() + " tells which rows are of class " + name() + ".",
                    "Map a discriminator column, or name the root class and a condition.");
        }
        List<Object> values = new ArrayList<>();
        for (String each : entity.getSubclassEntityNames()) {
            Object value = others.apply(each).getDiscriminatorValue();
            if (value instanceof String || value instanceof Number || value instanceof Character) {
                values.add(value instanceof Character ? value.toString() : value);
            }
        }
        return ColumnRef.column(TableNames.column(discriminator.getSelectionExpression()))
                .in(values);
    }

    private boolean oneTableEach() {
        return !entity.getIdentifierTableDetails()
                .getTableName()
                .equals(((EntityPersister) root()).getIdentifierTableDetails().getTableName());
    }

    private Object root() {
        EntityPersister each = entity;
        while (each.getSuperMappingType() instanceof EntityPersister above) {
            each = above;
        }
        return each;
    }

    /** The key of the row that an identifier stands for. */
    public Key key(Object id) {
        return values.key(entity.getIdentifierMapping(), id);
    }

    /** The columns of the identifier. */
    public List<String> keyColumns() {
        return columns(entity.getIdentifierMapping());
    }

    /** The columns of an attribute, by its path: {@code place.row} for an attribute of an embeddable. */
    public List<String> columns(String path) {
        ModelPart part = part(path);
        List<String> columns = new ArrayList<>();
        part.forEachSelectable((index, selectable) -> columns.add(column(selectable, path)));
        if (columns.isEmpty()) {
            throw new MisuseException("Attribute " + path + " of " + name() + " has no column in " + table() + ".");
        }
        return columns;
    }

    private String column(SelectableMapping selectable, String path) {
        if (selectable.isFormula()) {
            throw new MisuseException(
                    "Attribute " + path + " of " + name() + " is a formula, no column.",
                    "Name the columns it is made of.");
        }
        String table = names.table(selectable.getContainingTableExpression());
        if (!table.equals(table())) {
            throw new MisuseException("Attribute " + path + " of " + name() + " is kept in table " + table
                    + ", and rows are selected by columns of " + table() + ".");
        }
        return TableNames.column(selectable.getSelectionExpression());
    }

    private static List<String> columns(ModelPart part) {
        List<String> columns = new ArrayList<>();
        part.forEachSelectable((index, each) -> columns.add(TableNames.column(each.getSelectionExpression())));
        return columns;
    }

    /** What an attribute's value is in its columns. */
    public Map<String, @Nullable Object> values(String path, @Nullable Object value) {
        columns(path);
        return values.of(part(path), value, path);
    }

    /** Whether it has such an attribute. */
    public boolean has(String path) {
        return find(path) != null;
    }

    /** Whether the provider writes an attribute into rows that are there already. */
    public boolean updatable(String path) {
        return part(path) instanceof AttributeMapping attribute
                && attribute.getAttributeMetadata().isUpdatable();
    }

    private ModelPart part(String path) {
        ModelPart part = find(path);
        if (part == null) {
            List<String> known = new ArrayList<>(
                    entity.getIdentifierMapping().getAttributeName() == null
                            ? List.of()
                            : List.of(entity.getIdentifierMapping().getAttributeName()));
            entity.forEachAttributeMapping(each -> known.add(each.getAttributeName()));
            throw new MisuseException(
                    "Entity " + name() + " has no attribute " + path + ".", "It has " + String.join(", ", known) + ".");
        }
        return part;
    }

    private @Nullable ModelPart find(String path) {
        ModelPart part = entity;
        for (String each : path.split("\\.")) {
            part = part == null ? null : sub(part, each);
        }
        return part;
    }

    private @Nullable ModelPart sub(ModelPart of, String attribute) {
        if (of == entity && attribute.equals(entity.getIdentifierMapping().getAttributeName())) {
            return entity.getIdentifierMapping();
        }
        if (of == entity
                && entity.findAttributeMapping(attribute) == null
                && entity.getIdentifierMapping() instanceof EmbeddableValuedModelPart several) {
            // An @IdClass: its attributes are the entity's own.
            return several.getEmbeddableTypeDescriptor().findAttributeMapping(attribute);
        }
        if (of instanceof EmbeddableValuedModelPart embedded) {
            return embedded.getEmbeddableTypeDescriptor().findAttributeMapping(attribute);
        }
        return of instanceof ManagedMappingType managed ? managed.findAttributeMapping(attribute) : null;
    }

    /** The column that the provider counts changes in; null where it has none. */
    public @Nullable String versionColumn() {
        return entity.getVersionMapping() == null
                ? null
                : TableNames.column(entity.getVersionMapping().getSelectionExpression());
    }

    /** The attribute of the same; null where it has none. */
    public @Nullable String versionAttribute() {
        return standard.getSingularAttributes().stream()
                .filter(SingularAttribute::isVersion)
                .map(Attribute::getName)
                .findFirst()
                .orElse(null);
    }

    /** The version that an object was read with; null where it has none. */
    public @Nullable Object version(Object object) {
        return entity.getVersion(object);
    }

    /** What an attribute of an object holds, by its path. */
    public @Nullable Object value(Object object, String path) {
        return entity.getPropertyValue(object, path);
    }

    /** Whether the provider itself has rows of it marked instead of removed. */
    public boolean softDeletedByProvider() {
        return entity.getSoftDeleteMapping() != null;
    }

    /** All of its attributes, those of embeddables by their path. */
    public List<MappedAttribute> attributes() {
        List<MappedAttribute> all = new ArrayList<>();
        attributes(standard, "", all);
        return all;
    }

    private static void attributes(ManagedType<?> type, String before, List<MappedAttribute> all) {
        for (Attribute<?, ?> attribute : type.getAttributes()) {
            String path = before + attribute.getName();
            if (attribute instanceof SingularAttribute<?, ?> single
                    && single.getType() instanceof EmbeddableType<?> inside) {
                attributes(inside, path + ".", all);
            }
            all.add(MappedAttribute.of(path, attribute.getJavaType(), attribute.getJavaMember()));
        }
    }

    /** The attributes that any of these columns belongs to, but for its identifier. */
    public List<String> attributesIn(Set<String> columns) {
        return attributes().stream()
                .map(MappedAttribute::path)
                .filter(path -> singular(path) && columnsOf(path).stream().anyMatch(columns::contains))
                .toList();
    }

    private boolean singular(String path) {
        ModelPart part = find(path);
        return part instanceof AttributeMapping
                && !(part instanceof PluralAttributeMapping)
                && !(part instanceof EmbeddableValuedModelPart)
                && !part.isEntityIdentifierMapping();
    }

    private List<String> columnsOf(String path) {
        ModelPart part = find(path);
        boolean elsewhere = part instanceof Association reference
                && reference.getSideNature() == ForeignKeyDescriptor.Nature.TARGET;
        return part == null || elsewhere ? List.of() : columns(part);
    }

    /** Whether an attribute refers to an entity. */
    public boolean refers(String path) {
        return find(path) instanceof Association;
    }

    /** Whether an attribute refers to an entity by something else than its identifier. */
    public boolean refersByAnotherKey(String path) {
        return find(path) instanceof EntityAssociationMapping reference && !reference.isReferenceToPrimaryKey();
    }

    /** The relations that it has a part in. */
    public List<MappedLink> links() {
        return new LinkReader(name, entity, names).links();
    }

    /** What Hibernate has of it. */
    public EntityPersister descriptor() {
        return entity;
    }
}
