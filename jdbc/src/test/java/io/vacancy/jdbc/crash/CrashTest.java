// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.crash;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.request.Request;
import io.vacancy.trail.ChainHead;
import java.io.BufferedReader;
import java.io.File;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Random;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * A process that is killed while it deletes, restores or purges leaves all of it or nothing, and what the receipts
 * say is what the tables have. {@code -Dvacancy.crashes} and {@code -Dvacancy.stops} say how often.
 */
class CrashTest {

    private static final int CRASHES = Integer.getInteger("vacancy.crashes", 5);
    /** How often it is stopped between statements; of each act. */
    private static final int STOPS = Integer.getInteger("vacancy.stops", 3);

    private static final int BOATS = 2_000;
    private static final int ALL = BOATS * 6;

    /** MariaDB is a server that nothing kills here; H2 alone does not hold it: see docs/measurements.md. */
    static List<Engine> engines() {
        return List.of(Engine.SQLITE, Engine.POSTGRESQL);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("engines")
    void killedIsAllOrNothing(Engine engine) throws Exception {
        Random random = new Random(7);
        Database database = engine.onDisk();
        String url = engine == Engine.SQLITE ? database.url() + "?foreign_keys=on" : database.url();
        build(url);
        int halfWay = 0;
        for (String act : List.of("delete", "restore", "purge")) {
            // How long it takes to its end says when it can be killed.
            long whole = time(url, act, Long.MAX_VALUE);
            for (int i = 0; i < CRASHES; i++) {
                begin(url, act);
                long ran = time(url, act, (long) (random.nextDouble() * whole));
                halfWay += ran < 0 ? 1 : 0;
                check(url, act);
            }
        }
        assertThat(halfWay).as("processes that were killed before their end").isGreaterThan(CRASHES);
    }

    /** Everything is where the act begins from. */
    private static void begin(String url, String act) {
        Vacancy vacancy = vacancy(url);
        run(url, "DELETE FROM reading", "DELETE FROM boat");
        for (String table :
                List.of("image", "line", "part", "receipt", "trail", "trail_row", "unsealed", "seal", "head")) {
            run(url, "DELETE FROM vacancy_" + table);
        }
        run(url, "INSERT INTO vacancy_head (one, place_no, digest) VALUES (1, 0, '" + ChainHead.NONE.digest() + "')");
        fill(url);
        if (!act.equals("delete")) {
            vacancy.execute(Request.delete("boat").everyRow().withoutConfirmation("a test"))
                    .receiptOrThrow();
        }
    }

    /** Killed between any two statements of its transaction, and before and after its commit. */
    @ParameterizedTest(name = "{0} {1}")
    @CsvSource({"SQLITE, delete", "SQLITE, wal", "POSTGRESQL, ''"})
    void killedBetweenStatementsIsAllOrNothing(Engine engine, String journal) throws Exception {
        Random random = new Random(11);
        Database database = engine.onDisk();
        String url =
                engine == Engine.SQLITE ? database.url() + "?foreign_keys=on&journal_mode=" + journal : database.url();
        build(url);
        int stopped = 0;
        for (String act : List.of("delete", "restore", "purge")) {
            begin(url, act);
            int steps = steps(url, act, 0);
            for (int i = 0; i < STOPS; i++) {
                begin(url, act);
                // Where few are looked at, the last ones are those around the commit.
                int stop = 1 + (i < 2 ? steps - 1 - i : random.nextInt(steps));
                stopped += steps(url, act, stop) < 0 ? 1 : 0;
                check(url, act);
            }
        }
        assertThat(stopped).isEqualTo(3 * STOPS);
    }

    /** How many statements and commits an act has; or kills it before one of them, and returns -1. */
    private static int steps(String url, String act, int stop) throws IOException, InterruptedException {
        Process process = process(url, act, Integer.toString(stop));
        try (BufferedReader out =
                new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
            for (String line = out.readLine(); line != null; line = out.readLine()) {
                if (line.equals("stopped")) {
                    return -1;
                }
                if (line.startsWith("steps ")) {
                    return Integer.parseInt(line.substring(6));
                }
            }
            throw new IllegalStateException("the process ended otherwise");
        } finally {
            process.destroyForcibly().waitFor();
        }
    }

    private static Process process(String... words) throws IOException {
        List<String> command = new ArrayList<>(List.of(
                System.getProperty("java.home") + File.separator + "bin" + File.separator + "java",
                "-XX:TieredStopAtLevel=1",
                "-Xshare:auto",
                "-cp",
                System.getProperty("java.class.path"),
                Victim.class.getName()));
        command.addAll(List.of(words));
        return new ProcessBuilder(command).redirectErrorStream(true).start();
    }

    private static void check(String url, String act) {
        Vacancy vacancy = vacancy(url);
        long rows = number(url, "SELECT (SELECT COUNT(*) FROM boat) + (SELECT COUNT(*) FROM reading)");
        long images = number(url, "SELECT COUNT(*) FROM vacancy_image");
        long receipts = number(url, "SELECT COUNT(*) FROM vacancy_receipt");
        long parts = number(url, "SELECT COUNT(*) FROM vacancy_part");
        long left;
        long there;
        try (Stream<ArchivedRows> kept =
                vacancy.archive().rows(ArchiveQuery.all().withUsed())) {
            List<ArchivedRows> all = kept.toList();
            left = all.stream().mapToLong(ArchivedRows::left).sum();
            there = all.stream().mapToLong(ArchivedRows::there).sum();
        }
        assertThat(parts).isEqualTo(receipts);
        assertThat(number(url, "SELECT COUNT(*) FROM vacancy_trail"))
                .as("entries after " + act)
                .isEqualTo(receipts);
        assertThat(there).as("images after " + act).isEqualTo(images);
        assertThat(vacancy.trail().verify().verified()).isTrue();
        long before = act.equals("delete") ? 0 : 1;
        boolean done = receipts > before;
        assertThat(receipts).isBetween(before, before + 1);
        boolean there2 = act.equals("delete") != done;
        switch (act) {
            case "delete", "restore" -> {
                assertThat(rows).as(act + (done ? " done" : " not done")).isEqualTo(there2 ? ALL : 0);
                assertThat(left).isEqualTo(there2 ? 0 : ALL);
                assertThat(images).isEqualTo(act.equals("delete") && !done ? 0 : ALL);
            }
            default -> {
                assertThat(rows).isZero();
                assertThat(images).isEqualTo(done ? 0 : ALL);
                assertThat(left).isEqualTo(done ? 0 : ALL);
            }
        }
    }

    /** Runs it, and kills it after so many nanoseconds; -1 if it was killed before its end. */
    private static long time(String url, String act, long nanoseconds) throws IOException, InterruptedException {
        if (nanoseconds == Long.MAX_VALUE) {
            begin(url, act);
        }
        Process process = process(url, act);
        try (BufferedReader out =
                new BufferedReader(new InputStreamReader(process.getInputStream(), StandardCharsets.UTF_8))) {
            String line = out.readLine();
            while (line != null && !line.equals("ready")) {
                line = out.readLine();
            }
            assertThat(line).as("the process began").isEqualTo("ready");
            long began = System.nanoTime();
            boolean ended = process.waitFor(nanoseconds, TimeUnit.NANOSECONDS);
            long ran = System.nanoTime() - began;
            if (ended) {
                assertThat(out.lines().toList()).endsWith("done");
            }
            process.destroyForcibly().waitFor();
            return ended ? ran : -1;
        }
    }

    private static Vacancy vacancy(String url) {
        return Vacancy.on(JdbcStore.of(Victim.source(url)))
                .actor(() -> "Mira Holm")
                .open();
    }

    private static void build(String url) {
        run(
                url,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE INDEX reading_boat ON reading (boat_id)",
                "CREATE TABLE number (n INTEGER NOT NULL PRIMARY KEY)");
        StringBuilder numbers = new StringBuilder("INSERT INTO number VALUES (1)");
        for (int n = 2; n <= BOATS; n++) {
            numbers.append(", (").append(n).append(')');
        }
        run(url, numbers.toString());
        vacancy(url).archive().setUp();
    }

    private static void fill(String url) {
        run(
                url,
                "INSERT INTO boat SELECT n, 'Osprey' FROM number",
                "INSERT INTO reading SELECT a.n * 10 + b.n, a.n FROM number a CROSS JOIN number b WHERE b.n <= 5");
    }

    private static void run(String url, String... statements) {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException failed) {
            throw new IllegalStateException(String.join("; ", statements).substring(0, 60), failed);
        }
    }

    private static long number(String url, String query) {
        try (Connection connection = DriverManager.getConnection(url);
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(query)) {
            rows.next();
            return rows.getLong(1);
        } catch (SQLException failed) {
            throw new IllegalStateException(query, failed);
        }
    }
}
