// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import org.junit.jupiter.api.Test;

/**
 * A value of every column type that an engine has, and the odd ones among them, is deleted, restored and compared as the
 * engine itself tells it. What cannot be is refused before anything is removed; docs/engines.md lists it.
 */
class FidelityTest {

    /** A value as an SQL literal, and what is said where it cannot be archived. */
    private record Case(String type, String literal, String refusal) {}

    private static List<Case> cases(Engine engine) {
        String file = "/fidelity/" + engine.name().toLowerCase(Locale.ROOT) + ".txt";
        try (InputStream in = FidelityTest.class.getResourceAsStream(file)) {
            List<Case> cases = new ArrayList<>();
            for (String line :
                    new String(Objects.requireNonNull(in).readAllBytes(), StandardCharsets.UTF_8).split("\n")) {
                String[] parts = line.split(" \\| ");
                cases.add(new Case(parts[0].strip(), parts[1], parts.length > 2 ? parts[2] : ""));
            }
            return cases;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static String exactly(Engine engine, Case each) {
        return switch (engine) {
            case SQLITE -> "typeof(v) || quote(v)";
            case H2 ->
                each.type().startsWith("BLOB") || each.type().startsWith("JAVA")
                        ? "RAWTOHEX(CAST(v AS VARBINARY))"
                        : "CAST(v AS VARCHAR)";
            case POSTGRESQL ->
                each.type().equals("double precision") || each.type().equals("real")
                        ? "encode(float8send(v), 'hex')"
                        : "v::text";
            default ->
                each.type().startsWith("FLOAT")
                        ? "CAST(v AS DOUBLE)"
                        : each.type().startsWith("ENUM") ? "CONCAT(v + 0, v)" : "HEX(v)";
        };
    }

    private static String read(Connection connection, String query) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(query)) {
            return rows.next() ? String.valueOf(rows.getString(1)) : "no row";
        }
    }

    private static void run(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }

    @OnEveryEngine
    void comesBackAsItWas(Engine engine) throws SQLException {
        if (engine == Engine.OTHER) {
            return;
        }
        List<Case> cases = cases(engine);
        Database database = engine.fresh();
        List<String> wrong = new ArrayList<>();
        try (Connection connection = database.connect()) {
            if (engine == Engine.POSTGRESQL) {
                run(connection, "CREATE TYPE way AS ENUM ('in', 'out')");
                run(connection, "CREATE TYPE spot AS (x integer, y text)");
                run(connection, "CREATE DOMAIN positive AS integer CHECK (VALUE > 0)");
            }
            if (engine == Engine.MARIADB) {
                run(connection, "SET sql_mode = ''");
            }
            for (int i = 0; i < cases.size(); i++) {
                run(
                        connection,
                        "CREATE TABLE t" + i + " (id INTEGER NOT NULL PRIMARY KEY, v "
                                + cases.get(i).type() + ")");
                run(
                        connection,
                        "INSERT INTO t" + i + " VALUES (1, " + cases.get(i).literal() + "), (2, NULL)");
            }
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            for (int i = 0; i < cases.size(); i++) {
                Case each = cases.get(i);
                String query = "SELECT " + exactly(engine, each) + " FROM t" + i + " WHERE id = 1";
                String before = read(connection, query);
                String result = backAndForth(vacancy, "t" + i);
                String after = read(connection, query);
                boolean expected = each.refusal().isEmpty() ? result.isEmpty() : result.contains(each.refusal());
                boolean left = each.refusal().isEmpty() || !result.startsWith("not restored");
                if (!expected || after.equals(before) != left) {
                    wrong.add(each + ": " + result
                            + (after.equals(before) ? "" : " was " + shortened(before) + " is " + shortened(after)));
                }
            }
        }
        assertThat(wrong).isEmpty();
    }

