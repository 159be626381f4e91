// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.VacancyException;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Random;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import javax.sql.DataSource;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * Deletions and restores from several threads, while others add rows, sessions are killed and commits are cut off: no row is
 * lost, none is orphaned, and what was said of each request is so. {@code -Dvacancy.stress.seconds} says how long.
 */
class StressTest {

    private static final Logger LOG = LoggerFactory.getLogger(StressTest.class);
    private static final long SHORT = 8;
    private static final long SECONDS = Long.getLong("vacancy.stress.seconds", SHORT);
    private static final int BOATS = 40;
    private static final int THREADS = 4;

    /** What became of the requests. */
    private static final class Endings {

        private final Map<String, Integer> counts = new ConcurrentHashMap<>();
        private final Queue<ReceiptId> done = new ConcurrentLinkedQueue<>();

        void count(String ending) {
            counts.merge(ending, 1, Integer::sum);
        }

        int of(String ending) {
            return counts.getOrDefault(ending, 0);
        }
    }

    /** Of twenty commits one is cut off before it reaches the database, and one when it answers. */
    private static DataSource cutting(DataSource source, Random random) {
        return (DataSource) Proxy.newProxyInstance(
                DataSource.class.getClassLoader(), new Class<?>[] {DataSource.class}, (own, method, given) -> {
                    Object result = invoke(() -> method.invoke(source, given));
                    return result instanceof Connection connection ? cutting(connection, random) : result;
                });
    }

    private static Connection cutting(Connection connection, Random random) {
        return (Connection) Proxy.newProxyInstance(
                Connection.class.getClassLoader(), new Class<?>[] {Connection.class}, (own, method, given) -> {
                    int cut = method.getName().equals("commit") ? random.nextInt(20) : 2;
                    if (cut == 0) {
                        connection.rollback();
                    } else if (cut == 1) {
                        connection.commit();
                    }
                    if (cut < 2) {
                        connection.close();
                        throw new SQLException("the line was cut", "08006");
                    }
                    return invoke(() -> method.invoke(connection, given));
                });
    }

    private interface Call {
        Object run() throws ReflectiveOperationException;
    }

    private static Object invoke(Call call) throws Throwable {
        try {
            return call.run();
        } catch (InvocationTargetException failed) {
            throw failed.getCause();
        }
    }

