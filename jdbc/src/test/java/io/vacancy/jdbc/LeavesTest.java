// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.condition.Condition;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.math.BigInteger;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Rows that nothing hangs on: they go by the key of their parent, and yet exactly those go that were shown. */
class LeavesTest {

    private static Bench bench(Engine engine) {
        return Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE power_reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1, 'Osprey'), (2, 'Tern')",
                "INSERT INTO mooring VALUES (11, 1), (12, 1), (21, 2)",
                "INSERT INTO power_reading VALUES (111, 11), (112, 11), (121, 12), (211, 21), (212, 21)");
    }

    private static Preview shown(Bench bench) {
        return bench.vacancy().preview(Request.delete("boat").key(1));
    }

    private static Outcome answered(Bench bench, Preview shown) {
        return bench.vacancy().execute(shown, shown.question().answer("yes"));
    }

    @OnEveryEngine
    void areShownWithSamplesAndListedInFull(Engine engine) {
        Bench bench = bench(engine);
        Preview shown = shown(bench);

        assertThat(shown.effects()).extracting(Effect::rows).containsExactly(1L, 2L, 3L);
        assertThat(shown.effects().get(2).sample())
                .extracting(row -> row.get("id"))
                .containsExactly(111L, 112L, 121L);
        try (Stream<?> rows = bench.vacancy().rows(shown.request(), "power_reading")) {
            assertThat(rows).hasSize(3);
        }
        assertThat(answered(bench, shown).state()).isEqualTo(Outcome.State.DONE);
        assertThat(bench.count("power_reading")).isEqualTo(2);
    }

    @OnEveryEngine
    void whatIsOtherThanWasShownIsNoticed(Engine engine) {
        for (String change : List.of(
                "INSERT INTO power_reading VALUES (122, 12)",
                "DELETE FROM power_reading WHERE id = 112",
                "UPDATE power_reading SET mooring_id = 21 WHERE id = 112",
                "UPDATE power_reading SET mooring_id = 11 WHERE id = 211",
                "UPDATE power_reading SET id = 113 WHERE id = 112",
                "UPDATE power_reading SET mooring_id = CASE id WHEN 111 THEN 21 ELSE 11 END WHERE id IN (111, 211)")) {
            Bench bench = bench(engine);
            Preview shown = shown(bench);
            bench.database().run(change);
            long before = bench.count("power_reading");

            assertThat(answered(bench, shown).state()).as(change).isEqualTo(Outcome.State.CHANGED);
            assertThat(bench.count("power_reading")).as(change).isEqualTo(before);
            assertThat(bench.count("boat")).isEqualTo(2);
        }
    }

    /** The rows themselves are not locked while they are looked at, on these engines; that one is gone shows in the count. */
    @ParameterizedTest
    @EnumSource(names = {"POSTGRESQL", "MARIADB"})
    void oneThatGoesBetweenTheLookAndTheRemovalIsNoticed(Engine engine) {
        Bench bench = bench(engine);
        Preview shown = shown(bench);

        Outcome outcome = bench.vacancy()
                .onEachRow(row -> bench.database().run("DELETE FROM power_reading WHERE id = 112"))
                .execute(shown, shown.question().answer("yes"));

        assertThat(outcome.state()).isEqualTo(Outcome.State.CHANGED);
        assertThat(bench.count("power_reading")).isEqualTo(4);
        assertThat(bench.count("boat")).isEqualTo(2);
    }

    @ParameterizedTest
    @EnumSource(names = {"SQLITE", "POSTGRESQL"})
    void aKeyMayBeOfAWiderTypeThanWhatRefersToIt(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id BIGINT NOT NULL PRIMARY KEY)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1), (5000000000)",
                "INSERT INTO mooring VALUES (11, 1)");

        Preview shown = bench.vacancy().preview(Request.delete("boat").keys(1L, 5_000_000_000L));

        assertThat(shown.effects()).extracting(Effect::rows).containsExactly(2L, 1L);
        assertThat(bench.vacancy()
                        .execute(shown, shown.question().answer(shown.question().awaited()))
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(2);
    }

    private static final Condition BY_CONDITION = column("taken").lessThan(61);

    private static Bench readings(Engine engine) {
        String rows = IntStream.rangeClosed(1, 90)
                .mapToObj(id -> "(" + id + ", " + id + ")")
                .collect(Collectors.joining(", "));
        return Bench.of(
                engine,
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, taken INTEGER)",
                "INSERT INTO reading VALUES " + rows);
    }

    private static Vacancy fewInMemory(DataSource source) {
        return Vacancy.on(JdbcStore.of(source).withKeysInMemory(5))
                .actor(() -> "Mira Holm")
                .open();
    }

    /** Without a key table, each key once, and those that are not there told apart. */
    @OnEveryEngine
    void keysInAnyOrderAndSomeOfThemTwice(Engine engine) {
        Bench bench = readings(engine);
        List<Object> keys = new ArrayList<>(List.of(9L, 4L, 177L, 4L, -3L));
        IntStream.range(0, 4_000).forEach(i -> keys.add(3 + i % 60));

        Receipt receipt = fewInMemory(bench.database().source())
                .execute(Request.delete("reading").keys(keys).withoutConfirmation("many of them"))
                .receiptOrThrow();

        assertThat(receipt.rows()).isEqualTo(60);
        assertThat(bench.count("reading")).isEqualTo(30);
        assertThat(bench.count("reading WHERE id BETWEEN 3 AND 62")).isZero();
    }

    @OnEveryEngine
    void aKeyOfMoreThan64BitsAmongThem(Engine engine) {
        Bench bench = Bench.of(engine, "CREATE TABLE reading (id NUMERIC(30) NOT NULL PRIMARY KEY)");
        String rows =
                IntStream.rangeClosed(1, 60).mapToObj(id -> "(" + id + ")").collect(Collectors.joining(", "));
        bench.database().run("INSERT INTO reading VALUES " + rows);
        List<Object> keys = new ArrayList<>();
        IntStream.rangeClosed(1, 40).forEach(keys::add);
        keys.add(10, new BigInteger("10000000000000000000000000"));

        Receipt receipt = fewInMemory(bench.database().source())
                .execute(Request.delete("reading").keys(keys).withoutConfirmation("many of them"))
                .receiptOrThrow();

        assertThat(receipt.rows()).isEqualTo(40);
        assertThat(bench.count("reading")).isEqualTo(20);
    }

    /** Whenever another takes one of the rows away, what is told is what went; or it is told that they changed, and none went. */
    @ParameterizedTest
    @EnumSource(names = {"POSTGRESQL", "MARIADB"})
    void whatIsToldIsWhatWentWhoeverComesInBetween(Engine engine) {
        Bench bench = readings(engine);
        List<Request> requests = List.of(
                Request.delete("reading").where(BY_CONDITION).withoutConfirmation("old ones"),
                Request.delete("reading")
                        .keys(IntStream.rangeClosed(1, 60).boxed().toList())
                        .withoutConfirmation("old ones"));
        for (Request request : requests) {
            boolean another = true;
            for (int step = 1; another; step++) {
                bench.database().run("DELETE FROM reading");
                bench.database()
                        .run("INSERT INTO reading VALUES "
                                + IntStream.rangeClosed(1, 90)
                                        .mapToObj(id -> "(" + id + ", " + id + ")")
                                        .collect(Collectors.joining(", ")));
                AtomicLong taken = new AtomicLong(-1);
                int at = step;
                Outcome outcome = fewInMemory(
                                new CountingSource(bench.database().source(), each -> {
                                    if (each == at) {
                                        taken.set(takenByAnother(bench));
                                    }
                                }))
                        .execute(request);
                another = taken.get() >= 0;
                long gone = 90 - bench.count("reading") - Math.max(0, taken.get());
                if (outcome instanceof Outcome.Done done) {
                    assertThat(done.receipt().rows()).as("before step " + step).isEqualTo(gone);
                } else {
                    assertThat(outcome.state()).isEqualTo(Outcome.State.CHANGED);
                    assertThat(gone).as("before step " + step).isZero();
                }
            }
        }
    }

    /** How many it took; none where the row is gone or locked. */
    private static long takenByAnother(Bench bench) {
        try (Connection other = bench.database().connect();
                Statement statement = other.createStatement()) {
            statement.execute(
                    bench.database().engine() == Engine.POSTGRESQL
                            ? "SET lock_timeout = '100ms'"
                            : "SET innodb_lock_wait_timeout = 1");
            return statement.executeUpdate("DELETE FROM reading WHERE id = 7");
        } catch (SQLException locked) {
            return 0;
        }
    }
}
