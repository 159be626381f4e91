// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;

/** Where a key table begins to pay: previews of a boat with more and more moorings, keys here and there. */
final class KeysInMemory {

    private static final int[] SIZES = {10, 100, 500, 1_000, 2_000, 5_000};

    private KeysInMemory() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.fresh();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                "CREATE INDEX mooring_boat ON mooring (boat_id)",
                "CREATE INDEX fee_mooring ON fee (mooring_id)");
        fill(database);
        for (int size : SIZES) {
            Vacancy memory = open(database, 10_000);
            Vacancy table = open(database, 0);
            new Rounds("Preview of a boat with " + size + " moorings and as many fees, " + engine, new RoundTrips())
                    .way(
                            "keys in memory",
                            () -> memory.preview(Request.delete("boat").key(size)))
                    .way(
                            "keys in a key table",
                            "keys in memory",
                            () -> table.preview(Request.delete("boat").key(size)))
                    .run(10, 25)
                    .report(ratios);
        }
    }

    private static Vacancy open(Database database, int keysInMemory) {
        return Vacancy.on(JdbcStore.of(database.source()).withKeysInMemory(keysInMemory))
                .actor(() -> "Mira Holm")
                .open();
    }

    private static void fill(Database database) throws SQLException {
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            int id = 0;
            try (PreparedStatement boat = connection.prepareStatement("INSERT INTO boat VALUES (?)");
                    PreparedStatement mooring = connection.prepareStatement("INSERT INTO mooring VALUES (?, ?)");
                    PreparedStatement fee = connection.prepareStatement("INSERT INTO fee VALUES (?, ?)")) {
                for (int size : SIZES) {
                    boat.setInt(1, size);
                    boat.executeUpdate();
                    for (int i = 0; i < size; i++) {
                        mooring.setInt(1, ++id);
                        mooring.setInt(2, size);
                        mooring.addBatch();
                        fee.setInt(1, id);
                        fee.setInt(2, id);
                        fee.addBatch();
                    }
                    mooring.executeBatch();
                    fee.executeBatch();
                }
            }
            connection.commit();
        }
    }
}
