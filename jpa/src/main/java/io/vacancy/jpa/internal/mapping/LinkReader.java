// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.hibernate.engine.spi.CascadeStyle;
import org.hibernate.engine.spi.CascadingActions;
import org.hibernate.metamodel.mapping.Association;
import org.hibernate.metamodel.mapping.AttributeMapping;
import org.hibernate.metamodel.mapping.EmbeddableValuedModelPart;
import org.hibernate.metamodel.mapping.ForeignKeyDescriptor;
import org.hibernate.metamodel.mapping.ModelPart;
import org.hibernate.metamodel.mapping.PluralAttributeMapping;
import org.hibernate.persister.entity.EntityPersister;
import org.jspecify.annotations.Nullable;

/** Reads the relations that an entity has a part in, as child or as parent. For one use. */
final class LinkReader {

    private final String name;
    private final EntityPersister entity;
    private final TableNames names;
    private final Map<String, MappedLink> links = new LinkedHashMap<>();

    LinkReader(String name, EntityPersister entity, TableNames names) {
        this.name = name;
        this.entity = entity;
        this.names = names;
    }

    List<MappedLink> links() {
        furtherTables();
        entity.forEachAttributeMapping(each -> attribute(each, name + "." + each.getAttributeName()));
        if (entity.getIdentifierMapping() instanceof EmbeddableValuedModelPart embedded) {
            embedded.getEmbeddableTypeDescriptor()
                    .forEachAttributeMapping(each -> attribute(each, name + "." + each.getAttributeName()));
        }
        return List.copyOf(links.values());
    }

    /** Subclasses that continue their row in a table of their own, and secondary tables. */
    private void furtherTables() {
        String first = entity.getIdentifierTableDetails().getTableName();
        List<String> key = columns(entity.getIdentifierMapping());
        entity.visitConstraintOrderedTables((table, keyColumns) -> {
            if (!table.equals(first) && !subquery(table) && !subquery(first)) {
                List<String> columns = new ArrayList<>();
                keyColumns.get().accept((index, each) -> columns.add(TableNames.column(each.getSelectionExpression())));
                add(new MappedLink(names.table(table), columns, names.table(first), key, null, true, true));
            }
        });
    }

    private void attribute(AttributeMapping attribute, String path) {
        if (attribute instanceof PluralAttributeMapping plural) {
            collection(plural, path);
        } else if (attribute instanceof EmbeddableValuedModelPart embedded) {
            embedded.getEmbeddableTypeDescriptor()
                    .forEachAttributeMapping(each -> attribute(each, path + "." + each.getAttributeName()));
        } else if (attribute instanceof Association association) {
            boolean child = association.getSideNature() == ForeignKeyDescriptor.Nature.KEY;
            add(association.getForeignKeyDescriptor(), path, false, !child && removes(attribute));
        }
    }

    private void collection(PluralAttributeMapping plural, String path) {
        boolean separate = plural.getSeparateCollectionTable() != null;
        add(plural.getKeyDescriptor(), path, separate, removes(plural));
        if (plural.getElementDescriptor() instanceof Association element && separate) {
            add(element.getForeignKeyDescriptor(), path, true, false);
        }
    }

    private static boolean removes(AttributeMapping attribute) {
        CascadeStyle style = attribute.getAttributeMetadata().getCascadeStyle();
        return style.doCascade(CascadingActions.REMOVE) || style.hasOrphanDelete();
    }

    private void add(@Nullable ForeignKeyDescriptor key, String path, boolean owned, boolean removes) {
        if (key == null || subquery(key.getKeyTable()) || subquery(key.getTargetTable())) {
            return;
        }
        add(new MappedLink(
                names.table(key.getKeyTable()),
                columns(key.getKeyPart()),
                names.table(key.getTargetTable()),
                columns(key.getTargetPart()),
                path,
                owned,
                removes));
    }

    private static boolean subquery(String table) {
        return table.startsWith("(");
    }

    private void add(MappedLink link) {
        links.putIfAbsent(link.written() + link.attribute(), link);
    }

    private static List<String> columns(ModelPart part) {
        List<String> columns = new ArrayList<>();
        part.forEachSelectable((index, each) -> columns.add(TableNames.column(each.getSelectionExpression())));
        return columns;
    }
}
