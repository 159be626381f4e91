// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.failure.BusyException;
import io.vacancy.failure.StoreException;
import io.vacancy.jdbc.internal.session.CommitUnknownException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.jdbc.internal.tables.OwnTableTransactions;
import io.vacancy.spi.ExecutionMonitor;
import java.util.function.Function;
import java.util.stream.Stream;

/** Work on Vacancy's own tables that belongs to no deletion: in transactions of its own, tried again after a deadlock. */
public record OwnTableWork(StoreContext context) implements OwnTableTransactions {

    @Override
    public <T> T looking(Function<Session, T> look) {
        return context.looking(null, new ExecutionMonitor() {}, look);
    }

    @Override
    public <T> Stream<T> streaming(Function<Session, Stream<T>> query) {
        return context.streaming(null, new ExecutionMonitor() {}, query);
    }

    @Override
    public <T> T writing(Function<Session, T> write) {
        for (int attempt = 1; ; attempt++) {
            try (Transaction transaction = context.beginOwn(context.keysInMemory())) {
                try {
                    T written = write.apply(transaction.session());
                    transaction.finish(context.trailTable());
                    return written;
                } catch (CommitUnknownException unknown) {
                    throw new StoreException(
                            "The connection was lost while Vacancy's own tables were being written, so whether it"
                                    + " was committed is not known: " + unknown.getMessage(),
                            "Look before trying again.",
                            "committing",
                            null,
                            null,
                            unknown.getCause());
                } catch (LockConflictException busy) {
                    if (!transaction.mayBeRepeated(busy, attempt)) {
                        throw new BusyException(busy.table(), busy.detail(), busy);
                    }
                }
            }
        }
    }
}
