// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.mapping;

import io.vacancy.failure.MisuseException;
import jakarta.persistence.EntityManagerFactory;
import jakarta.persistence.metamodel.EntityType;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Supplier;
import org.hibernate.Session;
import org.hibernate.engine.spi.SessionFactoryImplementor;
import org.hibernate.metamodel.mapping.EntityMappingType;
import org.hibernate.metamodel.mapping.PluralAttributeMapping;
import org.hibernate.persister.collection.CollectionPersister;
import org.hibernate.persister.entity.EntityPersister;
import org.jspecify.annotations.Nullable;

/** The entities of a persistence unit. For all threads. */
public final class EntityMapping {

    private final SessionFactoryImplementor factory;
    private final TableNames names;
    private final Map<Class<?>, MappedEntity> entities = new LinkedHashMap<>();

    private EntityMapping(SessionFactoryImplementor factory) {
        this.factory = factory;
        this.names = factory.fromSession(session -> session.doReturningWork(TableNames::of));
        Supplier<Session> sessions = factory::openSession;
        EntityManagerFactory standard = factory;
        for (EntityType<?> entity : standard.getMetamodel().getEntities()) {
            Class<?> type = entity.getJavaType();
            // Those without a class have nothing that a request could begin with.
            if (type != null && type != Map.class) {
                EntityPersister descriptor = descriptor(type.getName());
                entities.put(type, new MappedEntity(entity, descriptor, names, sessions, this::descriptor));
            }
        }
    }

    /** @throws MisuseException if it is none of Hibernate's */
    public static EntityMapping of(EntityManagerFactory factory) {
        Objects.requireNonNull(factory, "factory");
        try {
            return new EntityMapping(factory.unwrap(SessionFactoryImplementor.class));
        } catch (jakarta.persistence.PersistenceException other) {
            throw new MisuseException(
                    "The entity manager factory is one of " + factory.getClass().getName()
                            + ", and only Hibernate's is known.",
                    "Write requests with the names of tables and columns.");
        }
    }

    private EntityPersister descriptor(String entity) {
        return factory.getMappingMetamodel().getEntityDescriptor(entity);
    }

    /** The collections that an entity has. */
    public List<CollectionPersister> collectionsOf(MappedEntity entity) {
        List<CollectionPersister> all = new ArrayList<>();
        factory.getMappingMetamodel().forEachCollectionDescriptor(each -> {
            if (each.getOwnerEntityPersister() == entity.descriptor()) {
                all.add(each);
            }
        });
        return all;
    }

    /** The tables that decide what elements a collection has. */
    public List<String> tablesOf(CollectionPersister collection) {
        PluralAttributeMapping attribute = collection.getAttributeMapping();
        List<String> tables = new ArrayList<>();
        tables.add(names.table(attribute.getKeyDescriptor().getKeyTable()));
        if (attribute.getElementDescriptor().getPartMappingType() instanceof EntityMappingType type) {
            MappedEntity element = entity(type.getMappedJavaType().getJavaTypeClass());
            if (!element.severalTables()) {
                tables.add(element.table());
            }
        }
        return tables;
    }

    /** What identifies the row of an object, which need not be read for it; null where it has none yet. */
    public @Nullable Object identifier(Object object) {
        return factory.getPersistenceUnitUtil().getIdentifier(object);
    }

    /** Whose they are. */
    public SessionFactoryImplementor factory() {
        return factory;
    }

    /** All of them. */
    public Collection<MappedEntity> entities() {
        return List.copyOf(entities.values());
    }

    /**
     * The entity of a class, or that which a class is a proxy of.
     *
     * @throws MisuseException if it is none
     */
    public MappedEntity entity(Class<?> type) {
        Objects.requireNonNull(type, "type");
        for (Class<?> each = type; each != null; each = each.getSuperclass()) {
            MappedEntity found = entities.get(each);
            if (found != null) {
                return found;
            }
        }
        throw new MisuseException("Class " + type.getName() + " is no entity of this persistence unit.");
    }
}
