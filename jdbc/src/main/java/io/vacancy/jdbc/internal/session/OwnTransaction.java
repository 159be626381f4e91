// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.TransactionMark;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A transaction of Vacancy's own: rolled back unless finished, and the connection given back as it was. */
public final class OwnTransaction extends Transaction {

    private static final StatementContext AFTER = new StatementContext("counting on", null, null);

    private static final Logger LOG = LoggerFactory.getLogger(OwnTransaction.class);

    /** How far it is. */
    private enum State {
        OPEN,
        COMMITTED,
        /** Whether it was committed, nobody said. */
        UNKNOWN
    }

    private final List<String> warnings = new ArrayList<>();
    private State state = State.OPEN;
    private final boolean autoCommit;
    private final @Nullable Integer usualIsolation;
    private @Nullable String giveBack;
    /** Set where the transaction may be undone without a word; it goes with it. */
    private @Nullable TransactionMark begun;

    private OwnTransaction(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside,
            @Nullable Integer usualIsolation)
            throws SQLException {
        super(connection, dialect, keysInMemory, monitor, beside);
        this.autoCommit = connection.getAutoCommit();
        this.usualIsolation = usualIsolation;
    }

    @SuppressWarnings("MustBeClosedChecker")
    public static Transaction begin(
            DataSource source,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside,
            String isolation) {
        try {
            Connection connection = source.getConnection();
            try {
                Integer level = dialect.locking().connectionIsolation(isolation);
                OwnTransaction transaction = new OwnTransaction(
                        connection,
                        dialect,
                        keysInMemory,
                        monitor,
                        beside,
                        level == null ? null : connection.getTransactionIsolation());
                if (!transaction.autoCommit) {
                    connection.setAutoCommit(true);
                }
                transaction.giveBack = dialect.locking().prepare(connection);
                if (level != null) {
                    connection.setTransactionIsolation(level);
                }
                boolean watched = dialect.locking().undoesUnnoticed(connection);
                connection.setAutoCommit(false);
                String set = dialect.locking().setIsolation(isolation);
                if (set != null) {
                    transaction.session().ahead(Sql.of(set), BEGIN);
                }
                transaction.begun = watched ? dialect.locking().mark(connection) : null;
                return transaction;
            } catch (SQLException | RuntimeException failed) {
                connection.close();
                throw failed;
            }
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, BEGIN, dialect);
        }
    }

    @Override
    public boolean mayBeRepeated() {
        return true;
    }

    @Override
    public boolean mayReadStaleRows() {
        return false;
    }

    @Override
    public boolean own() {
        return true;
    }

    @Override
    public void commitSoFar(TableName about) {
        finish(about);
        // What follows commits by itself, so that a connection which is lost says nothing of what was done.
        state = State.UNKNOWN;
        try {
            begun = dialect.locking().undoesUnnoticed(connection)
                    ? dialect.locking().mark(connection)
                    : null;
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, BEGIN, dialect);
        }
    }

    @Override
    public void finish(TableName about) {
        removeKeys();
        session().sendAhead(StatementContext.of("ending the removal from", about));
        if (begun != null && !isThere(begun, about)) {
            throw undone(about);
        }
        try {
            connection.commit();
            state = State.UNKNOWN;
            String there = dialect.locking().sessionIsThere();
            if (there != null) {
                try (Statement statement = connection.createStatement()) {
                    statement.execute(there);
                } catch (SQLException gone) {
                    throw new CommitUnknownException(gone);
                }
            }
            state = State.COMMITTED;
        } catch (SQLException failed) {
            if (!answered(failed)) {
                state = State.UNKNOWN;
                throw new CommitUnknownException(failed);
            }
            throw SqlExceptionTranslator.of(failed, StatementContext.of("committing the removal from", about), dialect);
        }
    }

    /** Whether the database itself said why it does not commit; then it has not. */
    private boolean answered(SQLException failed) {
        return switch (dialect.errors().of(failed)) {
            case BUSY, DEADLOCK, CONSTRAINT, NOT_ALLOWED, READ_ONLY, TOO_MUCH_AT_ONCE, FULL, ABORTED -> true;
            case CANCELLED, DISCONNECTED, OTHER -> false;
        };
    }

    @Override
    public void afterCommit(List<String> statements) {
        for (String statement : statements) {
            try {
                session().update(Sql.of(statement), AFTER);
            } catch (VacancyException | LockConflictException failed) {
                warn("identity counters were not moved on", failed);
            }
        }
    }

    @Override
    public List<String> warnings() {
        return warnings;
    }

    private void warn(String what, Exception failed) {
        LOG.warn("committed; {}", what, failed);
        String message = failed instanceof SQLException driver
                ? SqlExceptionTranslator.firstLine(driver)
                : String.valueOf(failed.getMessage());
        warnings.add("Committed, but " + what + ": " + message);
    }

    private void giveBack() throws SQLException {
        if (giveBack != null) {
            try (Statement statement = connection.createStatement()) {
                statement.execute(giveBack);
            }
        }
    }

    @Override
    public void close() {
        try (connection) {
            if (state != State.COMMITTED) {
                connection.rollback();
            }
            connection.setAutoCommit(true);
            tidy();
            giveBack();
            if (usualIsolation != null) {
                connection.setTransactionIsolation(usualIsolation);
            }
            if (!autoCommit) {
                connection.setAutoCommit(false);
            }
        } catch (SQLException | RuntimeException failed) {
            switch (state) {
                case OPEN -> {
                    if (failed instanceof SQLException driver) {
                        throw SqlExceptionTranslator.of(driver, END, dialect);
                    }
                    throw (RuntimeException) failed;
                }
                case COMMITTED -> warn("its connection could not be given back as it was", failed);
                case UNKNOWN -> LOG.debug("the connection is lost: {}", failed.getMessage());
            }
        }
    }
}
