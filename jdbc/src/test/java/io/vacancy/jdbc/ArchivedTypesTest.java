// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.io.TempDir;

/** Every type of every engine comes back as it was, to the last digit, from the archive and from a file. */
class ArchivedTypesTest {

    @TempDir
    Path folder;

    private static String[] statements(Engine engine) {
        List<String> sql = new ArrayList<>();
        switch (engine) {
            case SQLITE -> {
                sql.add(
                        "CREATE TABLE thing (id INTEGER PRIMARY KEY AUTOINCREMENT, a DECIMAL(20,6), b REAL, c TEXT, d BLOB,"
                                + " e BOOLEAN, f DATE, g TIMESTAMP, h, i INTEGER, j GENERATED ALWAYS AS (id * 2) STORED)");
                sql.add(
                        "INSERT INTO thing (id, a, b, c, d, e, f, g, h, i) VALUES"
                                + " (1, 12.500001, 1e300, 'it''s', x'00ff', 1, '2020-02-29', '2020-02-29 12:00:00', 'x', 7),"
                                + " (2, NULL, -0.1, '', x'', 0, NULL, NULL, NULL, NULL),"
                                + " (3, 3, 3.0, char(10) || 'ü\u2028', zeroblob(3), NULL, 'someday', '12', x'7f', 9223372036854775807)");
            }
            case H2 -> {
                sql.add("CREATE TABLE thing (id INTEGER GENERATED ALWAYS AS IDENTITY PRIMARY KEY, a DECIMAL(30,10),"
                        + " b DOUBLE PRECISION, b2 REAL, b3 DECFLOAT(20), c VARCHAR(200), c2 CHARACTER(4), c3 CLOB,"
                        + " d VARBINARY(200), d2 BLOB, e BOOLEAN, f DATE, g TIMESTAMP(9), g2 TIMESTAMP(6) WITH TIME ZONE,"
                        + " g3 TIME(3), h UUID, i JSON, k INTERVAL DAY TO SECOND(6), l ENUM('in', 'out'),"
                        + " m INTEGER ARRAY, n VARCHAR(20) ARRAY, o BIGINT GENERATED ALWAYS AS (id * 2))");
                sql.add("INSERT INTO thing (a, b, b2, b3, c, c2, c3, d, d2, e, f, g, g2, g3, h, i, k, l, m, n) VALUES"
                        + " (12345678901234567890.0123456789, 1e300, 0.1, 1.2300, 'it''s', 'ab', REPEAT('xy', 700000),"
                        + " X'00ff', X'0102', TRUE, DATE '2020-02-29', TIMESTAMP '2020-02-29 12:00:00.123456789',"
                        + " TIMESTAMP WITH TIME ZONE '2020-02-29 12:00:00.123456+05:30', TIME '23:59:59.999',"
                        + " UUID '0190c6a1-7b1c-7d3e-8f00-000000000001', JSON '{\"a\": 1.50, \"b\": null}',"
                        + " INTERVAL '1 02:03:04.5' DAY TO SECOND, 'out', ARRAY[1, NULL, 3], ARRAY['a,b', '', '[x]'])");
                sql.add("INSERT INTO thing (c, c3, d, m, n, i) VALUES ('', '', X'', ARRAY[], ARRAY[NULL], JSON 'null'),"
                        + " (NULL, NULL, NULL, NULL, NULL, NULL)");
            }
            case POSTGRESQL -> {
                sql.add("CREATE TYPE way AS ENUM ('in', 'out')");
                sql.add(
                        "CREATE TABLE thing (id BIGINT GENERATED ALWAYS AS IDENTITY PRIMARY KEY, a NUMERIC(30,10), a2 NUMERIC,"
                                + " b DOUBLE PRECISION, b2 REAL, c TEXT, c2 CHAR(4), d BYTEA, e BOOLEAN, f DATE, g TIMESTAMP,"
                                + " g2 TIMESTAMPTZ, g3 TIME, g4 TIMETZ, h UUID, i JSON, i2 JSONB, k INTERVAL, l way, m INTEGER[],"
                                + " n TEXT[], o INT4RANGE, p INET, q BIT(3), r XML, s POINT, t way[],"
                                + " u BIGINT GENERATED ALWAYS AS (a2 * 2) STORED)");
                sql.add(
                        "INSERT INTO thing (a, a2, b, b2, c, c2, d, e, f, g, g2, g3, g4, h, i, i2, k, l, m, n, o, p, q, r, s, t)"
                                + " VALUES (12345678901234567890.0123456789, 1.500, 1e300, 0.1, 'it''s', 'ab', '\\x00ff', TRUE,"
                                + " '2020-02-29', '2020-02-29 12:00:00.123456', '2020-02-29 12:00:00.123456+05:30', '23:59:59.9',"
                                + " '12:00+02', '0190c6a1-7b1c-7d3e-8f00-000000000001', '{\"b\":1.50,  \"a\":null}', '{\"a\": 1.50}',"
                                + " '1 mon 2 days 03:04:05.6', 'out', '{1,NULL,3}', '{\"a,b\",\"\",NULL}', '[1,5)', '10.0.0.1',"
                                + " B'101', '<a/>', '(1.5,2)', '{in,out}')");
                sql.add(
                        "INSERT INTO thing (c, d, i, i2, m, n, b, a2) VALUES ('', '', 'null', 'null', '{}', '{}', 'NaN', 7),"
                                + " (NULL, NULL, NULL, NULL, NULL, NULL, '-0', NULL)");
            }
            case MARIADB -> {
                sql.add(
                        "CREATE TABLE thing (id BIGINT UNSIGNED AUTO_INCREMENT PRIMARY KEY, a DECIMAL(30,10), b DOUBLE, b2 FLOAT,"
                                + " c VARCHAR(200) CHARACTER SET latin1, c1 TEXT CHARACTER SET utf8mb4 COLLATE utf8mb4_bin, c2 CHAR(4),"
                                + " d VARBINARY(200), d2 LONGBLOB, d3 BINARY(3), e BOOLEAN, f DATE, g DATETIME(6), g2 TIMESTAMP(3) NULL,"
                                + " g3 TIME(2), g4 YEAR, h UUID, i JSON, l ENUM('in', 'out'), m SET('a', 'b', 'c'), q BIT(9), p INET6,"
                                + " s POINT, t TINYINT, u BIGINT AS (t * 2) STORED) CHARACTER SET utf8mb4");
                sql.add(
                        "INSERT INTO thing (a, b, b2, c, c1, c2, d, d2, d3, e, f, g, g2, g3, g4, h, i, l, m, q, p, s, t) VALUES"
                                + " (12345678901234567890.0123456789, 1e300, 16777215, 'it''s ü', 'ü\uD83D\uDEA2', 'ab', X'00ff',"
                                + " REPEAT('x', 2000000), X'01', TRUE, '2020-02-29', '2020-02-29 12:00:00.123456',"
                                + " '2020-02-29 12:00:00.123', '-100:59:59.99', 2020, '0190c6a1-7b1c-7d3e-8f00-000000000001',"
                                + " '{\"b\":1.50,  \"a\":null}', 'out', 'a,c', b'101010101', '::1', POINT(1.5, 2), -7)");
                sql.add("INSERT INTO thing (c, c1, d, i, m, b2) VALUES ('', '', '', 'null', '', 0.1),"
                        + " (NULL, NULL, NULL, NULL, NULL, NULL)");
            }
            case OTHER -> {
                sql.add(
                        "CREATE TABLE thing (id INTEGER GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, a DECIMAL(30,10), b DOUBLE PRECISION,"
                                + " c VARCHAR(200), d VARBINARY(200), e BOOLEAN, f DATE, g TIMESTAMP, i SMALLINT, k BIGINT)");
                sql.add("INSERT INTO thing VALUES (1, 12345678901234567890.0123456789, 0.1, 'it''s', X'00ff', TRUE,"
                        + " DATE '2020-02-29', TIMESTAMP '2020-02-29 12:00:00.123456', -7, 9223372036854775807)");
                sql.add("INSERT INTO thing (id, c) VALUES (2, ''), (3, NULL)");
            }
        }
        return sql.toArray(String[]::new);
    }

