// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.json.JsonWriter;
import io.vacancy.preview.Estimate;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import java.time.Duration;
import java.util.stream.Collectors;
import java.util.stream.IntStream;

/** Roughly how long something will take, by how long it took before. */
class EstimateTest {

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, call_sign INTEGER, boat_id INTEGER)",
                "INSERT INTO boat VALUES "
                        + IntStream.rangeClosed(1, 5_000)
                                .mapToObj(id -> "(" + id + ", 'Boat " + id + "')")
                                .collect(Collectors.joining(", ")));
        bench.vacancy().archive().setUp();
        return bench;
    }

    private static Request boats(int from, int to) {
        return Request.erase("boat")
                .where(column("id").greaterThan(from - 1).and(column("id").atMost(to)))
                .withoutConfirmation("a test");
    }

    @OnEveryEngine
    void isToldWhereMoreThanASecondIsExpected(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = bench.vacancy();
        assertThat(vacancy.preview(boats(1, 4_000)).estimate()).isNull();

        vacancy.execute(boats(1, 10)).receiptOrThrow();
        vacancy.execute(boats(11, 510)).receiptOrThrow();
        assertThat(bench.count("vacancy_part WHERE took_ms >= 0 AND rows_affected = 500"))
                .isEqualTo(1);
        bench.database()
                .run(
                        "UPDATE vacancy_part SET took_ms = 1000 WHERE rows_affected = 10",
                        "UPDATE vacancy_part SET took_ms = 5000 WHERE rows_affected = 500");

        // A line through both: 918.4 ms, and 8.163 ms a row.
        Estimate two = vacancy.preview(boats(1_001, 3_000)).estimate();
        assertThat(two.time()).isBetween(Duration.ofMillis(17_240), Duration.ofMillis(17_250));
        assertThat(two.message())
                .isEqualTo("It takes about 17 seconds, by 2 earlier receipts; 2,000 rows are locked meanwhile.");
        for (int i = 0; i < 5; i++) {
            int from = 511 + i * 100;
            vacancy.execute(boats(from, from + 99)).receiptOrThrow();
        }
        bench.database().run("UPDATE vacancy_part SET took_ms = 500 WHERE rows_affected = 100");
        // One that was held up does not bend the line.
        bench.database().run("UPDATE vacancy_part SET took_ms = 4500 WHERE rows_affected = 500");
        bench.database().run("UPDATE vacancy_part SET took_ms = 50 WHERE rows_affected = 10");
        bench.database().run("UPDATE vacancy_part SET took_ms = 999999 WHERE receipt_no = 4");
        Estimate held = vacancy.preview(boats(1_501, 3_500)).estimate();
        assertThat(held.receipts()).isEqualTo(7);
        assertThat(held.time()).isBetween(Duration.ofSeconds(15), Duration.ofSeconds(20));
        assertThat(new JsonWriter().write(vacancy.preview(boats(1_501, 3_500))))
                .contains("\"estimate\" : {", "\"milliseconds\" : ", "\"rows-locked\" : 2000");
        assertThat(new JsonWriter().write(vacancy.preview(boats(1_501, 1_502)))).contains("\"estimate\" : null");

        // What is short is nobody's worry, and another operation takes another time.
        assertThat(vacancy.preview(boats(2_001, 2_900)).estimate()).isNull();
        bench.database().run("UPDATE vacancy_part SET took_ms = 1");
        assertThat(vacancy.preview(boats(1_501, 3_500)).estimate()).isNull();
        bench.database().run("UPDATE vacancy_part SET took_ms = 9000");
        bench.database().run("UPDATE vacancy_receipt SET mode = 'soft-delete'");
        assertThat(vacancy.preview(boats(1_501, 3_500)).estimate()).isNull();
    }

    @OnEveryEngine
    void relationsWithoutAnIndexAreNamed(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read("version: 1\nrelations: {\"note.call_sign -> boat.id\": leave}\n", "rules"))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.execute(boats(1, 500)).receiptOrThrow();
        bench.database().run("UPDATE vacancy_part SET took_ms = 5000");

        assertThat(vacancy.preview(boats(1_001, 3_000)).estimate().missingIndexes())
                .containsExactly(
                        "No index leads to the rows of note by call_sign: the whole table is read whenever a row of boat"
                                + " is deleted.");
    }
}
