// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.context;

import io.vacancy.jpa.internal.mapping.EntityMapping;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.hibernate.FlushMode;
import org.hibernate.Hibernate;
import org.hibernate.Session;
import org.hibernate.collection.spi.PersistentCollection;
import org.hibernate.engine.spi.CollectionEntry;
import org.hibernate.engine.spi.CollectionKey;
import org.hibernate.engine.spi.EntityEntry;
import org.hibernate.engine.spi.PersistenceContext;
import org.hibernate.engine.spi.SharedSessionContractImplementor;
import org.hibernate.metamodel.mapping.PluralAttributeMapping;
import org.hibernate.persister.collection.CollectionPersister;
import org.hibernate.property.access.spi.PropertyAccess;

/** The collections of managed entities that were read already. On the session's thread. */
final class ManagedCollections {

    private final Session session;
    private final PersistenceContext context;
    private final EntityMapping mapping;
    private final AffectedTables affected;

    ManagedCollections(Session session, PersistenceContext context, EntityMapping mapping, AffectedTables affected) {
        this.session = session;
        this.context = context;
        this.mapping = mapping;
        this.affected = affected;
    }

    /** A collection that has other elements now. */
    static final class Stale {

        private final PersistentCollection<?> before;
        private final CollectionPersister persister;
        private final Object owner;
        private final Object key;

        private Stale(PersistentCollection<?> before, CollectionPersister persister, Object owner, Object key) {
            this.before = before;
            this.persister = persister;
            this.owner = owner;
            this.key = key;
        }
    }

    /** Those whose owner stays and whose elements are others now. */
    List<Stale> stale(Set<Object> gone, Set<Object> changed) {
        List<Stale> stale = new ArrayList<>();
        Map<PersistentCollection<?>, CollectionEntry> known = context.getCollectionEntries();
        if (known == null) {
            return stale;
        }
        for (Map.Entry<PersistentCollection<?>, CollectionEntry> each : List.copyOf(known.entrySet())) {
            PersistentCollection<?> collection = each.getKey();
            CollectionPersister persister = each.getValue().getLoadedPersister();
            Object owner = collection.getOwner();
            boolean read = persister != null && owner != null && collection.wasInitialized();
            if (read && !gone.contains(owner) && over(persister)) {
                Stale one =
                        new Stale(collection, persister, owner, each.getValue().getLoadedKey());
                if (holds(collection, persister, gone, changed) || counted(one) != size(collection, persister)) {
                    stale.add(one);
                }
            }
        }
        return stale;
    }

    /** Whether its elements, or its links, are in an affected table. */
    private boolean over(CollectionPersister persister) {
        return mapping.tablesOf(persister).stream().anyMatch(affected::has);
    }

    private static boolean holds(
            PersistentCollection<?> collection, CollectionPersister persister, Set<Object> gone, Set<Object> changed) {
        var elements = collection.entries(persister);
        while (elements.hasNext()) {
            Object element = collection.getElement(elements.next());
            if (gone.contains(element) || changed.contains(element)) {
                return true;
            }
        }
        return false;
    }

    private static long size(PersistentCollection<?> collection, CollectionPersister persister) {
        long size = 0;
        for (var elements = collection.entries(persister); elements.hasNext(); elements.next()) {
            size++;
        }
        return size;
    }

    private long counted(Stale one) {
        PluralAttributeMapping attribute = one.persister.getAttributeMapping();
        String owner = mapping.entity(Hibernate.getClass(one.owner)).name();
        String path = attribute
                .getNavigableRole()
                .getFullPath()
                .substring(
                        attribute.findContainingEntityMapping().getEntityName().length() + 1);
        return session.createQuery(
                        "select count(*) from " + owner + " o join o." + path + " c where id(o) = :id", Long.class)
                .setParameter("id", mapping.identifier(one.owner))
                .setHibernateFlushMode(FlushMode.MANUAL)
                .getSingleResult();
    }

    /** Puts one that is not read yet in its place, as the provider does when it refreshes an entity. */
    void reset(Stale one) {
        SharedSessionContractImplementor own = session.unwrap(SharedSessionContractImplementor.class);
        context.removeCollectionEntry(one.before);
        context.removeCollectionByKey(new CollectionKey(one.persister, one.key));
        one.before.unsetSession(own);
        PersistentCollection<?> fresh = one.persister.getCollectionType().instantiate(own, one.persister, one.key);
        fresh.setOwner(one.owner);
        context.addUninitializedCollection(one.persister, fresh, one.key);
        PluralAttributeMapping attribute = one.persister.getAttributeMapping();
        access(one).getSetter().set(holder(one), fresh);
        EntityEntry entry = context.getEntry(one.owner);
        if (entry != null && holder(one) == one.owner) {
            entry.overwriteLoadedStateCollectionValue(attribute.getAttributeName(), fresh);
        }
    }

    /** The entity, or the embeddable of it that has the collection. */
    private Object holder(Stale one) {
        String role = one.persister.getRole();
        String owner = one.persister.getOwnerEntityPersister().getEntityName();
        String path = role.substring(owner.length() + 1);
        int last = path.lastIndexOf('.');
        return last < 0
                ? one.owner
                : Objects.requireNonNull(
                        one.persister.getOwnerEntityPersister().getPropertyValue(one.owner, path.substring(0, last)));
    }

    /** Reads what is in its place by now, as it was read before; refreshing its owner puts another one there. */
    void initialize(Stale one) {
        if (session.contains(one.owner)) {
            Hibernate.initialize(access(one).getGetter().get(holder(one)));
        }
    }

    private static PropertyAccess access(Stale one) {
        return one.persister.getAttributeMapping().getAttributeMetadata().getPropertyAccess();
    }
}
