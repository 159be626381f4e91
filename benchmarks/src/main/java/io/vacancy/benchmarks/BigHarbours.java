// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.engines.Engine;
import io.vacancy.harbour.BigHarbour;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;

/** Harbours to measure in. */
final class BigHarbours {

    private BigHarbours() {}

    /** Fills the database behind a connection, which goes on without commits of its own, in READ COMMITTED. */
    static void fill(Engine engine, Connection connection, int boats) throws SQLException {
        connection.setAutoCommit(false);
        BigHarbour.build(connection, boats);
        connection.commit();
        settle(engine, connection);
        if (engine != Engine.SQLITE) {
            connection.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
        }
    }

    /** Has the planner know what is there. */
    static void settle(Engine engine, Connection connection) throws SQLException {
        if (engine == Engine.POSTGRESQL) {
            connection.setAutoCommit(true);
            execute(connection, "VACUUM ANALYZE");
            connection.setAutoCommit(false);
        }
    }

    static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
