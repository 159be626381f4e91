// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.GaleraCluster;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.MethodOrderer.OrderAnnotation;
import org.junit.jupiter.api.Order;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.TestMethodOrder;
import org.junit.jupiter.api.condition.EnabledIf;

/** A cluster whose nodes do not see the locks of one another: what conflicts is told at the latest by the commit. */
@EnabledIf("io.vacancy.engines.GaleraCluster#installed")
@TestMethodOrder(OrderAnnotation.class)
class GaleraClusterTest {

    private static GaleraCluster cluster;

    private Quay quay;

    @BeforeAll
    static void start() {
        cluster = GaleraCluster.start();
    }

    @AfterAll
    static void end() {
        cluster.close();
    }

    private Quay harbour(int boats) {
        Database database = cluster.through(1);
        database.run(
                "SET GLOBAL wsrep_max_ws_rows = 0",
                "DROP DATABASE harbour",
                "CREATE DATABASE harbour CHARACTER SET utf8mb4");
        quay = Quay.on(cluster.through(1), boats);
        return quay;
    }

    @AfterEach
    void putDown() throws Exception {
        quay.putDown();
    }

    private static long count(int node, String what) {
        return cluster.through(node).count(what);
    }

    private static void assertNoOrphans(int node) {
        assertThat(count(node, "reading r WHERE NOT EXISTS (SELECT 1 FROM mooring m WHERE m.id = r.mooring_id)"))
                .isZero();
        assertThat(count(node, "mooring m WHERE NOT EXISTS (SELECT 1 FROM boat b WHERE b.id = m.boat_id)"))
                .isZero();
    }

    /** Somebody who writes through a node all the time, and takes an error as it comes. */
    private static final class Writer implements AutoCloseable {
        final AtomicLong written = new AtomicLong();
        private final AtomicBoolean over = new AtomicBoolean();
        private final Thread thread;

        Writer(int node, int boats) {
            thread = new Thread(() -> {
                Random random = new Random(node);
                int next = 1_000_000 * node;
                while (!over.get()) {
                    try (Connection connection = cluster.through(node).connect();
                            Statement statement = connection.createStatement()) {
                        for (int i = 0; i < 50 && !over.get(); i++) {
                            int boat = 1 + random.nextInt(boats);
                            statement.executeUpdate("INSERT INTO mooring VALUES (" + next++ + ", " + boat + ")");
                            statement.executeUpdate(
                                    "UPDATE boat SET left_on = '2026-01-01' WHERE id = " + (1 + random.nextInt(boats)));
                            written.incrementAndGet();
                        }
                    } catch (SQLException lost) {
                        // The boat is gone, or the other node was first.
                    }
                }
            });
            thread.start();
        }

        @Override
        public void close() throws InterruptedException {
            over.set(true);
            thread.join();
        }
    }

    @Test
    @Order(1)
    void jobsAndDeletionsThroughOneNodeWhileAnotherWrites() throws Exception {
        Quay here = harbour(1_500);
        Vacancy vacancy = here.vacancy();
        Jobs jobs = here.jobs();
        JobOrder order = JobOrder.of(vacancy.preview(
                        Request.erase("boat").where(column("id").atMost(1_000)).withoutConfirmation("a test")))
                .batches(BatchSize.USUAL.selecting(25));
        String name = jobs.submit(order).jobOrThrow().name();
        long told = 0;
        Job job;
        try (Writer writer = new Writer(2, 1_500)) {
            jobs.start();
            for (int boat = 1_101; boat <= 1_200; boat++) {
                Outcome outcome =
                        vacancy.execute(Request.erase("boat").key(boat).withoutConfirmation("a test"));
                assertThat(outcome.state()).isIn(Outcome.State.DONE, Outcome.State.BUSY, Outcome.State.CHANGED);
                told += outcome instanceof Outcome.Done ? 1 : 0;
            }
            job = Quay.over(jobs, name);
            assertThat(writer.written.get()).isPositive();
        }

        assertThat(job.message()).contains("is done: 1,000 of 1,000 selected rows handled");
        long left = job.progress().changed();
        for (int node = 1; node <= GaleraCluster.NODES; node++) {
            assertThat(count(node, "boat WHERE id <= 1000")).isEqualTo(left);
            assertThat(count(node, "boat WHERE id BETWEEN 1101 AND 1200")).isEqualTo(100 - told);
            assertNoOrphans(node);
        }
        assertThat(vacancy.trail().verify().verified()).isTrue();
        Receipt receipt = vacancy.receipt(job.receiptOrThrow()).orElseThrow();
        assertThat(receipt.totals().values().stream().mapToLong(Long::longValue).sum())
                .isEqualTo(job.progress().rows());

        // Restored through another node.
        Quay there = Quay.over(cluster.through(2));
        there.vacancy()
                .execute(Request.restore(receipt.id()).withoutConfirmation("a mistake"))
                .receiptOrThrow();
        assertThat(count(3, "boat WHERE id <= 1000")).isEqualTo(1_000);
        assertNoOrphans(3);
    }

