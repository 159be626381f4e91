// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;

/**
 * One record with 110 dependants on two further levels, by hand and by Vacancy: the deletion alone, and with what somebody
 * is shown and asked before it. All in READ COMMITTED, over one pool.
 */
final class OneRecord {

    private static final int WARM = 12_000;
    private static final int UNCOUNTED = 150;
    private static final int COUNTED = 400;
    private static final int WAYS = 4;
    private static final int BOATS = (UNCOUNTED + COUNTED) * WAYS + 1;

    private static final String[] REMOVALS = {
        "DELETE FROM power_reading WHERE mooring_id IN (SELECT id FROM mooring WHERE boat_id = ?)",
        "DELETE FROM mooring WHERE boat_id = ?",
        "DELETE FROM boat WHERE id = ?"
    };

    private static final String[] SHOWN = {
        "SELECT * FROM boat WHERE id = ?",
        "SELECT COUNT(*) FROM mooring WHERE boat_id = ?",
        "SELECT COUNT(*) FROM power_reading WHERE mooring_id IN (SELECT id FROM mooring WHERE boat_id = ?)"
    };

    private OneRecord() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.fresh();
        fill(database);
        try (HikariDataSource pool = Pools.of(database, 2)) {
            RoundTrips trips = new RoundTrips();
            DataSource source = trips.counted(pool);
            Vacancy vacancy =
                    Vacancy.on(JdbcStore.of(source)).actor(() -> "Mira Holm").open();
            warm(pool, vacancy);
            AtomicInteger next = new AtomicInteger(1);
            new Rounds("One record with 110 dependants, " + engine, trips)
                    .way("three deletes by hand", () -> remove(source, next.incrementAndGet()))
                    .way("Vacancy, nobody asked", "three deletes by hand", () -> vacancy.execute(Request.delete("boat")
                                    .key(next.incrementAndGet())
                                    .expect(1))
                            .receiptOrThrow())
                    .way("record, two counts, three deletes by hand", () -> {
                        int boat = next.incrementAndGet();
                        show(source, boat);
                        remove(source, boat);
                    })
                    .way(
                            "Vacancy, preview, answer, deletion",
                            "record, two counts, three deletes by hand",
                            () -> asked(vacancy, next.incrementAndGet()))
                    .run(UNCOUNTED, COUNTED)
                    .report(ratios);
        }
    }

    private static void asked(Vacancy vacancy, int boat) {
        var seen = vacancy.preview(Request.delete("boat").key(boat));
        vacancy.execute(seen, seen.question().answer("yes")).receiptOrThrow();
    }

    /** The compiler of the JVM needs some thousand calls; always the same boat, which stays. */
    private static void warm(DataSource pool, Vacancy vacancy) throws SQLException {
        try (Connection connection = pool.getConnection()) {
            connection.setAutoCommit(false);
            Vacancy inside = vacancy.within(connection);
            for (int i = 0; i < WARM; i++) {
                if (i % 2 == 0) {
                    asked(inside, 1);
                } else {
                    inside.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
                }
                connection.rollback();
            }
            connection.setAutoCommit(true);
        }
    }

    private static void remove(DataSource source, int boat) throws SQLException {
        try (Connection connection = source.getConnection()) {
            connection.setAutoCommit(false);
            for (String sql : REMOVALS) {
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    statement.setInt(1, boat);
                    statement.executeUpdate();
                }
            }
            connection.commit();
            connection.setAutoCommit(true);
        }
    }

    private static void show(DataSource source, int boat) throws SQLException {
        try (Connection connection = source.getConnection()) {
            for (String sql : SHOWN) {
                try (PreparedStatement statement = connection.prepareStatement(sql)) {
                    statement.setInt(1, boat);
                    try (ResultSet rows = statement.executeQuery()) {
                        while (rows.next()) {
                            rows.getObject(1);
                        }
                    }
                }
            }
        }
    }

    static void fill(Database database) throws SQLException {
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
        if (database.engine() == Engine.POSTGRESQL) {
            database.run("VACUUM ANALYZE");
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
