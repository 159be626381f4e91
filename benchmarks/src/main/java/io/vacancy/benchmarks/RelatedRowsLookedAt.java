// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import static io.vacancy.condition.RelatedRows.parent;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import java.sql.Connection;

/**
 * Rows by a condition on rows that they are related to, against the same EXISTS by hand: 200,000 readings whose mooring is of a
 * boat that has left.
 */
final class RelatedRowsLookedAt {

    private static final int BOATS = 4_000;
    private static final int ROUNDS = Integer.getInteger("rounds", 9);

    private RelatedRowsLookedAt() {}

    static void run(Engine engine, Ratios ratios) throws Exception {
        Database database = engine.onDisk();
        RoundTrips trips = new RoundTrips();
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
            Connection counted = trips.counted(connection);
            Vacancy inside = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open()
                    .within(counted);
            Condition left = ColumnRef.column("left_on").before("2021-01-01");
            Condition ofOneThatLeft = parent("power_reading.mooring_id")
                    .exists(parent("mooring.boat_id").exists(left));
            new Rounds("200000 rows by their parent's parent, " + engine, trips)
                    .afterEach(connection::rollback)
                    .way(
                            "DELETE with EXISTS by hand",
                            () -> BigHarbours.execute(
                                    counted,
                                    "DELETE FROM power_reading WHERE EXISTS (SELECT 1 FROM mooring m WHERE m.id ="
                                            + " power_reading.mooring_id AND EXISTS (SELECT 1 FROM boat b WHERE b.id ="
                                            + " m.boat_id AND b.left_on < '2021-01-01'))"))
                    .way("Vacancy, nobody asked", "DELETE with EXISTS by hand", () -> inside.execute(
                                    Request.delete("power_reading")
                                            .where(ofOneThatLeft)
                                            .withoutConfirmation("measured"))
                            .receiptOrThrow())
                    .run(1, ROUNDS)
                    .report(ratios);
        }
    }
}
