// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.failure.BusyException;
import io.vacancy.jdbc.internal.archive.ArchiveTables;
import io.vacancy.jdbc.internal.schema.SchemaCache;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.jdbc.internal.session.Transactions;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.time.Duration;
import java.util.function.Function;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What everything that a store does begins with: the engine, what is known of the schema, and where transactions come from.
 *
 * @param keysInMemory how many keys of a table are kept in memory before a temporary table is used
 */
public record StoreContext(Dialect dialect, SchemaCache cache, Transactions transactions, int keysInMemory) {

    /** The tables as they were read last. */
    public Schema schema() {
        return cache.schema();
    }

    /** Vacancy's own tables. */
    public ArchiveTables archive() {
        return ArchiveTables.of(cache);
    }

    /** The one that transactions name which only touch Vacancy's own tables. */
    public TableName trailTable() {
        return cache.ownTables().tables().table("trail");
    }

    /** Looks in a transaction that is undone afterwards, key tables and all. */
    public <T> T looking(@Nullable Duration lockTimeout, ExecutionMonitor monitor, Function<Session, T> look) {
        return beginning(lockTimeout, monitor, transaction -> {
            T seen = look.apply(transaction.session());
            transaction.close();
            return seen;
        });
    }

    /** The same for a stream; the transaction lives as long as it does. */
    public <T> Stream<T> streaming(
            @Nullable Duration lockTimeout, ExecutionMonitor monitor, Function<Session, Stream<T>> query) {
        return beginning(lockTimeout, monitor, transaction -> {
            Stream<T> stream = query.apply(transaction.session()).onClose(transaction::close);
            transaction.streaming();
            return stream;
        });
    }

    /** Begins a look; where it lost against another transaction, it is begun again. */
    private <T> T beginning(@Nullable Duration lockTimeout, ExecutionMonitor monitor, Function<Transaction, T> look) {
        for (int attempt = 1; ; attempt++) {
            Transaction transaction;
            try {
                transaction = transactions.begin(
                        keysInMemory, monitor, dialect.locking().isolationForLooking());
            } catch (LockConflictException busy) {
                throw new BusyException(busy.table(), busy.detail(), busy);
            }
            try {
                transaction.limitWaiting(lockTimeout);
                return look.apply(transaction);
            } catch (LockConflictException busy) {
                close(transaction, busy);
                if (!transaction.mayBeRepeated(busy, attempt)) {
                    throw new BusyException(busy.table(), busy.detail(), busy);
                }
            } catch (RuntimeException failed) {
                close(transaction, failed);
                throw failed;
            }
        }
    }

    /** What failed first is what is told. */
    private static void close(Transaction transaction, RuntimeException failed) {
        try {
            transaction.close();
        } catch (RuntimeException again) {
            failed.addSuppressed(again);
        }
    }

    /** A transaction in which rows are to be removed. */
    Transaction beginRemoving(ExecutionMonitor monitor) {
        return transactions.begin(keysInMemory, monitor, dialect.locking().isolationForRemoving());
    }

    /** A transaction for Vacancy's own tables. */
    Transaction beginOwn(int keys) {
        return transactions.begin(
                keys, new ExecutionMonitor() {}, dialect.locking().isolationForOwnTables());
    }
}