    private static Database harbour(Engine engine) {
        Database database = engine.fresh();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                "CREATE TABLE added (id INTEGER NOT NULL PRIMARY KEY)");
        List<String> rows = new ArrayList<>();
        for (int boat = 1; boat <= BOATS; boat++) {
            rows.add("INSERT INTO boat VALUES (" + boat + ", 'Tern')");
            for (int m = 1; m <= 3; m++) {
                rows.add("INSERT INTO mooring VALUES (" + (boat * 10 + m) + ", " + boat + ")");
                rows.add("INSERT INTO reading VALUES (" + (boat * 10 + m) + ", " + (boat * 10 + m) + ")");
            }
        }
        database.run(rows.toArray(String[]::new));
        return database;
    }

    @OnEveryEngine
    void nothingIsLostAndEverythingSaidIsSo(Engine engine) throws Exception {
        Database database = harbour(engine);
        Vacancy plain = open(database.source());
        plain.archive().setUp();
        Vacancy vacancy = open(cutting(database.source(), new Random(3)));
        Endings endings = new Endings();
        long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(SECONDS);
        ExecutorService threads = Executors.newFixedThreadPool(THREADS + 2);
        List<Future<?>> all = new ArrayList<>();
        for (int i = 0; i < THREADS; i++) {
            Random random = new Random(100L + i);
            all.add(threads.submit(() -> {
                while (System.nanoTime() < until) {
                    act(vacancy, endings, random);
                }
            }));
        }
        all.add(threads.submit(() -> add(database, until)));
        all.add(threads.submit(() -> kill(database, until)));
        for (Future<?> each : all) {
            try {
                each.get(SECONDS + 60, TimeUnit.SECONDS);
            } catch (TimeoutException hanging) {
                throw new AssertionError(stacks(), hanging);
            }
        }
        threads.shutdown();

        long before = BOATS * 7L;
        long live = database.count("boat") + database.count("mooring") + database.count("reading");
        List<ArchivedRows> lines;
        try (var archived = plain.archive().rows(ArchiveQuery.all().withUsed())) {
            lines = archived.toList();
        }
        long left = lines.stream().mapToLong(ArchivedRows::left).sum();
        String what = engine + " " + endings.counts;
        assertThat(live + left).as(what).isEqualTo(before + database.count("added"));
        assertThat(database.count("mooring m WHERE NOT EXISTS (SELECT 1 FROM boat b WHERE b.id = m.boat_id)"))
                .as(what)
                .isZero();
        assertThat(database.count("reading r WHERE NOT EXISTS (SELECT 1 FROM mooring m WHERE m.id = r.mooring_id)"))
                .as(what)
                .isZero();
        long receipts = database.count("vacancy_receipt");
        assertThat(receipts)
                .as(what)
                .isBetween((long) endings.of("done"), (long) endings.of("done") + endings.of("in-doubt"));
        assertThat(database.count("vacancy_trail WHERE ending = 'done'"))
                .as(what)
                .isEqualTo(receipts);
        for (ReceiptId receipt : endings.done) {
            assertThat(plain.archive().documents(receipt)).as(what).isNotEmpty();
        }
        assertThat(plain.trail().verify().verified()).isTrue();
        assertThat(endings.of("done")).as(what).isGreaterThan(20);
    }

    private static String stacks() {
        StringBuilder stacks = new StringBuilder("Still at work:\n");
        Thread.getAllStackTraces().forEach((thread, stack) -> {
            if (thread.getName().startsWith("pool")) {
                stacks.append(thread.getName())
                        .append(' ')
                        .append(thread.getState())
                        .append('\n');
                for (StackTraceElement frame : stack) {
                    stacks.append("    ").append(frame).append('\n');
                }
            }
        });
        return stacks.toString();
    }

    private static Vacancy open(DataSource source) {
        return Vacancy.on(JdbcStore.of(source)).actor(() -> "Mira Holm").open();
    }

    private static void act(Vacancy vacancy, Endings endings, Random random) {
        try {
            ReceiptId back = random.nextBoolean() ? endings.done.peek() : null;
            Request request =
                    back == null ? Request.erase("boat").key(1 + random.nextInt(BOATS)) : Request.restore(back);
            if (back != null) {
                endings.done.remove(back);
            }
            Outcome ending = vacancy.execute(request.withoutConfirmation("stress"));
            endings.count(ending.state().word());
            if (back == null && ending instanceof Outcome.Done done) {
                endings.done.add(done.receipt().id());
            }
        } catch (VacancyException failed) {
            endings.count(failed.getClass().getSimpleName());
        }
    }

    /** Adds rows under boats that may just go; each with a note of it in the same transaction. */
    private static void add(Database database, long until) {
        Random random = new Random(5);
        for (int id = 1_000; System.nanoTime() < until; id++) {
            try (Connection connection = database.connect();
                    Statement statement = connection.createStatement()) {
                connection.setAutoCommit(false);
                int boat = 1 + random.nextInt(BOATS);
                if (database.engine() == Engine.H2 && !locked(statement, boat)) {
                    continue;
                }
                statement.execute("INSERT INTO mooring VALUES (" + id + ", " + boat + ")");
                statement.execute("INSERT INTO added VALUES (" + id + ")");
                connection.commit();
            } catch (SQLException goneOrKilled) {
                LOG.debug("not added: {}", goneOrKilled.getMessage());
            }
        }
    }

    /** A foreign key of H2 does not hold against an insert; the parent's lock does, where there is a parent to be locked. */
    private static boolean locked(Statement statement, int boat) throws SQLException {
        try (ResultSet row = statement.executeQuery("SELECT 1 FROM boat WHERE id = " + boat + " FOR UPDATE")) {
            return row.next();
        }
    }

    private static void kill(Database database, long until) {
        Random random = new Random(9);
        while (System.nanoTime() < until) {
            try (Connection connection = database.connect();
                    Statement statement = connection.createStatement()) {
                Thread.sleep(20 + random.nextInt(80));
                List<String> sessions = new ArrayList<>();
                String others =
                        switch (database.engine()) {
                            case POSTGRESQL ->
                                "SELECT pid FROM pg_stat_activity WHERE datname = current_database() AND pid <> pg_backend_pid()";
                            case MARIADB ->
                                "SELECT id FROM information_schema.processlist WHERE db = database() AND id <> connection_id()";
                            case H2 ->
                                "SELECT session_id FROM information_schema.sessions WHERE session_id <> SESSION_ID()";
                            default -> "SELECT 0 WHERE 1 = 0";
                        };
                try (ResultSet rows = statement.executeQuery(others)) {
                    while (rows.next()) {
                        sessions.add(rows.getString(1));
                    }
                }
                if (!sessions.isEmpty()) {
                    String victim = sessions.get(random.nextInt(sessions.size()));
                    statement.execute(
                            switch (database.engine()) {
                                case POSTGRESQL -> "SELECT pg_terminate_backend(" + victim + ")";
                                case MARIADB -> "KILL " + victim;
                                // One that is ended while it takes a lock can leave the row locked for good, and then
                                // whoever wants it waits for ever: a fault of H2, which the short run does not wait
                                // for.
                                default ->
                                    "CALL " + (SECONDS > SHORT ? "ABORT" : "CANCEL") + "_SESSION(" + victim + ")";
                            });
                }
            } catch (SQLException goneAlready) {
                LOG.debug("not killed: {}", goneAlready.getMessage());
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                return;
            }
        }
    }
}
