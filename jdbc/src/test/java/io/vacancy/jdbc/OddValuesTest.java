// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.engines.Engine;
import io.vacancy.failure.VacancyException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.schema.Row;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.util.List;
import java.util.UUID;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** Values that have broken statements elsewhere select exactly their own row. */
class OddValuesTest {

    private static final List<String> ODD = List.of(
            "O'Hara",
            "'; DROP TABLE buoy; --",
            "\"quoted\"",
            "a /* comment */ b",
            "100%",
            "under_score",
            "back\\slash",
            "new\nline\tand tab",
            "?",
            ":name",
            "{ts '2020-01-01'}",
            "Ægir",
            "港",
            "\uD83D\uDEA2",
            "\uD834\uDD1E\uDBFF\uDFFD",
            " blank around ");

    private static Bench buoys(Engine engine) throws SQLException {
        String text = engine == Engine.MARIADB ? "VARCHAR(60) COLLATE utf8mb4_bin" : "VARCHAR(60)";
        Bench bench = Bench.of(engine, "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY, name " + text + ")");
        try (Connection connection = bench.database().connect();
                PreparedStatement insert = connection.prepareStatement("INSERT INTO buoy VALUES (?, ?)")) {
            for (int id = 0; id < ODD.size(); id++) {
                insert.setInt(1, id);
                insert.setString(2, ODD.get(id));
                insert.executeUpdate();
            }
        }
        return bench;
    }

    private static List<Object> ids(Bench bench, Request request) {
        try (Stream<Row> rows = bench.vacancy().rows(request)) {
            return rows.map(row -> row.get("id")).toList();
        }
    }

    @OnEveryEngine
    void eachIsFoundByJavaTextJsonAndMatch(Engine engine) throws SQLException {
        Bench bench = buoys(engine);

        for (int id = 0; id < ODD.size(); id++) {
            Condition condition = column("name").equalTo(ODD.get(id));
            List<Condition> same = List.of(
                    condition,
                    SearchCondition.read(ConditionText.of(condition)),
                    JsonReader.condition(new JsonWriter().write(condition)),
                    column("name").in(ODD.get(id), "nobody"),
                    column("name").like(ODD.get(id).replaceAll("([%_\\\\])", "\\\\$1")));
            for (Condition each : same) {
                assertThat(ids(bench, Request.delete("buoy").where(each)))
                        .as("%s on %s", each, engine)
                        .containsExactly((long) id);
            }
            assertThat(ids(bench, Request.delete("buoy").matching("name", ODD.get(id))))
                    .containsExactly((long) id);
        }
        assertThat(bench.count("buoy")).isEqualTo(ODD.size());
    }

    @OnEveryEngine
    void aNulIsRefusedOrSelectsNothing(Engine engine) throws SQLException {
        Bench bench = buoys(engine);

        assertThatThrownBy(() -> SearchCondition.read("name = 'a' \0")).hasMessageContaining("position 12");
        try {
            assertThat(ids(bench, Request.delete("buoy").where(column("name").equalTo("a\0b"))))
                    .isEmpty();
        } catch (VacancyException refused) {
            assertThat(refused).hasMessageContaining("buoy");
        }
        assertThat(bench.count("buoy")).isEqualTo(ODD.size());
    }

    @OnEveryEngine
    void timesTruthsAndIdentifiersCompareAsWhatTheyAre(Engine engine) {
        String uuid = engine == Engine.SQLITE ? "TEXT" : "UUID";
        UUID first = UUID.fromString("123e4567-e89b-12d3-a456-426614174000");
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE lamp (id INTEGER NOT NULL PRIMARY KEY, code " + uuid
                        + ", at TIME, seen TIMESTAMP NULL, lit" + " BOOLEAN)",
                "INSERT INTO lamp VALUES (1, '" + first + "', '04:30:00', '2026-05-01 04:30:00', TRUE)",
                "INSERT INTO lamp VALUES (2, '223e4567-e89b-12d3-a456-426614174000', '21:15:00', '2026-05-01 21:15:00',"
                        + " FALSE)",
                "INSERT INTO lamp VALUES (3, NULL, NULL, NULL, NULL)");

        assertThat(ids(bench, Request.delete("lamp").where(column("code").equalTo(first))))
                .containsExactly(1L);
        assertThat(ids(bench, Request.delete("lamp").where(SearchCondition.read("code = '" + first + "'"))))
                .containsExactly(1L);
        assertThat(ids(bench, Request.delete("lamp").where(column("at").before(LocalTime.NOON))))
                .containsExactly(1L);
        assertThat(ids(bench, Request.delete("lamp").where(SearchCondition.read("at > TIME '12:00:00'"))))
                .containsExactly(2L);
        assertThat(ids(
                        bench,
                        Request.delete("lamp").where(column("seen").atLeast(LocalDateTime.of(2026, 5, 1, 21, 15)))))
                .containsExactly(2L);
        assertThat(ids(bench, Request.delete("lamp").where(SearchCondition.read("lit IS NOT TRUE"))))
                .containsExactlyInAnyOrder(2L, 3L);
        assertThat(ids(bench, Request.delete("lamp").where(SearchCondition.read("lit = FALSE"))))
                .containsExactly(2L);
    }

