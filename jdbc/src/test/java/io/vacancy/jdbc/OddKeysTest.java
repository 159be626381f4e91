// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Keys of types that compare in their own way are found by what is shown of them, or refused with the reason. */
class OddKeysTest {

    /** @param refusal what is said at once, or empty where the row is found */
    private record Case(String type, String literal, String key, String refusal) {

        Case(String type, String literal, String key) {
            this(type, literal, key, "");
        }
    }

    private static List<Case> cases(Engine engine) {
        return switch (engine) {
            case H2 ->
                List.of(
                        new Case("REAL", "0.1", "0.1"),
                        new Case("DOUBLE PRECISION", "0.1", "0.1"),
                        new Case("BOOLEAN", "TRUE", "true"),
                        new Case("VARCHAR(9)", "''", "", "The key is empty."),
                        new Case("CHAR(4)", "'a'", "a"),
                        new Case("DECFLOAT(10)", "0.10", "0.10"),
                        new Case("ENUM('a', 'b')", "'b'", "b"),
                        new Case("TIME", "'14:30:00'", "14:30:00"),
                        new Case(
                                "TIMESTAMP WITH TIME ZONE", "'2026-05-01 14:30:00+02:00'", "2026-05-01T14:30:00+02:00"),
                        new Case("INTERVAL DAY", "INTERVAL '3' DAY", "INTERVAL '3' DAY"),
                        new Case("INTERVAL YEAR", "INTERVAL '3' YEAR", "INTERVAL '3' YEAR"));
            case POSTGRESQL ->
                List.of(
                        new Case("REAL", "0.1", "0.1"),
                        new Case("DOUBLE PRECISION", "0.1", "0.1"),
                        new Case("DOUBLE PRECISION", "'NaN'", "NaN"),
                        new Case(
                                "NUMERIC", "'NaN'", "NaN", "\"NaN\" cannot be a value of crate.k, which holds numeric"),
                        new Case("BOOLEAN", "TRUE", "true"),
                        new Case("BIT(3)", "B'101'", "101"),
                        new Case("BIT(1)", "B'1'", "1"),
                        new Case("BIT VARYING(9)", "B'101'", "101"),
                        new Case("VARCHAR(9)", "''", "", "The key is empty."),
                        new Case("CHAR(4)", "'a'", "a"),
                        new Case("DATE", "'infinity'", "+999999999-12-31"),
                        new Case("TIMESTAMP", "'-infinity'", "-999999999-01-01T00:00:00"),
                        new Case("TIMESTAMP WITH TIME ZONE", "'infinity'", "+999999999-12-31T23:59:59.999999999-18:00"),
                        new Case("INTERVAL", "'3 days'", "3 days"),
                        new Case("INET", "'10.0.0.1'", "10.0.0.1"),
                        new Case("INTEGER[]", "'{1,2}'", "{1,2}"),
                        new Case("MONEY", "'12.50'", "$12.50"));
            case MARIADB ->
                List.of(
                        new Case("FLOAT", "0.1", "0.1"),
                        new Case("DOUBLE", "0.1", "0.1"),
                        new Case("BOOLEAN", "TRUE", "true"),
                        new Case("BIT(1)", "b'1'", "true"),
                        new Case("BIT(8)", "b'101'", "5"),
                        new Case("VARCHAR(9)", "''", "", "The key is empty."),
                        new Case("CHAR(4)", "'a'", "a"),
                        new Case("ENUM('a', 'b')", "'b'", "b"),
                        new Case("SET('a', 'b')", "'a,b'", "a,b"),
                        new Case("YEAR", "2026", "2026"),
                        new Case("TIME", "'101:30:00'", "101:30:00"),
                        new Case("BIGINT UNSIGNED", "18446744073709551615", "18446744073709551615"),
                        new Case("INET6", "'::1'", "::1"));
            case SQLITE ->
                List.of(
                        new Case("REAL", "0.1", "0.1"),
                        new Case("INT", "'abc'", "abc", "\"abc\" cannot be a value of crate.k, which holds INT"),
                        new Case("INTEGER", "1", "1"),
                        new Case("TEXT", "''", "", "The key is empty."),
                        new Case("TEXT", "'1'", "1"),
                        new Case("BLOB", "x'0102'", "AQI="),
                        new Case("NUMERIC", "0.5", "0.5"),
                        new Case("ANYTHING", "'x'", "x"),
                        new Case("BOOLEAN", "1", "true"),
                        new Case("", "7", "7"));
            default -> List.of();
        };
    }

    @OnEveryEngine
    void foundOrRefused(Engine engine) {
        List<String> wrong = new ArrayList<>();
        for (Case each : cases(engine)) {
            String result;
            try {
                Bench bench = Bench.of(
                        engine,
                        "CREATE TABLE crate (k " + each.type() + " NOT NULL PRIMARY KEY, n INTEGER)",
                        "CREATE TABLE item (id INTEGER NOT NULL PRIMARY KEY, crate_k " + each.type() + ","
                                + " FOREIGN KEY (crate_k) REFERENCES crate (k) ON DELETE CASCADE)",
                        "INSERT INTO crate VALUES (" + each.literal() + ", 1)",
                        "INSERT INTO item VALUES (1, " + each.literal() + ")");
                Outcome done = bench.vacancy()
                        .execute(Request.delete("crate").key(each.key()).expect(1));
                result = done instanceof Outcome.Done ? "" : done.toString();
                if (done instanceof Outcome.Done && bench.count("crate") + bench.count("item") > 0) {
                    result = "left";
                }
            } catch (MisuseException refused) {
                boolean expected = !each.refusal().isEmpty()
                        && String.valueOf(refused.getMessage()).startsWith(each.refusal());
                result = expected ? "" : "REFUSED " + refused.getMessage();
            } catch (RuntimeException failed) {
                result = "FAILED " + failed;
            }
            if (!result.isEmpty()) {
                wrong.add(each + ": " + result);
            }
        }
        assertThat(wrong).isEmpty();
    }

    @Test
    void rowsOfAFullTextTableOfSqliteGoAndComeBack() {
        Bench bench = Bench.of(
                Engine.SQLITE,
                "CREATE VIRTUAL TABLE notice USING fts5(title, body)",
                "INSERT INTO notice VALUES ('Storm', 'Double your lines')",
                "INSERT INTO notice VALUES ('Fair', 'Pancakes at noon')");
        bench.vacancy().archive().setUp();
        Receipt gone = bench.vacancy()
                .execute(Request.delete("notice")
                        .where(column("title").equalTo("Storm"))
                        .expect(1))
                .receiptOrThrow();
        assertThat(bench.count("notice")).isEqualTo(1);
        bench.vacancy()
                .execute(Request.restore(gone.id()).withoutConfirmation("test"))
                .receiptOrThrow();
        assertThat(bench.count("notice WHERE notice MATCH 'lines'")).isEqualTo(1);
    }
}
