package io.vacancy.jdbc;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.schema.TableName;
import io.vacancy.store.Watch;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.util.function.Consumer;

/** The caller's own transaction: never begun, committed or rolled back here, undone to a savepoint. */
final class CallerTransaction extends Transaction {

    private final Savepoint before;
    private boolean finished;

    private CallerTransaction(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            Watch watch,
            Consumer<String> beside,
            Savepoint before) {
        super(connection, dialect, keysInMemory, watch, beside);
        this.before = before;
    }

    static Transaction join(
            Connection connection, Dialect dialect, int keysInMemory, Watch watch, Consumer<String> beside) {
        try {
            if (connection.getAutoCommit()) {
                throw new MisuseException(
                        "The connection commits by itself after each statement, so a deletion on it could go half way.",
                        "Call setAutoCommit(false) first, or let Vacancy use a connection of its own.");
            }
            return new CallerTransaction(connection, dialect, keysInMemory, watch, beside, connection.setSavepoint());
        } catch (SQLException failed) {
            throw Faults.of(failed, BEGIN, dialect);
        }
    }

    @Override
    boolean mayBeRepeated() {
        return false;
    }

    @Override
    boolean mayReadStaleRows() {
        try {
            return dialect.locksSingleRows()
                    && connection.getTransactionIsolation() >= Connection.TRANSACTION_REPEATABLE_READ;
        } catch (SQLException failed) {
            throw Faults.of(failed, BEGIN, dialect);
        }
    }

    @Override
    void finish(TableName about) {
        finished = true;
    }

    @Override
    public void close() {
        try {
            if (finished) {
                removeKeys();
            } else {
                connection.rollback(before);
            }
            tidy();
            connection.releaseSavepoint(before);
        } catch (SQLException failed) {
            throw Faults.of(failed, END, dialect);
        }
    }
}
