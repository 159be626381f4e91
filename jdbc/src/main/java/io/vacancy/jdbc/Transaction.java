package io.vacancy.jdbc;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.jdbc.session.Session;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/** A transaction of Vacancy's own: rolled back unless committed, and the connection given back as it was. */
final class Transaction implements AutoCloseable {

    private static final Context BEGIN = new Context("beginning a transaction", null, null);
    private static final Context END = new Context("ending a transaction", null, null);

    private final Connection connection;
    private final Dialect dialect;
    private final Session session;
    private final boolean autoCommit;
    private final int isolation;

    private Transaction(Connection connection, Dialect dialect) throws SQLException {
        this.connection = connection;
        this.dialect = dialect;
        this.session = new Session(connection, dialect);
        this.autoCommit = connection.getAutoCommit();
        this.isolation = connection.getTransactionIsolation();
    }

    @SuppressWarnings("MustBeClosedChecker")
    static Transaction begin(DataSource source, Dialect dialect, int isolation) {
        try {
            Connection connection = source.getConnection();
            try {
                Transaction transaction = new Transaction(connection, dialect);
                connection.setAutoCommit(true);
                dialect.prepare(connection);
                connection.setTransactionIsolation(isolation);
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

    Session session() {
        return session;
    }

    void commit(TableName about) {
        try {
            connection.commit();
        } catch (SQLException failed) {
            throw Faults.of(failed, Context.of("committing the removal from", about), dialect);
        }
    }

    private void execute(String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    @Override
    public void close() {
        try (connection) {
            // After a commit there is nothing left to roll back.
            connection.rollback();
            connection.setAutoCommit(true);
            for (String keyTable : session.keyTables()) {
                execute(dialect.dropKeyTable(keyTable));
            }
            connection.setTransactionIsolation(isolation);
            connection.setAutoCommit(autoCommit);
        } catch (SQLException failed) {
            throw Faults.of(failed, END, dialect);
        }
    }
}
