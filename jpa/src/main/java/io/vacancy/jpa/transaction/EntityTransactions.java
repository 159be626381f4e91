// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.transaction;

import io.vacancy.jpa.internal.context.AffectedTables;
import io.vacancy.jpa.internal.context.ManagedEntities;
import io.vacancy.jpa.internal.context.SharedCaches;
import io.vacancy.jpa.internal.mapping.EntityMapping;
import io.vacancy.outcome.Outcome;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.TransactionParticipant;
import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityManagerFactory;
import java.util.Objects;
import java.util.function.Supplier;
import org.hibernate.Session;
import org.jspecify.annotations.Nullable;

/**
 * Has Vacancy work in the transaction of an entity manager, and keeps what that manager and its caches remember true:
 *
 * <ul>
 *   <li>before a request is looked at or carried out in the transaction, what the manager keeps back is flushed;
 *   <li>afterwards managed entities whose row is gone are detached, those whose row was changed are refreshed, and collections
 *       with other elements are read again; others are not touched, and nothing is if nothing was done;
 *   <li>second-level and query cache regions of the affected tables are evicted, and once more when the transaction ends.
 * </ul>
 *
 * <p>{@code Vacancy.on(store).joining(EntityTransactions.of(factory, () -> entityManager))}. Transactions are those of the entity
 * manager's own, not JTA. For all threads; an entity manager is used on the thread that it was found on.
 */
public final class EntityTransactions implements TransactionParticipant {

    private final TransactionParticipant joining;
    private final Supplier<? extends @Nullable EntityManager> current;
    private final EntityMapping mapping;
    private final SharedCaches caches;

    private EntityTransactions(
            TransactionParticipant joining,
            EntityManagerFactory factory,
            Supplier<? extends @Nullable EntityManager> current) {
        this.joining = joining;
        this.current = current;
        this.mapping = EntityMapping.of(factory);
        this.caches = new SharedCaches(mapping);
    }

    /**
     * In transactions that the application begins on entity managers of its own.
     *
     * @param current the one that the calling thread works with, or null where it has none
     */
    public static EntityTransactions of(
            EntityManagerFactory factory, Supplier<? extends @Nullable EntityManager> current) {
        Objects.requireNonNull(factory, "factory");
        Objects.requireNonNull(current, "current");
        return new EntityTransactions(new ManagerTransactions(current), factory, current);
    }

    /**
     * In transactions that somebody else joins, such as a framework's, on the connection of the entity manager.
     *
     * @param current the entity manager that the calling thread works with, or null where it has none
     */
    public static EntityTransactions of(
            EntityManagerFactory factory,
            Supplier<? extends @Nullable EntityManager> current,
            TransactionParticipant joining) {
        Objects.requireNonNull(factory, "factory");
        Objects.requireNonNull(current, "current");
        return new EntityTransactions(Objects.requireNonNull(joining, "joining"), factory, current);
    }

    @Override
    public @Nullable CallerTransaction current() {
        return joining.current();
    }

    @Override
    public void beforeRequest() {
        joining.beforeRequest();
        CallerTransaction transaction = joining.current();
        EntityManager manager = manager();
        if (transaction != null && !transaction.readOnly() && manager != null && manager.isJoinedToTransaction()) {
            manager.flush();
        }
    }

    @Override
    public void afterRequest(Outcome outcome, ResolvedRules rules) {
        joining.afterRequest(outcome, rules);
        if (outcome instanceof Outcome.InDoubt) {
            caches.forgetAll();
        }
        if (outcome instanceof Outcome.Done done) {
            AffectedTables affected = AffectedTables.of(done.receipt(), rules);
            caches.forget(affected);
            CallerTransaction transaction = joining.current();
            if (transaction != null) {
                // Others may have read what was not committed yet, or has been rolled back.
                transaction.whenCompleted(completion -> caches.forget(affected));
            }
            EntityManager manager = manager();
            if (manager != null) {
                update(manager, affected);
            }
        }
    }

    /** Nothing stale stays managed: it could be written back, and undo what was done. */
    private void update(EntityManager manager, AffectedTables affected) {
        try {
            new ManagedEntities(manager.unwrap(Session.class), mapping, affected).update();
        } catch (RuntimeException failed) {
            manager.clear();
            throw new IllegalStateException(
                    "Managed entities could not be compared with their rows, so all of them are detached.", failed);
        }
    }

    private @Nullable EntityManager manager() {
        EntityManager manager = current.get();
        return manager == null || !manager.isOpen() ? null : manager;
    }
}
