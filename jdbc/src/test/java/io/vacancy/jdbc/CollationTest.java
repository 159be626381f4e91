// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.util.List;
import java.util.stream.IntStream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** SQLite's foreign keys compare by the parent's collation and affinity, and so does Vacancy. */
class CollationTest {

    /** Of the children 10 and 11, both refer to the parent 1 by SQLite's foreign key; 20 refers to the parent 2. */
    private static Bench bench(String parent, String child, String key, String first, String second, String other) {
        return Bench.of(
                Engine.SQLITE,
                "CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, code " + parent + " NOT NULL UNIQUE)",
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, code " + child
                        + " REFERENCES berth (code) ON DELETE CASCADE)",
                "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, stay_id INTEGER REFERENCES stay (id))",
                "INSERT INTO berth VALUES (1, " + key + "), (2, " + other + ")",
                "INSERT INTO stay VALUES (10, " + first + "), (11, " + second + "), (20, " + other + ")",
                "INSERT INTO fee VALUES (100, 10), (110, 11), (200, 20)");
    }

    private static Vacancy open(Bench bench, Rule... rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(
                        book -> book.relation("stay.code", rules).relation("fee.stay_id", Rule.cascade())))
                .actor(() -> "Mira Holm")
                .open();
    }

    @ParameterizedTest
    @CsvSource(
            quoteCharacter = '|',
            value = {
                "TEXT COLLATE NOCASE, TEXT, 'abc', 'ABC', 'Abc', 'x'",
                "TEXT COLLATE NOCASE, TEXT COLLATE RTRIM, 'abc', 'ABC', 'Abc', 'x'",
                "TEXT COLLATE NOCASE, TEXT COLLATE NOCASE, 'abc', 'ABC', 'Abc', 'x'",
                "TEXT COLLATE RTRIM, TEXT, 'abc', 'abc ', 'abc  ', 'x'",
                "TEXT, TEXT COLLATE NOCASE, 'abc', 'abc', 'abc', 'ABC'",
                "TEXT, TEXT COLLATE RTRIM, 'abc', 'abc', 'abc', 'abc '",
                "INTEGER, TEXT, 1, '1', '01', 2",
                "INTEGER, TEXT, 1, '1.0', ' 1', 2",
                "TEXT, INTEGER, '1', 1, 1, '2'",
                "REAL, VARCHAR(10), 1.5, '1.5', '1.50', 2",
                "BLOB, TEXT, 'abc', 'abc', 'abc', 'x'",
                "VARCHAR(9) COLLATE NOCASE, BLOB, 'abc', 'ABC', 'aBC', 'x'",
            })
    void childrenAreThoseThatTheForeignKeyMeans(
            String parent, String child, String key, String first, String second, String other) {
        Bench bench = bench(parent, child, key, first, second, other);
        bench.vacancy().archive().setUp();
        for (boolean inMemory : List.of(true, false)) {
            Vacancy vacancy = open(bench, Rule.cascade());
            if (!inMemory) {
                // Enough keys for key tables.
                bench.database()
                        .run("INSERT INTO fee SELECT value + 1000, 10 FROM generate_series(1, 3000)"
                                .replace(
                                        "SELECT value + 1000, 10 FROM generate_series(1, 3000)",
                                        "WITH RECURSIVE n (i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n WHERE i < 3000) SELECT i + 1000,"
                                                + " 10 FROM n"));
            }
            long fees = bench.count("fee");
            Receipt gone = vacancy.execute(Request.erase("berth").key(1).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(gone.totals().values()).containsExactly(1 + 2 + fees - 1);
            assertThat(bench.count("stay WHERE id = 20")).isEqualTo(1);
            assertThat(bench.count("fee")).isEqualTo(1);
            vacancy.execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(bench.count("stay")).isEqualTo(3);
            assertThat(bench.count("fee")).isEqualTo(fees);
            vacancy.execute(Request.erase("berth").key(1).withoutConfirmation("a test"))
                    .receiptOrThrow();
            vacancy.execute(Request.restore("berth").key(1).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(bench.count("fee")).isEqualTo(fees);
        }
        Vacancy blocking = open(bench, Rule.block("still used"));
        Preview blocked = blocking.preview(Request.erase("berth").key(1));
        assertThat(blocked.blockers()).singleElement().returns(2L, blocker -> blocker.rows());
        Outcome skipped = blocking.execute(
                Request.erase("berth").everyRow().onBlocked(OnBlocked.SKIP).withoutConfirmation("a test"));
        assertThat(skipped.state()).isEqualTo(Outcome.State.BLOCKED);
        assertThat(bench.count("berth")).isEqualTo(2);
        bench.database().run("DELETE FROM fee WHERE id = 200", "DELETE FROM stay WHERE id = 20");
        assertThat(blocking.execute(Request.erase("berth")
                                .everyRow()
                                .onBlocked(OnBlocked.SKIP)
                                .withoutConfirmation("a test"))
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(1);
        assertThat(bench.count("berth WHERE id = 1")).isEqualTo(1);
        Vacancy nulling = open(bench, Rule.setNull());
        nulling.execute(Request.erase("berth").key(1).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("stay WHERE code IS NULL")).isEqualTo(2);
        assertThat(IntStream.of(10, 11).allMatch(id -> bench.count("stay WHERE id = " + id) == 1))
                .isTrue();
    }
}
