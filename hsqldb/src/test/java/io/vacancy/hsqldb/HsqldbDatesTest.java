// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.Test;

/** Dates are archived as what they are, whatever other databases of the same process do meanwhile. */
class HsqldbDatesTest {

    private static final int ROWS = 5_000;

    @Test
    void noDatabaseArchivesADateOfAnother() throws Exception {
        List<String> values =
                List.of("2024-02-29 23:59:09", "0021-01-02 03:04:05", "1999-12-31 00:00:00", "2025-05-01 12:00:59");
        ExecutorService threads = Executors.newFixedThreadPool(values.size());
        List<Future<Long>> kept = new ArrayList<>();
        try {
            values.forEach(value -> kept.add(threads.submit(() -> keptOf(value))));
            for (Future<Long> rows : kept) {
                assertThat(rows.get()).isEqualTo(ROWS);
            }
        } finally {
            threads.shutdownNow();
        }
    }

    /** How many rows have their values after they were erased and restored three times. */
    private static long keptOf(String value) {
        Database database = Engine.OTHER.fresh();
        database.run(
                "CREATE TABLE thing (id INTEGER NOT NULL PRIMARY KEY, d DATE, t TIMESTAMP(9), z TIMESTAMP(6) WITH TIME ZONE)",
                "INSERT INTO thing SELECT n, DATE '" + value.substring(0, 10) + "', TIMESTAMP '" + value
                        + ".000000012', TIMESTAMP '" + value + ".5-7:30' FROM UNNEST(SEQUENCE_ARRAY(1, " + ROWS
                        + ", 1)) AS numbers (n)");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        for (int i = 0; i < 3; i++) {
            Receipt gone = vacancy.execute(Request.delete("thing").everyRow().withoutConfirmation("a test"))
                    .receiptOrThrow();
            vacancy.execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
        }
        return database.count("thing WHERE d = DATE '" + value.substring(0, 10) + "' AND t = TIMESTAMP '" + value
                + ".000000012' AND z = TIMESTAMP '" + value + ".5-7:30'");
    }
}
