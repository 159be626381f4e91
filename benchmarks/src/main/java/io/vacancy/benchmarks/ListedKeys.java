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
import java.util.Collections;
import java.util.stream.IntStream;

/** 200,000 rows by a list of their keys, against batches of a thousand keys by hand. */
final class ListedKeys {

    private static final int KEYS = 200_000;
    private static final int AT_ONCE = 1_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private ListedKeys() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, 4_000);
            Connection counted = trips.counted(connection);
            Vacancy inside = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open()
                    .within(counted);
            new Rounds("200000 keys from a list, " + engine, trips)
                    .afterEach(connection::rollback)
                    .way("batches of 1,000 by hand", () -> byHand(counted))
                    .way("Vacancy, nobody asked", "batches of 1,000 by hand", () -> inside.execute(
                                    Request.delete("power_reading")
                                            .keys(IntStream.range(0, KEYS).mapToObj(ListedKeys::key))
                                            .withoutConfirmation("measured"))
                            .receiptOrThrow())
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }

    private static long key(int place) {
        return 2L * place + 100;
    }

    private static void byHand(Connection connection) throws SQLException {
        String places = String.join(", ", Collections.nCopies(AT_ONCE, "?"));
        for (int from = 0; from < KEYS; from += AT_ONCE) {
            try (PreparedStatement statement =
                    connection.prepareStatement("DELETE FROM power_reading WHERE id IN (" + places + ")")) {
                for (int i = 0; i < AT_ONCE; i++) {
                    statement.setLong(i + 1, key(from + i));
                }
                statement.executeUpdate();
            }
        }
    }
}
