// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A migration runs beside an application that has its tables in mind: between the preview and its answer, and between two
 * deletions. Either all of it is kept and comes back, or nothing is done; never is a row lost that nobody saw.
 */
class SchemaChangeTest {

    /** What a migration does, by its name; on SQLite some of them need a new table, and are left out there. */
    private static Map<String, List<String>> migrations(Engine engine) {
        Map<String, List<String>> all = new LinkedHashMap<>();
        // MariaDB leaves the key's index under the same name.
        String key = engine == Engine.MARIADB ? "DROP INDEX mooring_boat, DROP FOREIGN KEY " : "DROP CONSTRAINT ";
        all.put("a column", List.of("ALTER TABLE boat ADD COLUMN colour VARCHAR(10)"));
        all.put(
                "a column that is filled",
                List.of("ALTER TABLE boat ADD COLUMN colour VARCHAR(10)", "UPDATE boat SET colour = 'red'"));
        all.put(
                "a column of a child that is filled",
                List.of("ALTER TABLE mooring ADD COLUMN pier VARCHAR(10)", "UPDATE mooring SET pier = 'east'"));
        all.put("a column with a default", List.of("ALTER TABLE boat ADD COLUMN flag INTEGER DEFAULT 7"));
        all.put("a column less", List.of("ALTER TABLE boat DROP COLUMN note"));
        all.put("another name of a column", List.of("ALTER TABLE boat RENAME COLUMN note TO remark"));
        all.put(
                "a new child",
                List.of(
                        "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                                + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                        "INSERT INTO visit VALUES (1, 1)"));
        all.put(
                "a new child that the engine cascades to",
                List.of(
                        "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                                + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                        "INSERT INTO visit VALUES (1, 1)"));
        all.put(
                "a new grandchild",
                List.of(
                        "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER,"
                                + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                        "INSERT INTO visit VALUES (1, 10)"));
        all.put(
                "a new child that sets null",
                List.of(
                        "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                                + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE SET NULL)",
                        "INSERT INTO visit VALUES (1, 1)"));
        all.put("a child less", List.of("DROP TABLE fee"));
        all.put("an index", List.of("CREATE INDEX boat_note ON boat (note)"));
        all.put("a unique key", List.of("CREATE UNIQUE INDEX boat_note ON boat (note)"));
        all.put("a view", List.of("CREATE VIEW afloat AS SELECT id FROM boat"));
        all.put("another table", List.of("CREATE TABLE tide (id INTEGER NOT NULL PRIMARY KEY)"));
        if (engine != Engine.SQLITE) {
            all.put("no foreign key any more", List.of("ALTER TABLE mooring " + key + "mooring_boat"));
            all.put(
                    "a foreign key of the same name that blocks",
                    List.of(
                            "ALTER TABLE mooring " + key + "mooring_boat",
                            "ALTER TABLE mooring ADD CONSTRAINT mooring_boat FOREIGN KEY (boat_id) REFERENCES boat (id)"));
            all.put(
                    "a foreign key of the same name from another table",
                    List.of(
                            "ALTER TABLE mooring " + key + "mooring_boat",
                            "ALTER TABLE spare ADD CONSTRAINT mooring_boat FOREIGN KEY (boat_id) REFERENCES boat (id)"
                                    + " ON DELETE CASCADE"));
            all.put(
                    "a foreign key of the same name from another column",
                    List.of(
                            "ALTER TABLE mooring " + key + "mooring_boat",
                            "ALTER TABLE mooring ADD CONSTRAINT mooring_boat FOREIGN KEY (guest_id) REFERENCES boat (id)"
                                    + " ON DELETE CASCADE"));
            all.put(
                    "a wider column",
                    List.of(
                            engine == Engine.MARIADB
                                    ? "ALTER TABLE boat MODIFY note VARCHAR(200)"
                                    : engine == Engine.H2
                                            ? "ALTER TABLE boat ALTER COLUMN note SET DATA TYPE VARCHAR(200)"
                                            : "ALTER TABLE boat ALTER COLUMN note TYPE VARCHAR(200)",
                            "UPDATE boat SET note = '" + "x".repeat(150) + "' WHERE id = 1"));
        }
        return all;
    }

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, note VARCHAR(20))",
                "CREATE TABLE spare (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, guest_id INTEGER,"
                        + " CONSTRAINT mooring_boat FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1, 'a'), (2, 'b')",
                "INSERT INTO spare VALUES (5, 1), (6, 2)",
                "INSERT INTO mooring VALUES (10, 1, 2), (20, 2, 1)",
                "INSERT INTO fee VALUES (100, 10), (101, 10), (200, 20)");
        bench.vacancy().archive().setUp();
        bench.vacancy().refresh();
        return bench;
    }

    private static Map<String, List<String>> contents(Bench bench) {
        Map<String, List<String>> contents = new LinkedHashMap<>();
        for (String table : List.of("boat", "spare", "mooring", "fee", "visit")) {
            List<String> rows = rows(bench, table);
            if (rows != null) {
                contents.put(table, rows);
            }
        }
        return contents;
    }

    private static @Nullable List<String> rows(Bench bench, String table) {
        try (Connection connection = bench.database().connect();
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SELECT * FROM " + table + " ORDER BY id")) {
            List<String> all = new ArrayList<>();
            int columns = rows.getMetaData().getColumnCount();
            while (rows.next()) {
                StringBuilder row = new StringBuilder();
                for (int i = 1; i <= columns; i++) {
                    row.append(rows.getMetaData().getColumnLabel(i).toLowerCase(Locale.ROOT))
                            .append('=')
                            .append(rows.getString(i))
                            .append(' ');
                }
                all.add(row.toString());
            }
            return all;
        } catch (SQLException notThere) {
            return null;
        }
    }

    @OnEveryEngine
    void nothingIsLostThatNobodySaw(Engine engine) {
        Map<String, List<String>> migrations = migrations(engine);
        assertThat(migrations).hasSizeGreaterThanOrEqualTo(engine == Engine.SQLITE ? 15 : 20);
        migrations.forEach((name, statements) -> {
            Bench bench = bench(engine);
            Vacancy vacancy = bench.vacancy();
            Preview seen = vacancy.preview(Request.erase("boat").key(1));
            assertThat(seen.impact().totals().values()).containsExactly(4L);
            bench.database().run(statements.toArray(String[]::new));
            Map<String, List<String>> before = contents(bench);

            // A database of a server takes a second to make, so not every migration has one of its own there.
            if (engine == Engine.SQLITE || engine == Engine.H2 || name.startsWith("a new") || name.contains("filled")) {
                unaskedAtOnce(name, engine, statements, before);
            }
            Outcome shown = vacancy.execute(seen, seen.question().answer("yes"));
            kept(name + ", shown", bench, before, shown);
            Outcome unasked = vacancy.execute(Request.erase("boat").key(1).expect(1));
            kept(name + ", unasked", bench, before, unasked);
            Preview anew = vacancy.preview(Request.erase("boat").key(1));
            if (anew.state() == Preview.State.READY) {
                kept(
                        name + ", anew",
                        bench,
                        before,
                        vacancy.execute(anew, anew.question().answer("yes")));
            }
        });
    }

    /** Nothing has told that the tables are others, and nobody is asked. */
    private static void unaskedAtOnce(
            String name, Engine engine, List<String> statements, Map<String, List<String>> before) {
        Bench bench = bench(engine);
        bench.vacancy().preview(Request.erase("boat").key(1));
        bench.database().run(statements.toArray(String[]::new));
        Outcome outcome = bench.vacancy().execute(Request.erase("boat").key(1).expect(1));
        kept(name + ", unasked at once", bench, before, outcome);
    }

    /** What was done comes back as it was, in every column; what was not done has changed nothing. */
    private static void kept(String name, Bench bench, Map<String, List<String>> before, Outcome outcome) {
        if (outcome instanceof Outcome.Done done) {
            Map<String, List<String>> after = contents(bench);
            long gone = before.entrySet().stream()
                    .mapToLong(table -> table.getValue().size()
                            - after.getOrDefault(table.getKey(), List.of()).size())
                    .sum();
            assertThat(done.receipt().totals().getOrDefault(Action.DELETE, 0L))
                    .as(name)
                    .isEqualTo(gone);
            bench.vacancy()
                    .execute(Request.restore(done.receipt().id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
        } else {
            assertThat(outcome.state()).as(name).isIn(Outcome.State.CHANGED, Outcome.State.BLOCKED);
        }
        assertThat(contents(bench)).as(name + ": " + outcome.message()).isEqualTo(before);
    }
}