    @OnEveryEngine
    void aNumberThatTheEngineWouldGiveItselfStaysWhatItIs(Engine engine) throws SQLException {
        Database database = engine.fresh();
        try (Connection connection = database.connect()) {
            if (engine == Engine.MARIADB) {
                run(connection, "SET sql_mode = 'NO_AUTO_VALUE_ON_ZERO'");
            }
            run(
                    connection,
                    switch (engine) {
                        case MARIADB -> "CREATE TABLE tag (id INTEGER AUTO_INCREMENT PRIMARY KEY, n INTEGER)";
                        case SQLITE -> "CREATE TABLE tag (id INTEGER PRIMARY KEY AUTOINCREMENT, n INTEGER)";
                        default ->
                            "CREATE TABLE tag (id INTEGER GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY, n INTEGER)";
                    });
            run(connection, "INSERT INTO tag (id, n) VALUES (0, 1), (-5, 2), (7, 3)");
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .actor(() -> "Mira Holm")
                    .open();
            vacancy.archive().setUp();
            assertThat(backAndForth(vacancy, "tag")).isEmpty();
            assertThat(database.count("tag WHERE id = 0 AND n = 1 OR id = -5 AND n = 2 OR id = 7 AND n = 3"))
                    .isEqualTo(3);
            database.run("INSERT INTO tag (n) VALUES (4)");
            assertThat(database.count("tag WHERE id > 7")).isEqualTo(1);
        }
    }

    /** A value that was put in against its type does not hold the others. */
    @Test
    void whatTheDatabaseDoesNotTakeIsLeftOut() throws SQLException {
        Database database = Engine.MARIADB.fresh();
        try (Connection connection = database.connect()) {
            run(connection, "SET sql_mode = ''");
            run(connection, "CREATE TABLE gate (id INTEGER NOT NULL PRIMARY KEY, way ENUM('in', 'out'))");
            run(connection, "INSERT INTO gate VALUES (1, 'in'), (2, 'nowhere'), (3, 'out')");
        }
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        Receipt gone = vacancy.execute(Request.delete("gate").everyRow().withoutConfirmation("test"))
                .receiptOrThrow();
        Receipt back = vacancy.execute(
                        Request.restore(gone.id()).onBlocked(OnBlocked.SKIP).withoutConfirmation("test"))
                .receiptOrThrow();
        assertThat(back.skipped().rows()).isEqualTo(1);
        assertThat(database.count("gate WHERE id = 1 AND way = 'in' OR id = 3 AND way = 'out'"))
                .isEqualTo(2);
    }

    /** More columns than an image has of its own. */
    @OnEveryEngine
    void wideTablesComeBack(Engine engine) throws SQLException {
        Database database = engine.fresh();
        String text = engine == Engine.SQLITE ? "TEXT" : "VARCHAR(16)";
        String bytes =
                switch (engine) {
                    case SQLITE, H2 -> "BLOB";
                    case POSTGRESQL -> "BYTEA";
                    default -> "VARBINARY(16)";
                };
        StringBuilder columns = new StringBuilder("id INTEGER NOT NULL PRIMARY KEY");
        StringBuilder values = new StringBuilder("1");
        for (int i = 0; i < 300; i++) {
            columns.append(", c" + i + " "
                    + List.of("INTEGER", text, "DOUBLE PRECISION", bytes).get(i % 4));
            values.append(", ")
                    .append(
                            i % 7 == 0
                                    ? "NULL"
                                    : List.of(
                                                    Integer.toString(-i),
                                                    "'it''s \"" + i + "\", ü'",
                                                    i + ".1e" + i % 300,
                                                    engine == Engine.POSTGRESQL ? "'\\x00ff'" : "X'00ff'")
                                            .get(i % 4));
        }
        database.run(
                "CREATE TABLE wide (" + columns + ")",
                "INSERT INTO wide VALUES (" + values + ")",
                "CREATE TABLE copied AS SELECT * FROM wide");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        assertThat(backAndForth(vacancy, "wide")).isEmpty();
        StringBuilder same = new StringBuilder("wide w JOIN copied b ON w.id = b.id");
        for (int i = 0; i < 300; i++) {
            same.append(" AND (w.c" + i + " = b.c" + i + " OR (w.c" + i + " IS NULL AND b.c" + i + " IS NULL))");
        }
        assertThat(database.count(same.toString())).isEqualTo(1);
    }

    private static String shortened(String text) {
        return text.substring(0, Math.min(text.length(), 60));
    }

    private static String backAndForth(Vacancy vacancy, String table) {
        try {
            Outcome done = vacancy.execute(Request.delete(table).everyRow().withoutConfirmation("test"));
            if (!(done instanceof Outcome.Done)) {
                return "not deleted: " + done;
            }
            Receipt gone = done.receiptOrThrow();
            Outcome back = vacancy.execute(Request.restore(gone.id()).withoutConfirmation("test"));
            return back instanceof Outcome.Done ? "" : "not restored: " + back;
        } catch (RuntimeException failed) {
            return failed.getMessage();
        }
    }
}
