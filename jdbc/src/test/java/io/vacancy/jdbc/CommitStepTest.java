// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.request.Request;
import java.io.IOException;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** What an application has committed together with a deletion, and receipts that several connections add to. */
class CommitStepTest {

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "CREATE TABLE note (boats BIGINT NOT NULL PRIMARY KEY)",
                "INSERT INTO boat VALUES (1, 'Osprey'), (2, 'Heron'), (3, 'Tern'), (4, 'Gull')");
        bench.vacancy().archive().setUp();
        return bench;
    }

    private static void note(Object connection, long boats) throws SQLException {
        try (Statement statement = ((Connection) connection).createStatement()) {
            statement.execute("INSERT INTO note VALUES (" + boats + ")");
        }
    }

    private static Request boat(int id) {
        return Request.erase("boat").key(id).withoutConfirmation("a test");
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void isCommittedWithTheDeletionOrNotAtAll(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = bench.vacancy();

        vacancy.beforeCommit((receipt, connection) -> note(connection, receipt.rows()))
                .execute(boat(1))
                .receiptOrThrow();
        assertThat(bench.count("note")).isEqualTo(1);

        assertThatThrownBy(() -> vacancy.beforeCommit((receipt, connection) -> {
                            note(connection, 77);
                            throw new IOException("the disk is on fire");
                        })
                        .execute(boat(2)))
                .isInstanceOf(StoreException.class)
                .hasMessageContaining("step before the commit failed: the disk is on fire")
                .hasMessageContaining("Nothing was changed");
        assertThatThrownBy(() -> vacancy.beforeCommit((receipt, connection) -> note(connection, 1))
                        .execute(boat(2)))
                .isInstanceOf(StoreException.class);
        assertThat(bench.count("note")).isEqualTo(1);
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(vacancy.beforeCommit((receipt, connection) -> note(connection, 99))
                        .execute(boat(99)))
                .isInstanceOf(Outcome.Nothing.class);
        assertThat(bench.count("note")).isEqualTo(1);
        bench.database().drop();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void isNotToldAsDoneWhereItEndsTheTransaction(Engine engine) {
        Bench bench = bench(engine);

        for (String end : List.of("ROLLBACK", "COMMIT")) {
            assertThatThrownBy(() -> bench.vacancy()
                            .beforeCommit((receipt, connection) -> {
                                try (Statement statement = ((Connection) connection).createStatement()) {
                                    statement.execute(end);
                                }
                                note(connection, end.length());
                            })
                            .execute(boat(1)))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("step before the commit ended the transaction")
                    .hasMessageNotContaining("Nothing was changed")
                    .extracting(failed -> ((MisuseException) failed).hint())
                    .asString()
                    .contains("look for the receipt ");
        }
        assertThat(bench.count("boat")).isEqualTo(3);
        bench.database().drop();
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void severalConnectionsAddPartsToOneReceiptAtOnce(Engine engine) throws Exception {
        Bench bench = bench(engine);
        Vacancy vacancy = bench.vacancy();
        ReceiptId receipt = ReceiptId.next(Instant.now());
        ExecutorService threads = Executors.newFixedThreadPool(4);
        CountDownLatch together = new CountDownLatch(4);
        List<Future<Outcome>> outcomes = new ArrayList<>();
        for (int part = 1; part <= 4; part++) {
            int number = part;
            outcomes.add(threads.submit(() -> {
                together.countDown();
                together.await();
                return vacancy.continuing(receipt, number).execute(boat(number));
            }));
        }
        for (Future<Outcome> outcome : outcomes) {
            assertThat(outcome.get(60, TimeUnit.SECONDS)).isInstanceOf(Outcome.Done.class);
        }
        threads.shutdown();

        assertThat(vacancy.receipt(receipt).orElseThrow().totals()).isEqualTo(Map.of(Action.DELETE, 4L));
        assertThat(vacancy.archive().documents(receipt)).hasSize(4);
        assertThat(vacancy.trail().verify().verified()).isTrue();
        vacancy.execute(Request.restore(receipt).withoutConfirmation("a mistake"))
                .receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(4);
        // A part is for one execution that is committed.
        assertThatThrownBy(() -> vacancy.continuing(receipt, 4).execute(boat(4)))
                .isInstanceOf(StoreException.class);
        assertThat(bench.count("boat")).isEqualTo(4);
        assertThatThrownBy(() -> vacancy.continuing(receipt, 0)).isInstanceOf(MisuseException.class);
        bench.database().drop();
    }
}
