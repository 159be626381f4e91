// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.condition.SqlText;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.trail.TrailEntry;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.stream.Stream;

/** Names, keys and values that are made to end a literal, a name, a pattern or a line: each is what it is, and nothing else. */
class HostileValuesTest {

    private static final List<String> PARTS = List.of(
            "'",
            "''",
            "\"",
            "\\",
            "\\'",
            "`",
            "]",
            "[",
            "--",
            "/*",
            "*/",
            ";",
            ";DROP TABLE berth;--",
            "' OR '1'='1",
            "%",
            "_",
            "${x}",
            "{name}",
            "?",
            ":a",
            "@b",
            "#",
            "$$",
            "$1",
            "\t",
            "\n",
            "\r\n",
            "\u001b[2J",
            "\u0085",
            "\u202e",
            "\u2028",
            "\ufeff",
            "ß",
            "İ",
            "é",
            "e\u0301",
            "\ud83d\udea4",
            "NULL",
            "null",
            "0x41",
            "1e9",
            " ",
            "a",
            "B",
            "=",
            "<b>",
            "&amp;",
            "\u00a0",
            ",",
            "|",
            "()",
            "E'",
            "N'x'",
            "\\u0041",
            "\\x41",
            "%s",
            "%n");

    private static Set<String> values(Random random, int many) {
        Set<String> values = new LinkedHashSet<>();
        // Two that an engine takes for the same by its order of letters are not both wanted.
        Set<String> alike = new LinkedHashSet<>();
        while (values.size() < many) {
            StringBuilder text = new StringBuilder("k" + values.size() + "k");
            for (int i = random.nextInt(5); i >= 0; i--) {
                text.append(PARTS.get(random.nextInt(PARTS.size())));
            }
            if (alike.add(text.toString())) {
                values.add(text.append('.').toString());
            }
        }
        return values;
    }

    private static Bench bench(Engine engine, Set<String> values) throws SQLException {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE berth (code VARCHAR(80) NOT NULL PRIMARY KEY, note VARCHAR(200), gone DATE)",
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, code VARCHAR(80),"
                        + " FOREIGN KEY (code) REFERENCES berth (code) ON DELETE CASCADE)");
        try (Connection connection = bench.database().source().getConnection();
                PreparedStatement berth = connection.prepareStatement("INSERT INTO berth VALUES (?, ?, NULL)");
                PreparedStatement stay = connection.prepareStatement("INSERT INTO stay VALUES (?, ?)")) {
            connection.setAutoCommit(false);
            int id = 0;
            for (String value : values) {
                berth.setString(1, value);
                berth.setString(2, "of " + value);
                berth.addBatch();
                stay.setInt(1, id++);
                stay.setString(2, value);
                stay.addBatch();
            }
            berth.executeBatch();
            stay.executeBatch();
            connection.commit();
        }
        bench.vacancy().archive().setUp();
        return bench;
    }

    private static List<String> contents(Vacancy vacancy) {
        List<String> contents = new ArrayList<>();
        for (String table : List.of("berth", "stay")) {
            Request all = Request.erase(table).everyRow();
            try (Stream<Row> rows = vacancy.rows(all)) {
                rows.map(row -> row.values().toString()).sorted().forEach(contents::add);
            }
        }
        return contents;
    }

    @OnEveryEngine
    void aThousandKeysAndValuesAreWhatTheyAre(Engine engine) throws SQLException {
        Set<String> values = values(new Random(engine.ordinal()), 1_000);
        Bench bench = bench(engine, values);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.table("berth", table -> table.marker(Marker.date("gone")))
                        .relation("stay.code", Rule.cascade())
                        .whenSoftDeleted("stay.code", Rule.leave())))
                .actor(() -> "Mira' Holm\u202e--")
                .open();
        List<String> before = contents(vacancy);
        assertThat(before).hasSize(2_000);
        Random random = new Random(1);
        List<String> some = new ArrayList<>(values);
        Collections.shuffle(some, random);

        // One by one: by key, by match, by condition, by a prefix; each takes itself and its child.
        for (String value : some.subList(0, 16)) {
            for (Request one : List.of(
                    Request.erase("berth").key(value),
                    Request.erase("berth").matching("code", value),
                    Request.erase("berth").where(column("note").equalTo("of " + value)),
                    Request.erase("berth").where(column("code").in(value, "k9999k")),
                    Request.erase("berth").where(column("code").between(value, value)))) {
                assertThat(vacancy.preview(one).impact().totals().values())
                        .as(one + " of " + value)
                        .containsExactly(2L);
            }
        }
        for (String value : some.subList(0, 8)) {
            SqlText text = vacancy.tables().activeSql("berth", "b");
            assertThat(text.toString()).doesNotContain(value);
            Receipt gone = vacancy.execute(Request.erase("berth")
                            .key(value)
                            .because("for " + value)
                            .expect(1))
                    .receiptOrThrow();
            assertThat(gone.record().get("code")).isEqualTo(value);
            assertThat(gone.because()).isEqualTo("for " + value);
            try (Stream<TrailEntry> entries =
                    vacancy.history().of("berth", value).open()) {
                assertThat(entries).extracting(TrailEntry::because).containsExactly("for " + value);
            }
            vacancy.execute(Request.restore("berth").key(value).expect(1)).receiptOrThrow();
        }
        // All at once: a list of keys, marked and back, erased and back.
        assertThat(vacancy.execute(Request.softDelete("berth")
                                .keys(some.subList(0, 700))
                                .expect(700))
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(700);
        vacancy.execute(Request.restore("berth").keys(some.subList(0, 700)).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(contents(vacancy)).isEqualTo(before);
        Receipt gone = vacancy.execute(Request.erase("berth").keys(some).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("stay")).isZero();
        vacancy.execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(contents(vacancy)).isEqualTo(before);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void namesAreQuotedWhateverIsInThem(Engine engine) {
        String quote = engine == Engine.MARIADB ? "`" : "\"";
        Bench bench = Bench.of(engine);
        List<String> used = new ArrayList<>();
        for (String part : PARTS) {
            String table = "x" + used.size() + part + "y";
            String named = ("z" + part + "z").replace(quote, quote + quote);
            try {
                bench.database()
                        .run(
                                "CREATE TABLE " + quote + table.replace(quote, quote + quote) + quote
                                        + " (id INTEGER NOT NULL PRIMARY KEY, " + quote + named + quote
                                        + " VARCHAR(10))",
                                "INSERT INTO " + quote + table.replace(quote, quote + quote) + quote
                                        + " VALUES (1, 'a'), (2, 'b')");
                used.add(part);
            } catch (RuntimeException noNameHere) {
                assertThat(noNameHere).as(part).hasMessageNotContaining("Vacancy");
            }
        }
        assertThat(used).hasSizeGreaterThan(30);
        Vacancy vacancy = bench.vacancy();
        vacancy.refresh();
        vacancy.archive().setUp();
        for (int i = 0; i < used.size(); i++) {
            String table = "x" + i + used.get(i) + "y";
            Request one =
                    Request.erase(table).where(column("z" + used.get(i) + "z").equalTo("a"));
            Receipt gone = vacancy.execute(one.expect(1)).receiptOrThrow();
            assertThat(gone.record().get("id").toString()).as(table).isEqualTo("1");
            vacancy.execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(vacancy.preview(Request.erase(table).everyRow()).impact().selected())
                    .as(table)
                    .isEqualTo(2);
        }
    }
}