    /** PostgreSQL's decimals have what Java's have not, its dates an end, and four bytes hold another 0.1 than eight. */
    @Test
    void numbersAndDatesWithoutAnEndComeBackAsTheyWere() {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE tide (id REAL PRIMARY KEY, height NUMERIC, high DATE, at TIMESTAMP)",
                "INSERT INTO tide VALUES (0.1, 'NaN', 'infinity', '-infinity'), (0.2, 'Infinity', NULL, NULL),"
                        + " (0.3, '-Infinity', '-infinity', 'infinity'), (0.4, 1.50, '2026-05-04', NULL)");
        bench.vacancy().archive().setUp();
        String all = "tide WHERE (id = 0.1::real AND height = 'NaN' AND high = 'infinity' AND at = '-infinity')"
                + " OR (id = 0.2::real AND height = 'Infinity') OR (id = 0.3::real AND at = 'infinity')"
                + " OR (id = 0.4::real AND height = 1.50)";
        assertThat(bench.count(all)).isEqualTo(4);
        for (String key : List.of("0.1", "0.2", "0.3", "0.4")) {
            Preview preview = bench.vacancy().preview(Request.erase("tide").key(key));
            assertThat(new JsonWriter().write(preview)).contains("height");
            Receipt gone = bench.vacancy()
                    .execute(preview, preview.question().answer("yes"))
                    .receiptOrThrow();
            assertThat(bench.count("tide")).isEqualTo(3);
            bench.vacancy()
                    .execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(bench.count(all)).as(key).isEqualTo(4);
        }
    }

    /** A row of a table that inherits comes back there, with its own columns. */
    @Test
    void whatIsARowOfAnotherTableComesBackThere() {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE skipper (id INTEGER PRIMARY KEY)",
                "CREATE TABLE boat (id INTEGER PRIMARY KEY, name TEXT, skipper_id INTEGER REFERENCES skipper (id) ON DELETE"
                        + " CASCADE)",
                "CREATE TABLE ferry (lanes INTEGER, PRIMARY KEY (id), FOREIGN KEY (skipper_id) REFERENCES skipper (id) ON"
                        + " DELETE CASCADE) INHERITS (boat)",
                "CREATE TABLE night_ferry (beds INTEGER, PRIMARY KEY (id)) INHERITS (ferry)",
                "CREATE TABLE reading (id INTEGER, day DATE, PRIMARY KEY (id, day)) PARTITION BY RANGE (day)",
                "CREATE TABLE reading_26 PARTITION OF reading FOR VALUES FROM ('2026-01-01') TO ('2027-01-01')",
                "INSERT INTO boat VALUES (1, 'Osprey')",
                "INSERT INTO ferry VALUES (2, 'Heron', NULL, 4)",
                "INSERT INTO night_ferry VALUES (3, 'Owl', NULL, 6, 80)",
                "INSERT INTO reading VALUES (7, '2026-05-04'), (8, '2026-05-05')");
        bench.vacancy().archive().setUp();
        Receipt gone = bench.vacancy()
                .execute(Request.erase("boat").everyRow().withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("boat")).isZero();
        bench.vacancy()
                .execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("ONLY boat WHERE name = 'Osprey'")).isEqualTo(1);
        assertThat(bench.count("ONLY ferry WHERE lanes = 4")).isEqualTo(1);
        assertThat(bench.count("night_ferry WHERE beds = 80")).isEqualTo(1);
        // The same key in both: nobody can tell which is meant, so neither is deleted.
        bench.database().run("INSERT INTO ferry VALUES (1, 'Other', NULL, 2)");
        assertThat(bench.vacancy()
                        .execute(Request.erase("boat")
                                .where(column("name").equalTo("Osprey"))
                                .expect(1)))
                .isNotInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat")).isEqualTo(4);
        bench.database()
                .run(
                        "CREATE TABLE deck (id INTEGER PRIMARY KEY, ferry_id INTEGER REFERENCES ferry (id) ON DELETE CASCADE)");
        bench.vacancy().refresh();
        Preview preview = bench.vacancy().preview(Request.erase("boat").key(2));
        assertThat(preview.state()).isEqualTo(Preview.State.REFUSED);
        assertThat(preview.refusal())
                .contains("may be rows of ferry, which inherits from it, and to which deck.ferry_id refers");
        Receipt read = bench.vacancy()
                .execute(Request.erase("reading").where(column("id").equalTo(7)).expect(1))
                .receiptOrThrow();
        assertThat(read.totals().values()).containsExactly(1L);
        bench.vacancy()
                .execute(Request.restore(read.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("reading_26")).isEqualTo(2);
    }
}
