// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.jpa;

import io.vacancy.jpa.transaction.EntityTransactions;
import io.vacancy.spring.SpringTransactions;
import jakarta.persistence.EntityManager;
import jakarta.persistence.EntityManagerFactory;
import java.util.Objects;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.datasource.DelegatingDataSource;
import org.springframework.orm.jpa.EntityManagerFactoryInfo;
import org.springframework.orm.jpa.EntityManagerHolder;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/** Keeps the entity manager true that Spring has bound to the calling thread, by a transaction or for an HTTP request. */
public final class BoundEntityManagers {

    private BoundEntityManagers() {}

    /** Transactions of Spring's, in which entity managers of this factory are flushed before and brought up to date after. */
    public static EntityTransactions of(EntityManagerFactory factory, SpringTransactions transactions) {
        Objects.requireNonNull(factory, "factory");
        Objects.requireNonNull(transactions, "transactions");
        return EntityTransactions.of(factory, () -> bound(factory), transactions);
    }

    /** Whether entities of the factory are rows of a data source, as far as Spring knows. */
    public static boolean areOf(EntityManagerFactory factory, DataSource source) {
        Objects.requireNonNull(source, "source");
        DataSource other = factory instanceof EntityManagerFactoryInfo info ? info.getDataSource() : null;
        return other == null || behind(other) == behind(source);
    }

    private static DataSource behind(DataSource source) {
        DataSource each = source;
        while (each instanceof DelegatingDataSource proxy && proxy.getTargetDataSource() != null) {
            each = proxy.getTargetDataSource();
        }
        return each;
    }

    /** Looked up only, since asking for it would bind one where there is none. */
    private static @Nullable EntityManager bound(EntityManagerFactory factory) {
        return TransactionSynchronizationManager.getResource(factory) instanceof EntityManagerHolder holder
                ? holder.getEntityManager()
                : null;
    }
}
