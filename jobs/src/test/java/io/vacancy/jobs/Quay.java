// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.watch.Job;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BooleanSupplier;
import java.util.function.UnaryOperator;

/** A database with boats, their moorings and the readings of these, and a node that carries out jobs on it. */
final class Quay implements AutoCloseable {

    static final RuleBook RULES = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
            .relation("reading.mooring_id", Rule.cascade())
            .relation("boat.towed_by", Rule.block("it tows another boat")));

    final Database database;
    final JdbcStore store;
    final SetClock clock = new SetClock();
    final List<AutoCloseable> open = new ArrayList<>();
    String actor = "Mira Holm";

    /** A clock that goes on from where it is set. */
    static final class SetClock extends Clock {
        private volatile Duration ahead = Duration.ZERO;

        void set(Instant now) {
            ahead = Duration.between(Instant.now(), now);
        }

        void advance(Duration by) {
            ahead = ahead.plus(by);
        }

        @Override
        public ZoneId getZone() {
            return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
            return this;
        }

        @Override
        public Instant instant() {
            return Instant.now().plus(ahead);
        }
    }

    private Quay(Database database) {
        this.database = database;
        this.store = JdbcStore.of(database.source());
    }

    /** With so many boats, three moorings each, two readings for each of these. */
    static Quay of(Engine engine, int boats) {
        return on(engine.fresh(), boats);
    }

    /** On what is there already. */
    static Quay over(Database database) {
        return new Quay(database);
    }

    /** The same in a database that is empty. */
    static Quay on(Database database, int boats) {
        Quay quay = new Quay(database);
        quay.database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL, left_on DATE,"
                        + " towed_by INTEGER, FOREIGN KEY (towed_by) REFERENCES boat (id))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL, kwh INTEGER,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id))",
                "CREATE INDEX mooring_boat ON mooring (boat_id)",
                "CREATE INDEX reading_mooring ON reading (mooring_id)",
                "CREATE INDEX boat_towed ON boat (towed_by)");
        quay.fill("boat (id, name, left_on)", boats, i -> "(" + i + ", 'Boat " + i + "', '2025-01-01')");
        quay.fill("mooring", boats * 3, i -> "(" + i + ", " + ((i - 1) / 3 + 1) + ")");
        quay.fill("reading", boats * 6, i -> "(" + i + ", " + ((i - 1) / 2 + 1) + ", " + i % 50 + ")");
        quay.vacancy(RULES).archive().setUp();
        return quay;
    }

    private interface Line {
        String of(int number);
    }

    private void fill(String table, int rows, Line line) {
        int at = 1;
        while (at <= rows) {
            List<String> lines = new ArrayList<>();
            for (int i = 0; i < 500 && at <= rows; i++) {
                lines.add(line.of(at++));
            }
            database.run("INSERT INTO " + table + " VALUES " + String.join(", ", lines));
        }
    }

    Vacancy vacancy(RuleBook rules) {
        return Vacancy.on(store).rules(rules).actor(() -> actor).clock(clock).open();
    }

    Vacancy vacancy() {
        return vacancy(RULES);
    }

    /** Jobs of a process that is no node. */
    Jobs jobs() {
        return jobs(UnaryOperator.identity());
    }

    Jobs jobs(UnaryOperator<Jobs.Builder> more) {
        return jobs(vacancy(), more);
    }

    Jobs jobs(Vacancy vacancy, UnaryOperator<Jobs.Builder> more) {
        Jobs jobs = more.apply(Jobs.on(vacancy, store, database.source())
                        .clock(clock)
                        .pollEvery(Duration.ofMillis(50))
                        .heartbeatEvery(Duration.ofMillis(250)))
                .open();
        open.add(jobs);
        return jobs;
    }

    /** Jobs of a node that has begun. */
    Jobs node(UnaryOperator<Jobs.Builder> more) {
        Jobs jobs = jobs(more);
        jobs.start();
        return jobs;
    }

    static Job over(Jobs jobs, String name) throws InterruptedException {
        return jobs.await(name, Duration.ofSeconds(60));
    }

    static void until(BooleanSupplier reached) throws InterruptedException {
        for (int i = 0; !reached.getAsBoolean(); i++) {
            assertThat(i).as("waited too long").isLessThan(2_000);
            Thread.sleep(10);
        }
    }

    void putDown() throws Exception {
        for (AutoCloseable each : open) {
            each.close();
        }
    }

    @Override
    public void close() throws Exception {
        putDown();
        database.drop();
    }
}
