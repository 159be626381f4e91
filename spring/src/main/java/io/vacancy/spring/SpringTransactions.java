// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring;

import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.TransactionParticipant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.ConnectionHolder;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.jdbc.datasource.TransactionAwareDataSourceProxy;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Has Vacancy join the transactions that Spring begins on a data source, by {@code @Transactional}, a template or hand, over
 * JDBC or JPA: {@code Vacancy.on(store).joining(new SpringTransactions(dataSource))}. What is done in one is part of it, and
 * listeners hear of it once it is committed; a nested one that goes back to its savepoint, and one that is suspended, are
 * told apart. Where the thread is in no transaction of this data source, Vacancy's own are used. For all threads.
 *
 * <p>The store is to be opened on {@link #ownConnections}, so that {@link io.vacancy.Vacancy#separately} is separate.
 */
public final class SpringTransactions implements TransactionParticipant {

    private final List<DataSource> sources = new ArrayList<>();

    /** @param source the one whose transactions are joined; proxies around it are looked through */
    public SpringTransactions(DataSource source) {
        Objects.requireNonNull(source, "source");
        for (DataSource each = source; each != null; each = behind(each)) {
            sources.add(each);
        }
    }

    /**
     * The data source behind proxies that hand out the connection of the transaction that the calling thread is in: what
     * Vacancy would do on a connection of its own would commit that one.
     *
     * @return the same, if it is no such proxy
     */
    public static DataSource ownConnections(DataSource source) {
        DataSource own = Objects.requireNonNull(source, "source");
        while (own instanceof TransactionAwareDataSourceProxy proxy && proxy.getTargetDataSource() != null) {
            own = proxy.getTargetDataSource();
        }
        return own;
    }

    private static @Nullable DataSource behind(DataSource source) {
        return source instanceof DelegatingDataSource proxy ? proxy.getTargetDataSource() : null;
    }

    @Override
    public @Nullable CallerTransaction current() {
        if (!TransactionSynchronizationManager.isActualTransactionActive()
                || !TransactionSynchronizationManager.isSynchronizationActive()) {
            // Also after a commit, when nothing that is done on the connection would be committed any more.
            return null;
        }
        JoinedTransaction joined = (JoinedTransaction) TransactionSynchronizationManager.getResource(this);
        if (joined != null) {
            return joined.current();
        }
        ConnectionHolder holder = holder();
        if (holder == null) {
            return null;
        }
        JoinedTransaction begun =
                new JoinedTransaction(this, holder, TransactionSynchronizationManager.isCurrentTransactionReadOnly());
        TransactionSynchronizationManager.bindResource(this, begun);
        TransactionSynchronizationManager.registerSynchronization(begun);
        return begun.current();
    }

    private @Nullable ConnectionHolder holder() {
        for (DataSource source : sources) {
            if (TransactionSynchronizationManager.getResource(source) instanceof ConnectionHolder holder) {
                return holder;
            }
        }
        return null;
    }
}
