// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;

/** Two connections at once. */
class RaceTest {

    private final ExecutorService threads = Executors.newCachedThreadPool();

    @AfterEach
    void end() {
        threads.shutdownNow();
    }

    @OnEveryEngine
    void rowsThatSomebodyElseHoldsMakeItBusyAndNothingIsChanged(Engine engine) throws Exception {
        Bench bench = Bench.harbour(engine);
        try (Connection other = bench.database().connect()) {
            other.setAutoCommit(false);
            execute(other, "UPDATE mooring SET left_on = '2026-07-01' WHERE id = 507");

            Outcome outcome = bench.vacancy()
                    .execute(Request.delete("boat").key(17).expect(1).lockTimeout(Duration.ofMillis(200)));

            // The same for all requests that do not say so.
            Vacancy impatient = Vacancy.on(JdbcStore.of(bench.database().source()))
                    .lockTimeout(Duration.ofMillis(200))
                    .actor(() -> "Mira Holm")
                    .open();
            assertThat(impatient.execute(Request.delete("mooring").key(507).acceptUnasked()))
                    .isInstanceOf(Outcome.Busy.class);
            assertThat(outcome).isInstanceOfSatisfying(Outcome.Busy.class, busy -> assertThat(busy.table())
                    .isEqualTo(engine == Engine.SQLITE ? "boat" : "mooring"));
            other.rollback();
        }
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.count("fee")).isEqualTo(9);
        assertThat(bench.vacancy().execute(Request.delete("boat").key(17).expect(1)))
                .isInstanceOf(Outcome.Done.class);
    }

    @OnEveryEngine
    void ofTwoWhoDeleteTheSameRecordOneFindsNothing(Engine engine) throws Exception {
        for (int round = 0; round < 5; round++) {
            Bench bench = Bench.harbour(engine);
            CountDownLatch ready = new CountDownLatch(2);
            Callable<Outcome> delete = () -> {
                ready.countDown();
                ready.await(5, TimeUnit.SECONDS);
                return bench.vacancy().execute(Request.delete("boat").key(17).expect(1));
            };
            Future<Outcome> one = threads.submit(delete);
            Future<Outcome> two = threads.submit(delete);

            assertThat(List.of(
                            one.get(30, TimeUnit.SECONDS).state(),
                            two.get(30, TimeUnit.SECONDS).state()))
                    .containsExactlyInAnyOrder(Outcome.State.DONE, Outcome.State.NOTHING);
            assertThat(bench.count("boat")).isEqualTo(7);
        }
    }

    @OnEveryEngine
    void aChildSlippedInWhileTheParentGoesIsNeverOrphaned(Engine engine) throws Exception {
        Bench bench = Bench.harbour(engine);
        CountDownLatch inserted = new CountDownLatch(1);
        List<Future<Boolean>> inserts = new ArrayList<>();
        // The child comes after everything was found under the locks and before anything is removed.
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .permission((who, table, act) -> {
                    if (inserts.isEmpty() && act == io.vacancy.access.Permission.Act.CHANGE_LINKS) {
                        inserts.add(threads.submit(() -> insertFee(bench, inserted)));
                        await(inserted);
                    }
                    return null;
                })
                .open();

        Outcome outcome = vacancy.execute(Request.delete("boat").key(17).expect(1));
        boolean childStays = inserts.get(0).get(30, TimeUnit.SECONDS);

        // Either the child could not come, or it came first and the boat stayed, or it came first and went with
        // the boat, counted like any other.
        boolean gone = outcome instanceof Outcome.Done;
        assertThat(gone || childStays).isTrue();
        if (gone) {
            assertThat(DeletionTest.lines(outcome.receiptOrThrow().effects()))
                    .contains("delete fee " + (childStays ? 4 : 3) + " fee.mooring_id");
            assertThat(bench.count("fee")).isEqualTo(6);
        }
        assertThat(bench.count("fee WHERE NOT EXISTS (SELECT 1 FROM mooring m WHERE m.id = fee.mooring_id)"))
                .isZero();
        assertThat(bench.count("boat")).isEqualTo(gone ? 7 : 8);
    }

    /** Whether the insert was committed. Signals when it has run, or when it must be waiting for a lock. */
    private static boolean insertFee(Bench bench, CountDownLatch inserted) throws SQLException {
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Thread signal = new Thread(() -> {
                pause(400);
                inserted.countDown();
            });
            signal.start();
            execute(connection, "INSERT INTO fee VALUES (799, 7, 507, 1.00, '2026-01-01', TRUE)");
            inserted.countDown();
            pause(600);
            connection.commit();
            return true;
        } catch (SQLException refused) {
            return false;
        }
    }

    @OnEveryEngine
    void aRecordChangedBetweenPreviewAndAnswerStays(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Preview seen = bench.vacancy().preview(Request.delete("boat").key(17));
        bench.database().run("UPDATE boat SET name = 'Ospray' WHERE id = 17");

        assertThat(bench.vacancy().execute(seen, seen.question().answer("yes"))).isInstanceOf(Outcome.Changed.class);
        assertThat(bench.count("boat")).isEqualTo(8);
    }

    @OnEveryEngine
    void aDeadlockIsRetriedAndToldToTheListener(Engine engine) throws Exception {
        if (engine == Engine.SQLITE) {
            return; // one writer at a time: there is nothing to lock crosswise
        }
        Bench bench = Bench.harbour(engine);
        List<String> retries = new ArrayList<>();
        CountDownLatch bothHold = new CountDownLatch(1);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .permission((who, table, act) -> {
                    if (act == io.vacancy.access.Permission.Act.CHANGE_LINKS) {
                        bothHold.countDown();
                    }
                    return null;
                })
                .listener(new Listener() {
                    @Override
                    public void retried(Request request, int attempt, String why) {
                        retries.add(attempt + " " + why);
                    }
                })
                .open();
        try (Connection other = bench.database().connect()) {
            other.setAutoCommit(false);
            // Holds a work order that the deletion changes at the end, then wants the boat that it locked first.
            execute(other, "UPDATE work_order SET cost = 1 WHERE id = 83");
            Future<Outcome> deletion = threads.submit(
                    () -> vacancy.execute(Request.delete("boat").key(17).expect(1)));
            pause(500);
            boolean otherWon = true;
            try {
                execute(other, "UPDATE boat SET length_m = 11.36 WHERE id = 17");
                other.commit();
            } catch (SQLException lost) {
                otherWon = false;
                other.rollback();
            }
            Outcome outcome = deletion.get(60, TimeUnit.SECONDS);
            assertThat(outcome.state().word()).isIn("done", "busy");
            assertThat(bench.count("boat")).isEqualTo(outcome instanceof Outcome.Done ? 7 : 8);
            if (otherWon && outcome instanceof Outcome.Done) {
                assertThat(retries).isNotEmpty();
            }
        }
    }

    private static void await(CountDownLatch latch) {
        try {
            latch.await(5, TimeUnit.SECONDS);
        } catch (InterruptedException interrupted) {
            throw new IllegalStateException(interrupted);
        }
    }

    private static void pause(long milliseconds) {
        try {
            Thread.sleep(milliseconds);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    /** A pool of the application's hands the same connection out again. */
    @Test
    void sqlitesSettingsAreGivenBackAsTheyWere() throws SQLException {
        Bench bench = Bench.of(
                Engine.SQLITE,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER REFERENCES boat (id))",
                "INSERT INTO boat VALUES (1), (2)",
                "INSERT INTO fee VALUES (10, 2)");
        try (Connection kept = bench.database().connect();
                Statement statement = kept.createStatement()) {
            statement.execute("PRAGMA foreign_keys = OFF");
            statement.execute("PRAGMA busy_timeout = 1234");
            Connection open = (Connection) Proxy.newProxyInstance(
                    getClass().getClassLoader(), new Class<?>[] {Connection.class}, (proxy, method, arguments) -> {
                        if (method.getName().equals("close")) {
                            return null;
                        }
                        try {
                            return method.invoke(kept, arguments);
                        } catch (InvocationTargetException thrown) {
                            throw thrown.getCause();
                        }
                    });
            DataSource pool = (DataSource) Proxy.newProxyInstance(
                    getClass().getClassLoader(), new Class<?>[] {DataSource.class}, (proxy, method, arguments) -> open);
            Vacancy vacancy =
                    Vacancy.on(JdbcStore.of(pool)).actor(() -> "Mira Holm").open();
            vacancy.execute(Request.erase("boat").key(1).expect(1).lockTimeout(Duration.ofMillis(77)))
                    .receiptOrThrow();
            assertThat(vacancy.execute(Request.erase("boat").key(2).expect(1).lockTimeout(Duration.ofMillis(77)))
                            .state())
                    .isEqualTo(Outcome.State.BLOCKED);
            for (String setting : List.of("foreign_keys", "busy_timeout")) {
                try (ResultSet rows = statement.executeQuery("PRAGMA " + setting)) {
                    rows.next();
                    assertThat(rows.getInt(1)).as(setting).isEqualTo(setting.equals("busy_timeout") ? 1234 : 0);
                }
            }
        }
    }
}
