// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Estimate;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** How long deletions take, against what the receipts of smaller ones said before. */
final class Estimated {

    private static final int BOATS = 4_000;

    private Estimated() {}

    static void run(Engine engine) throws Exception {
        Database database = engine.onDisk();
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
        }
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        System.out.println("Deletions of readings, archived, " + engine);
        int from = 0;
        for (int rows : new int[] {1_000, 5_000, 20_000, 80_000, 200_000}) {
            Request request = Request.erase("power_reading")
                    .where(ColumnRef.column("id")
                            .greaterThan(from)
                            .and(ColumnRef.column("id").atMost(from + rows)));
            Preview preview = vacancy.preview(request);
            Estimate estimate = preview.estimate();
            long begun = System.nanoTime();
            vacancy.execute(
                            preview,
                            preview.question().answer(preview.question().awaited()))
                    .receiptOrThrow();
            Duration took = Duration.ofNanos(System.nanoTime() - begun);
            List<String> told = new ArrayList<>(
                    List.of(String.format(Locale.ROOT, "  %7d rows took %6d ms", rows, took.toMillis())));
            if (estimate != null) {
                told.add(String.format(
                        Locale.ROOT,
                        "%6d ms were expected: %.2f times",
                        estimate.time().toMillis(),
                        (double) took.toMillis() / estimate.time().toMillis()));
            }
            System.out.println(String.join(", ", told));
            from += rows;
        }
    }
}
