// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.internal.context;

import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.jpa.internal.mapping.MappedEntity;
import jakarta.persistence.EntityNotFoundException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.HashMap;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.hibernate.FlushMode;
import org.hibernate.HibernateException;
import org.hibernate.Session;
import org.hibernate.engine.spi.EntityEntry;
import org.hibernate.engine.spi.PersistenceContext;
import org.hibernate.engine.spi.SharedSessionContractImplementor;
import org.hibernate.persister.entity.EntityPersister;
import org.jspecify.annotations.Nullable;

/**
 * Brings the managed entities of one session up to date after rows were removed or changed beside it: those whose row is gone
 * are detached, those whose row was changed are refreshed, collections that have other elements now are read again. Others are
 * not touched. On the session's thread.
 */
public final class ManagedEntities {

    private static final int AT_ONCE = 500;

    private final Session session;
    private final PersistenceContext context;
    private final EntityMapping mapping;
    private final AffectedTables affected;
    private final Set<Object> gone = Collections.newSetFromMap(new IdentityHashMap<>());
    private final Set<Object> changed = Collections.newSetFromMap(new IdentityHashMap<>());

    public ManagedEntities(Session session, EntityMapping mapping, AffectedTables affected) {
        this.session = session;
        this.context = session.unwrap(SharedSessionContractImplementor.class).getPersistenceContext();
        this.mapping = mapping;
        this.affected = affected;
    }

    /** Brings them up to date. */
    public void update() {
        Map<MappedEntity, Map<Object, Object>> candidates = new LinkedHashMap<>();
        for (Map.Entry<Object, EntityEntry> entry : context.reentrantSafeEntityEntries()) {
            EntityPersister persister = entry.getValue().getPersister();
            MappedEntity entity = mapping.entity(persister.getMappedClass());
            boolean stored =
                    entry.getValue().isExistsInDatabase() && entry.getValue().getId() != null;
            if (stored && (entity.severalTables() || affected.has(entity.table()))) {
                candidates
                        .computeIfAbsent(entity, each -> new LinkedHashMap<>())
                        .put(entry.getValue().getId(), entry.getKey());
            }
        }
        candidates.forEach(this::compare);
        ManagedCollections collections = new ManagedCollections(session, context, mapping, affected);
        List<ManagedCollections.Stale> stale = collections.stale(gone, changed);
        // Before anything is refreshed, since that would reach for what is gone through them.
        stale.forEach(collections::reset);
        gone.forEach(session::detach);
        changed.forEach(this::refresh);
        stale.forEach(collections::initialize);
    }

    /** Compares what is remembered with what is there, in the columns that may have been written. */
    private void compare(MappedEntity entity, Map<Object, Object> instances) {
        List<String> paths = writtenPaths(entity);
        boolean comparable = paths.stream().noneMatch(entity::refersByAnotherKey);
        List<Object> ids = List.copyOf(instances.keySet());
        for (int from = 0; from < ids.size(); from += AT_ONCE) {
            List<Object> part = ids.subList(from, Math.min(ids.size(), from + AT_ONCE));
            Map<Object, Object[]> found = rows(entity, comparable ? paths : List.of(), part);
            for (Object id : part) {
                Object instance = Objects.requireNonNull(instances.get(id));
                Object[] row = found.get(id);
                if (row == null) {
                    gone.add(instance);
                } else if (!comparable || differs(entity, instance, paths, row)) {
                    changed.add(instance);
                }
            }
        }
    }

    private Map<Object, Object[]> rows(MappedEntity entity, List<String> paths, List<Object> ids) {
        List<String> selected = new ArrayList<>(List.of("id(e)"));
        paths.forEach(path -> selected.add(entity.refers(path) ? "id(e." + path + ")" : "e." + path));
        Map<Object, Object[]> found = new HashMap<>();
        session.createQuery(
                        "select " + String.join(", ", selected) + " from " + entity.name() + " e where id(e) in (:ids)",
                        Object[].class)
                .setParameterList("ids", ids)
                .setHibernateFlushMode(FlushMode.MANUAL)
                .getResultList()
                .forEach(row -> found.put(row[0], row));
        return found;
    }

    /** The attributes whose columns may have been written. */
    private List<String> writtenPaths(MappedEntity entity) {
        Set<String> columns = entity.severalTables() ? null : affected.columns(entity.table());
        return columns == null ? List.of() : entity.attributesIn(columns);
    }

    private boolean differs(MappedEntity entity, Object instance, List<String> paths, Object[] row) {
        for (int i = 0; i < paths.size(); i++) {
            Object remembered = entity.value(instance, paths.get(i));
            Object known = entity.refers(paths.get(i)) ? identifier(remembered) : remembered;
            if (!Objects.equals(known, row[i + 1])) {
                return true;
            }
        }
        return false;
    }

    private @Nullable Object identifier(@Nullable Object reference) {
        return reference == null ? null : mapping.identifier(reference);
    }

    private void refresh(Object instance) {
        if (!session.contains(instance)) {
            // Detached with what it was part of.
            return;
        }
        try {
            session.refresh(instance);
        } catch (EntityNotFoundException | HibernateException hidden) {
            // Such as by a restriction of the entity, once it is marked.
            session.detach(instance);
        }
    }
}
