// SPDX-License-Identifier: Apache-2.0
package io.vacancy.benchmarks;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.BusyException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Impact;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Decision;
import io.vacancy.spi.Records;
import io.vacancy.spi.Store;
import java.lang.reflect.InvocationHandler;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;

/** How many boats with their moorings eight threads mark, bring back and erase, with the trail and without it. */
final class TrailRate {

    private static final int THREADS = 8;
    private static final int SECONDS = Integer.getInteger("seconds", 10);
    private static final int ROUNDS = Integer.getInteger("rounds", 3);
    private static final int BOATS = 60_000;

    private TrailRate() {}

    static void run(Engine engine) throws Exception {
        double[] ratios = new double[ROUNDS];
        double rate = 0;
        for (int round = 0; round < ROUNDS; round++) {
            // In turn, and in the other order every other time.
            double first = rate(engine, round % 2 == 0);
            double second = rate(engine, round % 2 != 0);
            double with = round % 2 == 0 ? first : second;
            double without = round % 2 == 0 ? second : first;
            ratios[round] = with / without;
            rate = without;
        }
        Arrays.sort(ratios);
        System.out.printf(
                Locale.ROOT,
                "%s: %.0f acts a second without the trail, with it %.2f times as many (%.2f to %.2f)%n",
                engine,
                rate,
                ratios[ROUNDS / 2],
                ratios[0],
                ratios[ROUNDS - 1]);
    }

    private static double rate(Engine engine, boolean trail) throws Exception {
        Database database = engine.onDisk();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), left_on DATE)");
            statement.execute("CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                    + " FOREIGN KEY (boat_id) REFERENCES boat (id))");
            statement.execute("CREATE INDEX mooring_boat ON mooring (boat_id)");
            for (int boat = 0; boat < BOATS; boat += 1_000) {
                StringBuilder boats = new StringBuilder("INSERT INTO boat (id, name) VALUES ");
                StringBuilder moorings = new StringBuilder("INSERT INTO mooring VALUES ");
                for (int i = boat; i < boat + 1_000; i++) {
                    boats.append(i == boat ? "" : ", ").append("(" + i + ", 'Osprey')");
                    moorings.append(i == boat ? "" : ", ")
                            .append("(" + 2 * i + ", " + i + "), (" + (2 * i + 1) + ", " + i + ")");
                }
                statement.execute(boats.toString());
                statement.execute(moorings.toString());
            }
            connection.commit();
        }
        HikariConfig config = new HikariConfig();
        config.setJdbcUrl(engine == Engine.SQLITE ? database.url() + "?foreign_keys=on" : database.url());
        config.setMaximumPoolSize(2 * THREADS);
        try (HikariDataSource pool = new HikariDataSource(config)) {
            JdbcStore store = JdbcStore.of(pool);
            Vacancy vacancy = Vacancy.on(trail ? store : silent(store))
                    .rules(RuleBook.build(book -> book.table("boat", t -> t.marker(Marker.date("left_on")))
                            .relation("mooring.boat_id", Rule.cascade())
                            .whenSoftDeleted("mooring.boat_id", Rule.leave())))
                    .actor(() -> "Mira Holm")
                    .sealEvery(trail ? Duration.ofSeconds(1) : Duration.ofDays(1))
                    .open();
            vacancy.archive().setUp();
            AtomicInteger next = new AtomicInteger();
            AtomicLong acts = new AtomicLong();
            work(vacancy, next, acts, 2);
            acts.set(0);
            long began = System.nanoTime();
            work(vacancy, next, acts, SECONDS);
            return acts.get() / ((System.nanoTime() - began) / 1e9);
        }
    }

    private static void work(Vacancy vacancy, AtomicInteger next, AtomicLong acts, int seconds)
            throws InterruptedException {
        ExecutorService threads = Executors.newFixedThreadPool(THREADS);
        long end = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
        for (int i = 0; i < THREADS; i++) {
            threads.submit(() -> {
                while (System.nanoTime() < end) {
                    int boat = next.getAndIncrement() % BOATS;
                    List<SelectionStep> steps =
                            List.of(Request.softDelete("boat"), Request.restore("boat"), Request.erase("boat"));
                    for (SelectionStep act : steps) {
                        try {
                            if (vacancy.execute(act.key(boat).withoutConfirmation("measured"))
                                    instanceof Outcome.Done) {
                                acts.incrementAndGet();
                            }
                        } catch (BusyException again) {
                            Thread.onSpinWait();
                        }
                    }
                }
            });
        }
        threads.shutdown();
        threads.awaitTermination(seconds + 60L, TimeUnit.SECONDS);
    }

    /** The same store, whose trail is told nothing. */
    private static Store silent(Store store) {
        return proxy(Store.class, (self, method, arguments) -> {
            Object[] given = arguments;
            if (method.getName().equals("execute")) {
                given = new Object[] {arguments[0], silent((Decision) arguments[1]), arguments[2]};
            }
            return invoke(store, method, given);
        });
    }

    private static Decision silent(Decision decision) {
        return new Decision() {

            @Override
            public Records begun(Impact found, int part) {
                throw new UnsupportedOperationException("nothing is dropped here");
            }

            @Override
            public boolean goAhead(Impact found) {
                return decision.goAhead(found);
            }

            @Override
            public Records records(Impact found, List<AffectedKeys> affected, int part) {
                return new Records(decision.records(found, List.of(), part).receipt(), null, null);
            }
        };
    }

    private static Object invoke(Object on, Method method, Object[] arguments) throws Throwable {
        try {
            return method.invoke(on, arguments);
        } catch (InvocationTargetException failed) {
            throw failed.getCause();
        }
    }

    private static <T> T proxy(Class<T> type, InvocationHandler handler) {
        return type.cast(Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, handler));
    }
}
