// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.BigHarbour;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.Statement;
import java.util.Arrays;
import java.util.Locale;

/**
 * Half of a harbour goes without and with images kept of it, and comes back; nobody is asked. Each round is rolled
 * back outside the time.
 */
final class Archived {

    private static final int BOATS = Integer.getInteger("boats", 10_000);
    private static final int ROUNDS = Integer.getInteger("rounds", 3);

    private Archived() {}

    static void run(Engine engine) throws Exception {
        Database database = engine.onDisk();
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            BigHarbour.build(connection, BOATS);
            connection.commit();
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            if (engine == Engine.POSTGRESQL) {
                connection.setAutoCommit(true);
                try (Statement statement = connection.createStatement()) {
                    statement.execute("VACUUM ANALYZE");
                }
                connection.setAutoCommit(false);
            }
            Vacancy inside = vacancy.within(connection);
            Request half = Request.delete("boat")
                    .where(ColumnRef.column("left_on").before("2021-01-01"))
                    .withoutConfirmation("measured");
            double[][] seconds = new double[3][ROUNDS];
            for (int round = -1; round < ROUNDS; round++) {
                double without =
                        time(() -> inside.execute(half.withoutArchive()).receiptOrThrow());
                connection.rollback();
                Receipt[] gone = new Receipt[1];
                double with = time(() -> gone[0] = inside.execute(half).receiptOrThrow());
                double back =
                        time(() -> inside.execute(Request.restore(gone[0].id()).withoutConfirmation("measured"))
                                .receiptOrThrow());
                connection.rollback();
                if (round >= 0) {
                    seconds[0][round] = without;
                    seconds[1][round] = with;
                    seconds[2][round] = back;
                }
            }
            System.out.printf(
                    Locale.ROOT,
                    "%,d of %,d rows, %s: without images %.2f s, with images %.2f times that, back %.2f times the deletion"
                            + " with images%n",
                    BOATS / 2 * 111,
                    BOATS * 111,
                    engine,
                    median(seconds[0]),
                    ratio(seconds[1], seconds[0]),
                    ratio(seconds[2], seconds[1]));
        }
    }

    private static double time(Rounds.Way way) throws Exception {
        long start = System.nanoTime();
        way.run();
        return (System.nanoTime() - start) / 1e9;
    }

    private static double ratio(double[] some, double[] others) {
        double[] ratios = new double[some.length];
        for (int i = 0; i < some.length; i++) {
            ratios[i] = some[i] / others[i];
        }
        return median(ratios);
    }

    private static double median(double[] values) {
        double[] sorted = values.clone();
        Arrays.sort(sorted);
        return sorted[sorted.length / 2];
    }
}
