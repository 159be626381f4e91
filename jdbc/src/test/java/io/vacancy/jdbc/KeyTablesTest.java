// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.TimeEncoding;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Where keys are too many for memory they go to tables, which nobody else may come across. */
class KeyTablesTest {

    private static final int BOATS = 40;

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)");
        StringBuilder boats = new StringBuilder();
        StringBuilder moorings = new StringBuilder();
        StringBuilder readings = new StringBuilder();
        for (int i = 0; i < BOATS; i++) {
            String comma = i == 0 ? "" : ", ";
            boats.append(comma).append("(" + i + ")");
            moorings.append(comma).append("(" + 2 * i + ", " + i + "), (" + (2 * i + 1) + ", " + i + ")");
            readings.append(comma).append("(" + 2 * i + ", " + 2 * i + "), (" + (2 * i + 1) + ", " + (2 * i + 1) + ")");
        }
        bench.database()
                .run(
                        "INSERT INTO boat VALUES " + boats,
                        "INSERT INTO mooring VALUES " + moorings,
                        "INSERT INTO reading VALUES " + readings);
        return bench;
    }

    private static Vacancy withoutMemory(Bench bench) {
        return Vacancy.on(JdbcStore.of(bench.database().source()).withKeysInMemory(0))
                .actor(() -> "Mira Holm")
                .open();
    }

    private static List<Integer> even() {
        return IntStream.range(0, BOATS).filter(i -> i % 2 == 0).boxed().toList();
    }

    /** Each sees its own keys, though the keys of all of them are in the same database. */
    @OnEveryEngine
    void manyLookAtATime(Engine engine) throws Exception {
        Bench bench = bench(engine);
        Vacancy vacancy = withoutMemory(bench);
        ExecutorService threads = Executors.newFixedThreadPool(6);
        List<Future<Preview>> looking = new ArrayList<>();
        for (int i = 0; i < 24; i++) {
            int boats = 1 + i % 8;
            List<Integer> keys = IntStream.range(i, i + boats).boxed().toList();
            looking.add(
                    threads.submit(() -> vacancy.preview(Request.delete("boat").keys(keys))));
        }
        threads.shutdown();
        for (int i = 0; i < looking.size(); i++) {
            Preview preview = looking.get(i).get();
            long boats = 1 + i % 8;
            assertThat(preview.effects())
                    .extracting(effect -> effect.rows())
                    .as("preview " + i)
                    .containsExactly(boats, 2 * boats, 2 * boats);
        }
        assertThat(bench.count("boat")).isEqualTo(BOATS);
    }

    /** Streams of one transaction are open at the same time, and something is deleted meanwhile. */
    @OnEveryEngine
    void severalStreamsOfOneTransactionDoNotMeet(Engine engine) throws SQLException {
        Bench bench = bench(engine);
        Vacancy vacancy = withoutMemory(bench);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = vacancy.within(connection);
            Request even = Request.delete("boat").keys(even());
            try (Stream<Row> boats = within.rows(even);
                    Stream<Row> moorings = within.rows(Request.delete("boat").keys(1, 3), "mooring")) {
                Iterator<Row> each = boats.iterator();
                List<Object> seen =
                        new ArrayList<>(List.of(String.valueOf(each.next().get("id"))));
                assertThat(moorings.map(row -> row.get("boat_id")).distinct()).containsExactlyInAnyOrder(1L, 3L);
                assertThat(within.execute(Request.delete("boat").keys(5, 7).expect(2)))
                        .isInstanceOf(Outcome.Done.class);
                each.forEachRemaining(row -> seen.add(String.valueOf(row.get("id"))));
                assertThat(seen)
                        .containsExactlyInAnyOrderElementsOf(
                                even().stream().map(String::valueOf).toList());
            }
            connection.commit();
        }
        assertThat(bench.count("boat")).isEqualTo(BOATS - 2);
        assertThat(bench.count("reading")).isEqualTo(2 * BOATS - 4);
    }

    /** Whatever a transaction did to its keys, nothing of them is there for the next one. */
    @OnEveryEngine
    void nothingOfAKeyStays(Engine engine) throws SQLException {
        Bench bench = bench(engine);
        Vacancy vacancy = withoutMemory(bench);
        vacancy.preview(Request.delete("boat").keys(even()));
        assertThat(vacancy.execute(Request.delete("boat").keys(0, 2).expect(1))).isInstanceOf(Outcome.Refused.class);
        vacancy.execute(Request.delete("boat").keys(0, 2).expect(2)).receiptOrThrow();
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            for (int i = 0; i < 3; i++) {
                vacancy.within(connection)
                        .execute(Request.delete("boat").keys(4, 6).expect(2))
                        .receiptOrThrow();
                connection.rollback();
            }
            vacancy.within(connection)
                    .execute(Request.delete("boat").keys(4, 6).expect(2))
                    .receiptOrThrow();
            connection.commit();
        }
        assertThat(vacancy.preview(Request.delete("boat").keys(1, 3)).impact().going())
                .isEqualTo(10);
        assertThat(bench.count("boat")).isEqualTo(BOATS - 4);
        if (engine == Engine.H2) {
            List<String> tables = new ArrayList<>();
            try (Connection connection = bench.database().connect();
                    ResultSet found = connection.getMetaData().getTables(null, null, "vacancy_keys_%", null)) {
                while (found.next()) {
                    tables.add(found.getString("TABLE_NAME"));
                }
            }
            tables.remove("vacancy_keys_slot");
            assertThat(tables).isNotEmpty().allSatisfy(table -> assertThat(bench.count(table))
                    .isZero());
        }
        // They are nobody's business.
        vacancy.refresh();
        assertThat(vacancy.schema().tables())
                .extracting(table -> table.name().name())
                .containsExactlyInAnyOrder("boat", "mooring", "reading");
    }

    /** What a column keeps as a number and everybody reads as a time goes into a key table as the column keeps it. */
    @OnEveryEngine
    void keysThatAreTimesKeptAsNumbers(Engine engine) {
        Bench bench = Bench.of(engine, "CREATE TABLE tide (at BIGINT NOT NULL PRIMARY KEY)");
        bench.database().run("INSERT INTO tide VALUES (1700000000), (1700000060), (1700000120), (1700000180)");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()).withKeysInMemory(0))
                .rules(RuleBook.build(book -> book.table("tide", t -> t.times("at", TimeEncoding.EPOCH_SECONDS))))
                .actor(() -> "Mira Holm")
                .open();
        Request some = Request.delete("tide").keys("2023-11-14T22:13:20Z", "2023-11-14T22:15:20Z");

        assertThat(vacancy.preview(some).effects())
                .extracting(effect -> effect.rows())
                .containsExactly(2L);
        assertThat(vacancy.execute(some.expect(2))).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("tide")).isEqualTo(2);
    }
}
