// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicInteger;

/**
 * One record with 110 dependants on two further levels: hand-written prepared statements in one
 * transaction against Vacancy, which finds, locks, compares and removes in one call.
 */
final class OneRecord {

    private static final int UNCOUNTED = 300;
    private static final int COUNTED = 600;
    private static final int WAYS = 3;
    private static final int BOATS = (UNCOUNTED + COUNTED) * WAYS;

    private OneRecord() {}

    static void run(Engine engine) throws Exception {
        Database database = engine.fresh();
        fill(database);
        HikariConfig config = new HikariConfig();
        config.setDataSource(database.source());
        config.setMaximumPoolSize(2);
        try (HikariDataSource pool = new HikariDataSource(config)) {
            Vacancy vacancy =
                    Vacancy.on(JdbcStore.of(pool)).actor(() -> "Mira Holm").open();
            AtomicInteger next = new AtomicInteger();
            new Rounds()
                    .way("three prepared statements by hand", () -> byHand(pool, next.incrementAndGet()))
                    .way("Vacancy, nobody asked", () -> vacancy.execute(Request.delete("boat")
                                    .key(next.incrementAndGet())
                                    .expect(1))
                            .receiptOrThrow())
                    .way("Vacancy, preview, answer, deletion", () -> {
                        var seen = vacancy.preview(Request.delete("boat").key(next.incrementAndGet()));
                        vacancy.execute(seen, seen.question().answer("yes")).receiptOrThrow();
                    })
                    .run(UNCOUNTED, COUNTED)
                    .print("One record with 110 dependants, " + engine);
        }
    }

    private static void byHand(HikariDataSource pool, int boat) throws SQLException {
        try (Connection connection = pool.getConnection()) {
            connection.setAutoCommit(false);
            for (String sql : new String[] {
                "DELETE FROM power_reading WHERE mooring_id IN (SELECT id FROM mooring WHERE boat_id = ?)",
                "DELETE FROM mooring WHERE boat_id = ?",
                "DELETE FROM boat WHERE id = ?"
            }) {
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    statement.setInt(1, boat);
                    statement.executeUpdate();
                }
            }
            connection.commit();
            connection.setAutoCommit(true);
        }
    }

    private static void fill(Database database) throws SQLException {
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE power_reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL, kwh DECIMAL(9,3),"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                "CREATE INDEX mooring_boat ON mooring (boat_id)",
                "CREATE INDEX power_reading_mooring ON power_reading (mooring_id)");
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            insert(connection, "INSERT INTO boat VALUES (?, 'Osprey')", BOATS, 1);
            insert(connection, "INSERT INTO mooring VALUES (?, ?)", BOATS * 10, 10);
            insert(connection, "INSERT INTO power_reading VALUES (?, ?, 1.5)", BOATS * 100, 10);
            connection.commit();
        }
    }

    private static void insert(Connection connection, String sql, int rows, int perParent) throws SQLException {
        boolean child = sql.indexOf('?') != sql.lastIndexOf('?');
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            for (int id = 1; id <= rows; id++) {
                statement.setInt(1, id);
                if (child) {
                    statement.setInt(2, (id - 1) / perParent + 1);
                }
                statement.addBatch();
                if (id % 5_000 == 0) {
                    statement.executeBatch();
                }
            }
            statement.executeBatch();
        }
    }
}
