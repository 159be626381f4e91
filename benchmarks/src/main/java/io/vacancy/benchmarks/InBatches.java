// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.watch.Job;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.time.Duration;
import java.util.List;
import java.util.concurrent.Callable;

/**
 * Half of a harbour goes in one transaction, and as a job in many. All of it is committed, so each way has a harbour of its
 * own, which is filled outside the time; so is the ordering of the job.
 */
final class InBatches {

    private static final int BOATS = Integer.getInteger("boats", 10_000);
    private static final int ROUNDS = Integer.getInteger("rounds", 3);

    private final Engine engine;
    private Database database;
    private HikariDataSource pool;
    private Jobs jobs;
    private Vacancy vacancy;

    private String ordered = "";
    private int prepared;

    /** What is done before each way: what a job takes to be ordered is not part of its time. */
    private final List<Callable<String>> preparations = List.of(
            () -> "",
            () -> "",
            () -> order(request().withoutArchive(), 1),
            () -> order(request().withoutArchive(), 2),
            () -> "",
            () -> order(request(), 1),
            () -> order(request(), 2));

    private InBatches(Engine engine) throws Exception {
        this.engine = engine;
        anew();
    }

    static void run(Engine engine, Ratios ratios) throws Exception {
        InBatches half = new InBatches(engine);
        new Rounds("Half of " + 111 * BOATS + " rows, committed, " + engine, new RoundTrips())
                .afterEach(half::anew)
                .way("ON DELETE CASCADE, one statement", half::cascade)
                .way("one transaction", () -> half.whole(half.request().withoutArchive()))
                .way("job, one lane", "one transaction", half::job)
                .way("job, two lanes", "one transaction", half::job)
                .compare("job, two lanes", "ON DELETE CASCADE, one statement")
                .way("archived, one transaction", () -> half.whole(half.request()))
                .way("archived, job, one lane", "archived, one transaction", half::job)
                .way("archived, job, two lanes", "archived, one transaction", half::job)
                .run(0, ROUNDS)
                .report(ratios);
        half.end();
    }

    private void end() {
        jobs.close();
        pool.close();
        database.drop();
    }

    private void anew() throws Exception {
        if (pool != null) {
            end();
        }
        database = engine.onDisk();
        pool = Pools.of(database, 8);
        try (Connection connection = database.connect()) {
            BigHarbours.fill(engine, connection, BOATS);
            connection.commit();
        }
        JdbcStore store = JdbcStore.of(pool);
        vacancy = Vacancy.on(store).actor(() -> "Mira Holm").open();
        vacancy.archive().setUp();
        jobs = Jobs.on(vacancy, store, pool).pollEvery(Duration.ofMillis(20)).open();
        ordered = preparations.get(prepared++ % preparations.size()).call();
    }

    private Request request() {
        return Request.delete("boat")
                .where(ColumnRef.column("left_on").before("2021-01-01"))
                .withoutConfirmation("measured");
    }

    private void cascade() throws Exception {
        try (Connection connection = pool.getConnection()) {
            BigHarbours.execute(connection, "DELETE FROM boat WHERE left_on < '2021-01-01'");
        }
    }

    private void whole(Request request) {
        check(vacancy.execute(request).receiptOrThrow().rows());
    }

    private String order(Request request, int lanes) {
        return jobs.submit(JobOrder.of(vacancy.preview(request)).lanes(lanes))
                .jobOrThrow()
                .name();
    }

    /** From the time that the job could begin to its end. */
    private void job() throws Exception {
        jobs.start();
        Job job = jobs.await(ordered, Duration.ofMinutes(30));
        System.out.printf(
                "    %d batches, %d tried again%n",
                job.progress().batches(), job.progress().retries());
        check(job.progress().handled());
    }

    private static void check(long rows) {
        if (rows != BOATS / 2) {
            throw new IllegalStateException(rows + " rows went");
        }
    }
}
