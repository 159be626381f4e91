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
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Instant;
import java.util.concurrent.atomic.AtomicInteger;
import javax.sql.DataSource;

/**
 * A thousand records, each with its dependants, one after the other, archive and trail on; against copies by hand into a
 * table for each table, and a row of history.
 */
final class OneByOne {

    private static final int RECORDS = 1_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private OneByOne() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, arrived_on DATE,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE INDEX mooring_boat ON mooring (boat_id)",
                "CREATE TABLE boat_gone (history INTEGER, id INTEGER, name VARCHAR(40))",
                "CREATE TABLE mooring_gone (history INTEGER, id INTEGER, boat_id INTEGER, arrived_on DATE)",
                "CREATE TABLE history (id INTEGER NOT NULL PRIMARY KEY, who VARCHAR(40), at TIMESTAMP, what VARCHAR(200))");
        int boats = 2 * RECORDS * (ROUNDS + 1);
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            for (int from = 1; from <= boats; from += 1_000) {
                StringBuilder boat = new StringBuilder("INSERT INTO boat VALUES ");
                StringBuilder mooring = new StringBuilder("INSERT INTO mooring VALUES ");
                for (int id = from; id < from + 1_000; id++) {
                    boat.append(id == from ? "" : ", ").append("(" + id + ", 'Osprey')");
                    for (int i = 0; i < 4; i++) {
                        mooring.append(id == from && i == 0 ? "" : ", ")
                                .append("(" + (4 * id + i) + ", " + id + ", '2024-05-01')");
                    }
                }
                BigHarbours.execute(connection, boat.toString());
                BigHarbours.execute(connection, mooring.toString());
            }
            connection.commit();
            BigHarbours.settle(engine, connection);
        }
        try (HikariDataSource pool = Pools.of(database, 3)) {
            RoundTrips trips = new RoundTrips();
            DataSource source = trips.counted(pool);
            Vacancy vacancy =
                    Vacancy.on(JdbcStore.of(source)).actor(() -> "Mira Holm").open();
            vacancy.archive().setUp();
            AtomicInteger next = new AtomicInteger();
            new Rounds("1000 records one after the other, archived, " + engine, trips)
                    .way("copies and history by hand", () -> {
                        for (int i = 0; i < RECORDS; i++) {
                            byHand(source, next.incrementAndGet());
                        }
                    })
                    .way("Vacancy, archive and trail", "copies and history by hand", () -> {
                        for (int i = 0; i < RECORDS; i++) {
                            vacancy.execute(Request.delete("boat")
                                            .key(next.incrementAndGet())
                                            .expect(1))
                                    .receiptOrThrow();
                        }
                    })
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }

    private static void byHand(DataSource source, int boat) throws SQLException {
        try (Connection connection = source.getConnection()) {
            connection.setAutoCommit(false);
            try (PreparedStatement history = connection.prepareStatement("INSERT INTO history VALUES (?, ?, ?, ?)")) {
                history.setInt(1, boat);
                history.setString(2, "Mira Holm");
                history.setTimestamp(3, Timestamp.from(Instant.now()));
                history.setString(4, "erase boat " + boat);
                history.executeUpdate();
            }
            for (String sql : new String[] {
                "INSERT INTO mooring_gone SELECT boat_id, id, boat_id, arrived_on FROM mooring WHERE boat_id = ?",
                "INSERT INTO boat_gone SELECT id, id, name FROM boat WHERE id = ?",
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
}
