// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.failure.MisuseException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Statement;
import java.util.function.Consumer;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** The caller's own transaction: never begun, committed or rolled back here, undone to a savepoint. */
public final class CallerTransaction extends Transaction {

    private static final Logger LOG = LoggerFactory.getLogger(CallerTransaction.class);

    private final Savepoint before;
    private boolean finished;
    private boolean streaming;

    private CallerTransaction(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside,
            Savepoint before) {
        super(connection, dialect, keysInMemory, monitor, beside);
        this.before = before;
    }

    public static Transaction join(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside) {
        try {
            if (connection.getAutoCommit()) {
                throw new MisuseException(
                        "The connection commits by itself after each statement, so a deletion on it could go half way.",
                        "Call setAutoCommit(false) first, or let Vacancy use a connection of its own.");
            }
            return new CallerTransaction(connection, dialect, keysInMemory, monitor, beside, connection.setSavepoint());
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, BEGIN, dialect);
        }
    }

    @Override
    public boolean mayBeRepeated() {
        return false;
    }

    @Override
    public boolean lostWith(LockConflictException conflict) {
        return conflict.deadlock() && dialect.locking().deadlockEndsTransaction();
    }

    /** A transaction that goes on seeing what was there when it began would lose again. */
    @Override
    public String told(LockConflictException conflict) {
        return conflict.deadlock() && mayReadStaleRows()
                ? conflict.detail() + " This transaction still sees the rows as they were, so begin it anew."
                : conflict.detail();
    }

    @Override
    public boolean mayReadStaleRows() {
        try {
            return dialect.locking().locksSingleRows()
                    && connection.getTransactionIsolation() >= Connection.TRANSACTION_REPEATABLE_READ;
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, BEGIN, dialect);
        }
    }

    @Override
    public void finish(TableName about) {
        session().sendAhead(StatementContext.of("ending the removal from", about));
        finished = true;
    }

    @Override
    public void streaming() {
        streaming = true;
    }

    /** Where a stream of the same transaction is still read, an engine may keep the table until the connection ends. */
    @Override
    void drop(Statement statement, String drop) {
        try {
            statement.execute(drop);
        } catch (SQLException stillUsed) {
            LOG.debug("{} is left for later: {}", drop, stillUsed.getMessage());
        }
    }

    @Override
    public void close() {
        if (streaming) {
            closeStream();
            return;
        }
        try {
            if (finished) {
                removeKeys();
                tidy();
                connection.releaseSavepoint(before);
            } else {
                undo();
            }
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, END, dialect);
        }
    }

    /** What is left on the connection is taken away also where there is nothing left to go back to. */
    private void undo() throws SQLException {
        try {
            connection.rollback(before);
        } finally {
            tidy();
        }
        releaseAfterRollback();
    }

    /** Some engines have given a savepoint up once they went back to it. */
    private void releaseAfterRollback() {
        try {
            connection.releaseSavepoint(before);
        } catch (SQLException givenUp) {
            LOG.debug("the savepoint is no longer there: {}", givenUp.getMessage());
        }
    }

    /**
     * The savepoint is older than whatever the caller did since the stream was opened: going back to it would undo
     * that, and releasing it the caller's own savepoints.
     */
    private void closeStream() {
        try {
            removeKeys();
            tidy();
        } catch (SQLException | VacancyException over) {
            // The caller ended the transaction, or the connection, before the stream.
            LOG.debug("a stream outlived its transaction: {}", over.getMessage());
        }
    }
}
