// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;

/**
 * Blanking 200,000 of 400,000 readings: against an UPDATE by hand, and with the old values archived against a copy of them
 * and the UPDATE.
 */
final class RowsBlanked {

    private static final int BOATS = 4_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);
    private static final String WHICH = "WHERE id <= 200000";
    private static final String UPDATE = "UPDATE power_reading SET kwh = 0, read_at = '1900-01-01 00:00:00' " + WHICH;

    private RowsBlanked() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        RuleBook rules = RuleBook.build(
                book -> book.table("power_reading", t -> t.blank("kwh", 0).blank("read_at", "1900-01-01T00:00:00")));
        Request blank = Request.blank("power_reading")
                .where(ColumnRef.column("id").atMost(200_000))
                .withoutConfirmation("measured");
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
            BigHarbours.execute(
                    connection, "CREATE TABLE copied AS SELECT id, kwh, read_at FROM power_reading WHERE 1 = 0");
            connection.commit();
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .rules(rules)
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            Connection counted = trips.counted(connection);
            Vacancy inside = vacancy.within(counted);
            new Rounds("200000 rows blanked, " + engine, trips)
                    .afterEach(connection::rollback)
                    .way("UPDATE by hand", () -> BigHarbours.execute(counted, UPDATE))
                    .way("copy and UPDATE by hand", () -> {
                        BigHarbours.execute(
                                counted, "INSERT INTO copied SELECT id, kwh, read_at FROM power_reading " + WHICH);
                        BigHarbours.execute(counted, UPDATE);
                    })
                    .way("Vacancy, nothing archived", "UPDATE by hand", () -> inside.execute(blank.withoutArchive())
                            .receiptOrThrow())
                    .way("Vacancy, archived", "copy and UPDATE by hand", () -> inside.execute(blank)
                            .receiptOrThrow())
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }
}
