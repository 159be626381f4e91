// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.TransactionMark;
import io.vacancy.jdbc.spi.WaitSetting;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;

/** H2: how rows are locked, how long that is waited for, and what a transaction sees. */
final class H2Locking implements Locking {

    private static final int LOCK_TIMEOUT = 50200;

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("SELECT LOCK_TIMEOUT()", "SET LOCK_TIMEOUT %s", Duration.ofMillis(1));
    }

    @Override
    public String isolationForRemoving() {
        // The one level that sees child rows which others have inserted and not yet committed. Nothing is
        // decided on such a row: it is read FOR UPDATE, which waits for whoever inserted it.
        return "READ UNCOMMITTED";
    }

    @Override
    public Integer connectionIsolation(String level) {
        return switch (level) {
            case "READ UNCOMMITTED" -> Connection.TRANSACTION_READ_UNCOMMITTED;
            case "READ COMMITTED" -> Connection.TRANSACTION_READ_COMMITTED;
            default -> Connection.TRANSACTION_REPEATABLE_READ;
        };
    }

    /** A session that somebody ends just before its commit has lost everything, and the commit is silent. */
    @Override
    public String sessionIsThere() {
        return "VALUES 1";
    }

    /** Releasing a savepoint that is gone is no error here. */
    @Override
    public TransactionMark mark(Connection connection) throws SQLException {
        long before = transaction(connection);
        return () -> {
            if (transaction(connection) != before) {
                throw new SQLException("The transaction " + before + " is over");
            }
        };
    }

    /** Its number; 0 before it has changed anything. */
    private static long transaction(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("CALL TRANSACTION_ID()")) {
            rows.next();
            return rows.getLong(1);
        }
    }

    @Override
    public boolean deadlockEndsTransaction() {
        return true;
    }
}
