// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jpa.transaction;

import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.CallerTransaction.Completion;
import io.vacancy.spi.TransactionParticipant;
import jakarta.persistence.EntityManager;
import jakarta.transaction.Status;
import jakarta.transaction.Synchronization;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Consumer;
import java.util.function.Supplier;
import org.hibernate.Session;
import org.jspecify.annotations.Nullable;

/** Transactions that an application begins on entity managers of its own. For all threads. */
final class ManagerTransactions implements TransactionParticipant {

    private final Supplier<? extends @Nullable EntityManager> current;
    private final Map<Session, Joined> joined = new ConcurrentHashMap<>();

    ManagerTransactions(Supplier<? extends @Nullable EntityManager> current) {
        this.current = current;
    }

    @Override
    public @Nullable CallerTransaction current() {
        EntityManager manager = current.get();
        if (manager == null || !manager.isOpen() || !manager.isJoinedToTransaction()) {
            return null;
        }
        Session session = manager.unwrap(Session.class);
        return joined.computeIfAbsent(session, begun -> {
            Joined one = new Joined(session);
            session.getTransaction().registerSynchronization(one);
            return one;
        });
    }

    /** One of them, until it ends. */
    private final class Joined implements CallerTransaction, Synchronization {

        private final Session session;
        private final List<Consumer<Completion>> told = new ArrayList<>();
        private boolean committing;

        Joined(Session session) {
            this.session = session;
        }

        @Override
        public Object connection() {
            return session.doReturningWork(connection -> connection);
        }

        @Override
        public boolean readOnly() {
            return session.isDefaultReadOnly();
        }

        @Override
        public void whenCompleted(Consumer<Completion> listener) {
            told.add(listener);
        }

        @Override
        public void beforeCompletion() {
            committing = true;
        }

        /** The provider says no more than that it was not committed, be it rolled back or lost on the way. */
        @Override
        public void afterCompletion(int status) {
            joined.remove(session);
            Completion failed = committing ? Completion.UNKNOWN : Completion.ROLLED_BACK;
            Completion completion = status == Status.STATUS_COMMITTED ? Completion.COMMITTED : failed;
            told.forEach(each -> each.accept(completion));
            told.clear();
        }
    }
}
