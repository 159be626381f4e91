// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.WaitSetting;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** MariaDB: how rows are locked, how long that is waited for, and what a transaction sees. */
final class MariadbLocking implements Locking {

    /** Null until a connection has been asked. */
    private volatile @Nullable Boolean replicated;

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting(
                "SELECT @@innodb_lock_wait_timeout",
                "SET SESSION innodb_lock_wait_timeout = %s",
                Duration.ofSeconds(1));
    }

    @Override
    public String setIsolation(String level) {
        return "SET TRANSACTION ISOLATION LEVEL " + level;
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }

    @Override
    public boolean deadlockEndsTransaction() {
        return true;
    }

    /** On the nodes of a cluster the error is lost where the statement that gets it is one that nobody answers. */
    @Override
    public boolean undoesUnnoticed(Connection connection) throws SQLException {
        Boolean known = replicated;
        if (known == null) {
            known = "ON".equals(value(connection, "SHOW VARIABLES LIKE 'wsrep_on'"));
            if (known && preparesOnServer(connection)) {
                throw new MisuseException(
                        "The database is a node of a cluster, and the driver prepares statements on the server: there the"
                                + " answer to a statement that loses against another node does not arrive.",
                        "Leave useServerPrepStmts out of the database's URL.");
            }
            replicated = known;
        }
        return known;
    }

    /** As the server counts, since a pool may hide what the driver was told. */
    private static boolean preparesOnServer(Connection connection) throws SQLException {
        String counter = "SHOW SESSION STATUS LIKE 'Com_stmt_prepare'";
        String before = value(connection, counter);
        try (PreparedStatement statement = connection.prepareStatement("SELECT 1 WHERE 1 = ?")) {
            statement.setInt(1, 1);
            statement.executeQuery().close();
        }
        return !Objects.equals(before, value(connection, counter));
    }

    private static @Nullable String value(Connection connection, String query) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(query)) {
            return rows.next() ? rows.getString(2) : null;
        }
    }
}
