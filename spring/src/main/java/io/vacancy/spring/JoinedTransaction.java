// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring;

import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.CallerTransaction.Completion;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.ConnectionHolder;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** One transaction of Spring's, with the savepoints set in it. One thread only. */
final class JoinedTransaction implements TransactionSynchronization {

    private final Object key;
    private final ConnectionHolder holder;
    private final boolean readOnly;
    private final Deque<Part> parts = new ArrayDeque<>();
    private boolean committed;

    JoinedTransaction(Object key, ConnectionHolder holder, boolean readOnly) {
        this.key = key;
        this.holder = holder;
        this.readOnly = readOnly;
        parts.addLast(new Part(null));
    }

    /** What is done from here on; null once it is committed, since nothing on its connection would be any more. */
    @Nullable
    CallerTransaction current() {
        return committed ? null : parts.getLast();
    }

    /** What was done since a savepoint, or the beginning, and goes with it. */
    private final class Part implements CallerTransaction {

        private final @Nullable Object savepoint;
        private final List<Consumer<Completion>> told = new ArrayList<>();

        Part(@Nullable Object savepoint) {
            this.savepoint = savepoint;
        }

        @Override
        public Object connection() {
            return holder.getConnection();
        }

        @Override
        public boolean readOnly() {
            return readOnly;
        }

        @Override
        public void whenCompleted(Consumer<Completion> listener) {
            told.add(listener);
        }

        void end(Completion completion) {
            told.forEach(each -> each.accept(completion));
            told.clear();
        }
    }

    @Override
    public void savepoint(Object savepoint) {
        parts.addLast(new Part(savepoint));
    }

    /** One that was set before anything was done here takes all of it back. */
    @Override
    public void savepointRollback(Object savepoint) {
        boolean known = parts.stream().anyMatch(part -> savepoint.equals(part.savepoint));
        boolean reached = false;
        while (!reached && !parts.isEmpty()) {
            Part last = parts.removeLast();
            last.end(Completion.ROLLED_BACK);
            reached = known && savepoint.equals(last.savepoint);
        }
        parts.addLast(new Part(reached ? savepoint : null));
    }

    @Override
    public void suspend() {
        TransactionSynchronizationManager.unbindResourceIfPossible(key);
    }

    @Override
    public void resume() {
        TransactionSynchronizationManager.bindResource(key, this);
    }

    @Override
    public void afterCommit() {
        committed = true;
    }

    @Override
    public void afterCompletion(int status) {
        TransactionSynchronizationManager.unbindResourceIfPossible(key);
        Completion completion =
                switch (status) {
                    case STATUS_COMMITTED -> Completion.COMMITTED;
                    case STATUS_ROLLED_BACK -> Completion.ROLLED_BACK;
                    default -> Completion.UNKNOWN;
                };
        List.copyOf(parts).forEach(part -> part.end(completion));
    }
}
