// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import java.sql.Connection;

/** Dropping a table of 400,000 readings: against a copy of it and a DROP TABLE by hand, which leaves room for writers between. */
final class TablesDropped {

    private static final int BOATS = 4_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private TablesDropped() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        Request drop = Request.drop("season").withoutConfirmation("measured");
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            connection.setAutoCommit(true);
            make(connection, vacancy);
            new Rounds("400000 rows dropped, " + engine, trips)
                    .afterEach(() -> make(connection, vacancy))
                    .way("copy and DROP by hand", () -> {
                        BigHarbours.execute(connection, "CREATE TABLE copied AS SELECT * FROM season");
                        BigHarbours.execute(connection, "DROP TABLE season");
                    })
                    .way("Vacancy", "copy and DROP by hand", () -> vacancy.execute(drop)
                            .receiptOrThrow())
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }

    private static void make(Connection connection, Vacancy vacancy) throws Exception {
        BigHarbours.execute(connection, "DROP TABLE IF EXISTS copied");
        BigHarbours.execute(connection, "DROP TABLE IF EXISTS season");
        BigHarbours.execute(connection, "DELETE FROM vacancy_image");
        BigHarbours.execute(
                connection,
                "CREATE TABLE season (id INTEGER NOT NULL PRIMARY KEY, kwh DECIMAL(10,2), read_at TIMESTAMP)");
        BigHarbours.execute(connection, "INSERT INTO season SELECT id, kwh, read_at FROM power_reading");
        vacancy.refresh();
    }
}
