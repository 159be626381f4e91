// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.failure.BusyException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import java.sql.Connection;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/**
 * The tables of an {@link OwnTableModule}, for the module that they belong to: what they are called in this database, and
 * transactions to work on them in. Serves all threads.
 */
public interface OwnTableAccess {

    /** The name of one of the tables, as it is written in a statement. */
    String name(String table);

    /** The engine. */
    Dialect dialect();

    /** @throws NotSetUpException if Vacancy's own tables are not there, or of an older version */
    void wantsReady();

    /**
     * Looks, in a transaction that is undone afterwards.
     *
     * @throws StoreException if the database fails
     */
    <T> T reading(Work<T> work);

    /**
     * Writes, in a transaction that is committed when the work returns; again after a deadlock.
     *
     * @throws BusyException if somebody else holds the rows
     * @throws StoreException if the database fails
     */
    <T> T writing(Work<T> work);

    /** What the database had against something that failed; null where it was not the database. */
    @Nullable
    Fault fault(VacancyException failed);

    /** Work on a connection, which is neither committed nor closed by it. */
    @FunctionalInterface
    interface Work<T> {
        T run(Connection connection) throws SQLException;
    }
}
