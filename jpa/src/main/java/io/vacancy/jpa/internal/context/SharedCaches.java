// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.context;

import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import io.vacancy.jpa.internal.mapping.MappedLink;
import org.hibernate.Cache;
import org.hibernate.persister.collection.CollectionPersister;

/** What all entity managers of a persistence unit share: regions of entities, of collections and of queries. For all threads. */
public record SharedCaches(EntityMapping mapping) {

    /** Forgets what is cached of affected tables, and the results of queries. */
    public void forget(AffectedTables affected) {
        if (!used()) {
            return;
        }
        Cache cache = mapping.factory().getCache();
        for (MappedEntity entity : mapping.entities()) {
            if (entity.severalTables() || affected.has(entity.table())) {
                cache.evictEntityData(entity.type());
                cache.evictNaturalIdData(entity.type());
            }
            if (entity.links().stream().anyMatch(link -> touches(link, affected))) {
                mapping.collectionsOf(entity).stream()
                        .map(CollectionPersister::getRole)
                        .forEach(cache::evictCollectionData);
            }
        }
        cache.evictDefaultQueryRegion();
        cache.evictQueryRegions();
    }

    private static boolean touches(MappedLink link, AffectedTables affected) {
        return affected.has(link.child()) || affected.has(link.parent());
    }

    /** Forgets everything, where it is not known what was done. */
    public void forgetAll() {
        if (used()) {
            mapping.factory().getCache().evictAllRegions();
        }
    }

    private boolean used() {
        return mapping.factory().getSessionFactoryOptions().isSecondLevelCacheEnabled()
                || mapping.factory().getSessionFactoryOptions().isQueryCacheEnabled();
    }
}
