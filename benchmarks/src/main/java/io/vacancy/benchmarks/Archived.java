// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import java.sql.Connection;

/**
 * Half of a harbour goes without and with images kept of it, and comes back; nobody is asked. Each round is rolled
 * back outside the time.
 */
final class Archived {

    private static final int BOATS = Integer.getInteger("boats", 10_000);
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private Archived() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            Vacancy inside = vacancy.within(trips.counted(connection));
            Request half = Request.delete("boat")
                    .where(ColumnRef.column("left_on").before("2021-01-01"))
                    .withoutConfirmation("measured");
            Receipt[] gone = new Receipt[1];
            new Rounds("Half of " + 111 * BOATS + " rows, archived, " + engine, trips)
                    .afterEach(() -> {
                        // What comes back went in the way before.
                        if (gone[0] == null) {
                            connection.rollback();
                        }
                    })
                    .way("without archive", () -> inside.execute(half.withoutArchive())
                            .receiptOrThrow())
                    .way(
                            "with archive and trail",
                            "without archive",
                            () -> gone[0] = inside.execute(half).receiptOrThrow())
                    .way("restore", "with archive and trail", () -> {
                        inside.execute(Request.restore(gone[0].id()).withoutConfirmation("measured"))
                                .receiptOrThrow();
                        gone[0] = null;
                    })
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }
}