    /** What the engine itself says that it holds, where a plain text would not tell everything. */
    private static Map<String, List<String>> contents(Bench bench, Engine engine) {
        List<String> tables = new ArrayList<>(List.of("thing"));
        if (engine == Engine.SQLITE) {
            tables.add(
                    "(SELECT typeof(a), typeof(b), typeof(c), quote(d), typeof(f), typeof(g), typeof(h), typeof(i) FROM"
                            + " thing) x");
        }
        if (engine == Engine.MARIADB) {
            tables.add(
                    "(SELECT id, HEX(c), HEX(c1), HEX(d), HEX(q), HEX(s), CAST(b2 AS DOUBLE), MD5(d2) FROM thing) x");
        }
        if (engine == Engine.H2) {
            tables.add("(SELECT id, RAWTOHEX(d), RAWTOHEX(d2), CHAR_LENGTH(c3) FROM thing) x");
        }
        return ArchiveTest.contents(bench.database(), tables);
    }

    @OnEveryEngine
    void everyTypeComesBackAsItWas(Engine engine) {
        Bench bench = Bench.of(engine, statements(engine));
        bench.vacancy().archive().setUp();
        Map<String, List<String>> before = contents(bench, engine);
        assertThat(before.get("thing")).hasSize(3);
        Vacancy vacancy = bench.vacancy();
        Receipt gone = vacancy.execute(Request.delete("thing").everyRow().withoutConfirmation("a test"))
                .receiptOrThrow();
        back(vacancy, vacancy.preview(Request.restore(gone.id())));
        assertThat(contents(bench, engine)).isEqualTo(before);
        nextInsertWorks(bench, engine);
    }

    @OnEveryEngine
    void everyTypeComesBackFromAFile(Engine engine) {
        Bench bench = Bench.of(engine, statements(engine));
        Map<String, List<String>> before = contents(bench, engine);
        Vacancy vacancy = bench.vacancy();
        Path file = folder.resolve(engine + ".jsonl");
        try (SavedFileWriter writer = new SavedFileWriter(file)) {
            vacancy.saveTo(writer)
                    .execute(Request.delete("thing").everyRow().withoutConfirmation("a test"))
                    .receiptOrThrow();
        }
        Request back = Request.restore(SavedFile.open(file), List.of("thing"));
        back(vacancy, vacancy.preview(back));
        assertThat(contents(bench, engine)).isEqualTo(before);
        // Another database has counted no row yet.
        Bench other = Bench.of(
                engine, statements(engine)[0], engine == Engine.POSTGRESQL ? statements(engine)[1] : "SELECT 1");
        back(other.vacancy(), other.vacancy().preview(back));
        assertThat(contents(other, engine)).isEqualTo(before);
        nextInsertWorks(other, engine);
    }

    private static void back(Vacancy vacancy, Preview preview) {
        vacancy.execute(preview, preview.question().answer(preview.question().awaited()))
                .receiptOrThrow();
    }

    private static void nextInsertWorks(Bench bench, Engine engine) {
        bench.database().run("INSERT INTO thing (c) VALUES ('next')");
        assertThat(bench.count("thing WHERE c = 'next'")).isEqualTo(1);
    }
}