    /** The driver sends batches as prepared statements of the server, and nobody answers what closes one. */
    @Test
    @Order(2)
    void nothingIsToldAsDoneThatWasUndoneWithoutAWord() throws Exception {
        Quay here = harbour(1_200);
        here.database.run("CREATE TABLE note (boat INTEGER NOT NULL, line INTEGER NOT NULL, PRIMARY KEY (boat, line))");
        int done = 0;
        try (Writer writer = new Writer(2, 1_200);
                Writer another = new Writer(3, 1_200)) {
            for (int boat = 1; boat <= 600; boat += 20) {
                int first = boat;
                Outcome outcome = here.vacancy()
                        .beforeCommit((receipt, connection) -> note((Connection) connection, first))
                        .execute(Request.erase("boat")
                                .where(column("id").between(first, first + 19))
                                .withoutConfirmation("a test"));
                done += outcome instanceof Outcome.Done ? 1 : 0;
            }
            assertThat(writer.written.get()).isPositive();
            assertThat(another.written.get()).isPositive();
        }

        assertThat(done).isPositive();
        assertThat(count(3, "note")).isEqualTo(4_000L * done);
        assertThat(count(3, "boat")).isEqualTo(1_200 - 20L * done);
        assertThat(count(3, "vacancy_receipt")).isEqualTo(done);
        assertThat(here.vacancy().trail().verify().verified()).isTrue();
        assertNoOrphans(3);
    }

    private static void note(Connection connection, int first) throws SQLException {
        for (int boat = first; boat < first + 20; boat++) {
            try (PreparedStatement insert = connection.prepareStatement("INSERT INTO note VALUES (?, ?)")) {
                for (int line = 1; line <= 200; line++) {
                    insert.setInt(1, boat);
                    insert.setInt(2, line);
                    insert.addBatch();
                }
                insert.executeBatch();
            }
        }
    }

    @Test
    @Order(2)
    void statementsPreparedOnTheServerAreRefused() {
        harbour(1);
        Quay here = Quay.over(cluster.through(1, "useServerPrepStmts=true"));

        assertThatThrownBy(() -> here.vacancy().preview(Request.erase("boat").key(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("a node of a cluster, and the driver prepares statements on the server");
    }

    @Test
    @Order(2)
    void nothingIsDroppedWhereOtherNodesCannotBeKeptOut() {
        Preview preview = harbour(3).vacancy().preview(Request.drop("reading"));

        assertThat(preview.blockers())
                .extracting(Blocker::reason)
                .anyMatch(reason -> reason.startsWith("the server is a node of a cluster"));
    }

    @Test
    @Order(3)
    void whatIsMoreThanAWriteSetMayHaveIsDivided() throws Exception {
        Quay here = harbour(600);
        here.database.run("SET GLOBAL wsrep_max_ws_rows = 1000");
        try {
            Jobs jobs = here.node(UnaryOperator.identity());
            Request boats =
                    Request.erase("boat").where(column("id").atMost(500)).withoutConfirmation("a test");
            Job job = Quay.over(
                    jobs,
                    jobs.submit(JobOrder.of(here.vacancy().preview(boats)))
                            .jobOrThrow()
                            .name());

            assertThat(job.message()).contains("is done: 500 of 500 selected rows handled, 5,000 rows in all.");
            assertThat(count(3, "boat")).isEqualTo(100);
            assertThat(here.vacancy()
                            .receipt(job.receiptOrThrow())
                            .orElseThrow()
                            .rows())
                    .isEqualTo(500);
        } finally {
            here.database.run("SET GLOBAL wsrep_max_ws_rows = 0");
        }
    }

    @Test
    @Order(4)
    void anotherNodeGoesOnWhereOneIsKilled() throws Exception {
        Quay here = harbour(1_000);
        Jobs first = here.node(builder -> builder.node("first"));
        JobOrder order = JobOrder.of(here.vacancy()
                        .preview(Request.erase("boat")
                                .where(column("id").atMost(800))
                                .withoutConfirmation("a test")))
                .batches(BatchSize.USUAL.selecting(20))
                .pace(Throttling.rowsPerSecond(1_500));
        String name = first.submit(order).jobOrThrow().name();
        Quay there = Quay.over(cluster.through(2));
        Jobs second = there.jobs(builder -> builder.node("second"));
        while (second.find(name).orElseThrow().progress().batches() < 3) {
            Thread.sleep(50);
        }

        cluster.kill(1);
        second.start();
        Job job = Quay.over(second, name);
        second.close();

        assertThat(job.state()).isEqualTo(JobState.DONE);
        assertThat(job.message()).contains("is done: 800 of 800 selected rows handled, 8,000 rows in all.");
        for (int node = 2; node <= GaleraCluster.NODES; node++) {
            assertThat(count(node, "boat")).isEqualTo(200);
            assertNoOrphans(node);
        }
        assertThat(there.vacancy().receipt(job.receiptOrThrow()).orElseThrow().rows())
                .isEqualTo(800);
        assertThat(there.vacancy().trail().verify().verified()).isTrue();
    }
}
