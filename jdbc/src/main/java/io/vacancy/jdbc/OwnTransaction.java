package io.vacancy.jdbc;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.TableName;
import io.vacancy.store.Watch;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.function.Consumer;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/** A transaction of Vacancy's own: rolled back unless finished, and the connection given back as it was. */
final class OwnTransaction extends Transaction {

    private static final Context AFTER = new Context("counting on", null, null);

    private final boolean autoCommit;
    private final @Nullable Integer usualIsolation;

    private OwnTransaction(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            Watch watch,
            Consumer<String> beside,
            @Nullable Integer usualIsolation)
            throws SQLException {
        super(connection, dialect, keysInMemory, watch, beside);
        this.autoCommit = connection.getAutoCommit();
        this.usualIsolation = usualIsolation;
    }

    @SuppressWarnings("MustBeClosedChecker")
    static Transaction begin(
            DataSource source,
            Dialect dialect,
            int keysInMemory,
            Watch watch,
            Consumer<String> beside,
            String isolation) {
        try {
            Connection connection = source.getConnection();
            try {
                Integer level = dialect.connectionIsolation(isolation);
                OwnTransaction transaction = new OwnTransaction(
                        connection,
                        dialect,
                        keysInMemory,
                        watch,
                        beside,
                        level == null ? null : connection.getTransactionIsolation());
                if (!transaction.autoCommit) {
                    connection.setAutoCommit(true);
                }
                dialect.prepare(connection);
                if (level != null) {
                    connection.setTransactionIsolation(level);
                }
                connection.setAutoCommit(false);
                String set = dialect.setIsolation(isolation);
                if (set != null) {
                    transaction.session().update(Sql.of(set), BEGIN);
                }
                return transaction;
            } catch (SQLException | RuntimeException failed) {
                connection.close();
                throw failed;
            }
        } catch (SQLException failed) {
            throw Faults.of(failed, BEGIN, dialect);
        }
    }

    @Override
    boolean mayBeRepeated() {
        return true;
    }

    @Override
    boolean mayReadStaleRows() {
        return false;
    }

    @Override
    void finish(TableName about) {
        removeKeys();
        try {
            connection.commit();
        } catch (SQLException failed) {
            throw Faults.of(failed, Context.of("committing the removal from", about), dialect);
        }
    }

    @Override
    void afterCommit(List<String> statements) {
        for (String statement : statements) {
            session().update(Sql.of(statement), AFTER);
        }
    }

    @Override
    public void close() {
        try (connection) {
            // After a commit there is nothing left to roll back.
            connection.rollback();
            connection.setAutoCommit(true);
            tidy();
            if (usualIsolation != null) {
                connection.setTransactionIsolation(usualIsolation);
            }
            if (!autoCommit) {
                connection.setAutoCommit(false);
            }
        } catch (SQLException failed) {
            throw Faults.of(failed, END, dialect);
        }
    }
}
