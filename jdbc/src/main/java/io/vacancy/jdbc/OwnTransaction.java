package io.vacancy.jdbc;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.SQLException;
import javax.sql.DataSource;

/** A transaction of Vacancy's own: rolled back unless finished, and the connection given back as it was. */
final class OwnTransaction extends Transaction {

    private final boolean autoCommit;
    private final int isolation;

    private OwnTransaction(Connection connection, Dialect dialect, int keysInMemory) throws SQLException {
        super(connection, dialect, keysInMemory);
        this.autoCommit = connection.getAutoCommit();
        this.isolation = connection.getTransactionIsolation();
    }

    @SuppressWarnings("MustBeClosedChecker")
    static Transaction begin(DataSource source, Dialect dialect, int keysInMemory, int isolation) {
        try {
            Connection connection = source.getConnection();
            try {
                OwnTransaction transaction = new OwnTransaction(connection, dialect, keysInMemory);
                if (!transaction.autoCommit) {
                    connection.setAutoCommit(true);
                }
                dialect.prepare(connection);
                if (transaction.isolation != isolation) {
                    connection.setTransactionIsolation(isolation);
                }
                connection.setAutoCommit(false);
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
    void finish(TableName about) {
        try {
            connection.commit();
        } catch (SQLException failed) {
            throw Faults.of(failed, Context.of("committing the removal from", about), dialect);
        }
    }

    @Override
    public void close() {
        try (connection) {
            // After a commit there is nothing left to roll back.
            connection.rollback();
            connection.setAutoCommit(true);
            tidy();
            if (connection.getTransactionIsolation() != isolation) {
                connection.setTransactionIsolation(isolation);
            }
            if (!autoCommit) {
                connection.setAutoCommit(false);
            }
        } catch (SQLException failed) {
            throw Faults.of(failed, END, dialect);
        }
    }
}
