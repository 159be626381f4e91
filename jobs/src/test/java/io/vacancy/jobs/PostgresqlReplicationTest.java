// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.PostgresqlReplication;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.ReplicationLag;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** A server that is restarted under a job, and a replica that it must not leave behind. */
class PostgresqlReplicationTest {

    private static final int BOATS = 1_000;
    private static final int GONE = 900;

    private static PostgresqlReplication servers;

    private Quay quay;

    @BeforeAll
    static void start() {
        servers = PostgresqlReplication.start();
    }

    @AfterAll
    static void end() throws Exception {
        servers.close();
    }

    @BeforeEach
    void fill() {
        servers.primary().run("DROP SCHEMA public CASCADE", "CREATE SCHEMA public");
        quay = Quay.on(servers.primary(), BOATS);
    }

    @AfterEach
    void putDown() throws Exception {
        quay.putDown();
    }

    private JobOrder order() {
        return JobOrder.of(quay.vacancy()
                        .preview(Request.erase("boat")
                                .where(column("id").atMost(GONE))
                                .withoutConfirmation("a test")))
                .batches(BatchSize.USUAL.selecting(50));
    }

    private static void await(long batches, Jobs jobs, String name) throws InterruptedException {
        for (int look = 0; jobs.find(name).orElseThrow().progress().batches() < batches; look++) {
            assertThat(look).isLessThan(600);
            Thread.sleep(50);
        }
    }

    @Test
    void goesOnWhenTheDatabaseIsThereAgain() throws Exception {
        Jobs jobs = quay.node(UnaryOperator.identity());
        String name = jobs.submit(order().pace(Throttling.rowsPerSecond(2_000)))
                .jobOrThrow()
                .name();
        await(3, jobs, name);

        servers.restartPrimary();
        Job job = Quay.over(jobs, name);

        assertThat(job.message()).contains("is done: 900 of 900 selected rows handled, 9,000 rows in all.");
        assertThat(quay.database.count("boat")).isEqualTo(BOATS - GONE);
        Receipt receipt = quay.vacancy().receipt(job.receiptOrThrow()).orElseThrow();
        assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 9_000L));
        assertThat(quay.vacancy().trail().verify().verified()).isTrue();
    }

    @Test
    void waitsForAReplicaThatStandsStill() throws Exception {
        Duration most = Duration.ofSeconds(1);
        ReplicationLag lag = ReplicationLag.postgresql(servers.primary().source(), most);
        assertThat(lag.reasonToWait()).isNull();
        Jobs jobs = quay.node(builder -> builder.probe(ReplicationLag.postgresql(quay.database.source(), most)));
        String name = jobs.submit(order().pace(Throttling.rowsPerSecond(1_500)))
                .jobOrThrow()
                .name();
        await(1, jobs, name);
        servers.replica().run("SELECT pg_wal_replay_pause()");

        Job waiting = jobs.find(name).orElseThrow();
        for (int look = 0; waiting.progress().note() == null && look < 600; look++) {
            Thread.sleep(50);
            waiting = jobs.find(name).orElseThrow();
            assertThat(waiting.state()).isEqualTo(JobState.RUNNING);
        }
        long held = waiting.progress().batches();
        assertThat(waiting.progress().note()).matches("a replica is \\d+ s behind");
        Thread.sleep(1_500);
        assertThat(jobs.find(name).orElseThrow().progress().batches()).isLessThanOrEqualTo(held + 1);

        servers.replica().run("SELECT pg_wal_replay_resume()");
        assertThat(Quay.over(jobs, name).state()).isEqualTo(JobState.DONE);
        for (int look = 0; servers.replica().count("boat") > BOATS - GONE && look < 200; look++) {
            Thread.sleep(50);
        }
        assertThat(servers.replica().count("boat")).isEqualTo(BOATS - GONE);
    }
}
