// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import org.jspecify.annotations.Nullable;

/** How rows are locked, how long that is waited for, and what a transaction sees. The defaults are standard SQL. */
public interface Locking {

    /**
     * Called on every connection of Vacancy's own, before its transaction begins.
     *
     * @return the statement that gives the connection back as it was, once the transaction is over; null where nothing was
     *     changed
     */
    default @Nullable String prepare(Connection connection) throws SQLException {
        return null;
    }

    /** The isolation for looking, in which all statements see one state. */
    default String isolationForLooking() {
        return "REPEATABLE READ";
    }

    /** The isolation for carrying out, in which each statement sees the latest commits. */
    default String isolationForRemoving() {
        return "READ COMMITTED";
    }

    /** The isolation for writing in Vacancy's own tables, in which each statement sees what is committed. */
    default String isolationForOwnTables() {
        return "READ COMMITTED";
    }

    /**
     * A statement that sets the isolation of the transaction it begins, and of no other; null where there is
     * none, and where there is no choice. It saves asking for the connection's own isolation and setting it
     * back, each of which is a way to the server and back.
     */
    default @Nullable String setIsolation(String level) {
        return null;
    }

    /** The isolation as JDBC has it, for engines without such a statement; null to leave it as it is. */
    default @Nullable Integer connectionIsolation(String level) {
        return null;
    }

    /** Whether rows are locked one by one, so that what was read before can be older than a lock. */
    default boolean locksSingleRows() {
        return !forUpdate().isEmpty();
    }

    /** A statement that makes other writers wait from the start, where rows cannot be locked one by one. */
    default @Nullable String lockWhole(TableName table) {
        return null;
    }

    /** What makes a SELECT lock the rows it returns until the transaction ends. */
    default String forUpdate() {
        return " FOR UPDATE";
    }

    /** Whether a locked parent row keeps others from inserting children of it, where the database enforces it. */
    default boolean parentsLockOutChildren() {
        return false;
    }

    /** Whether a deadlock undoes all of the transaction that loses, and its savepoints with it. */
    default boolean deadlockEndsTransaction() {
        return false;
    }

    /**
     * Whether a conflict can undo a transaction without any statement telling it, so that what follows would be committed
     * alone. Then Vacancy looks, before its commit, whether the transaction is still the one that it began.
     *
     * @param connection to be asked; what is found holds for all of this database
     */
    default boolean undoesUnnoticed(Connection connection) throws SQLException {
        return false;
    }

    /**
     * Marks the transaction that a connection is in.
     *
     * @param connection whose transaction has changed something, where the engine numbers only those
     */
    default TransactionMark mark(Connection connection) throws SQLException {
        Savepoint savepoint = connection.setSavepoint();
        return () -> connection.releaseSavepoint(savepoint);
    }

    /**
     * A query that fails in a session that is no more, where a commit in such a session returns as if it had been done;
     * null where a commit tells that itself.
     */
    default @Nullable String sessionIsThere() {
        return null;
    }

    /** How waiting is limited; null where an engine cannot limit it. */
    default @Nullable WaitSetting waitSetting() {
        return null;
    }
}
