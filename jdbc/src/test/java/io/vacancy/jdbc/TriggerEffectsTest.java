// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What triggers did in other tables is said afterwards, where the engine counts it. */
class TriggerEffectsTest {

    private static final String[] TABLES = {
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
        "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER REFERENCES boat (id) ON DELETE CASCADE)",
        "CREATE TABLE crew (id INTEGER NOT NULL PRIMARY KEY, boat_no INTEGER)",
        "CREATE TABLE log (line VARCHAR(40))",
        "INSERT INTO boat VALUES (1, 'Tern'), (2, 'Gull')",
        "INSERT INTO mooring VALUES (1, 1), (2, 1), (3, 2)",
        "INSERT INTO crew VALUES (1, 1), (2, 1), (3, 2)"
    };

    private static Receipt gone(Bench bench, boolean archived) {
        if (archived) {
            bench.vacancy().archive().setUp();
        }
        return bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
    }

    @Test
    void byTableOnPostgresql() {
        for (boolean archived : new boolean[] {false, true}) {
            Bench bench = Bench.of(Engine.POSTGRESQL, TABLES);
            bench.database()
                    .run(
                            "CREATE FUNCTION leave() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN DELETE FROM crew WHERE boat_no"
                                    + " = OLD.id; INSERT INTO log VALUES (OLD.name); RETURN OLD; END'",
                            "CREATE TRIGGER leaving BEFORE DELETE ON boat FOR EACH ROW EXECUTE FUNCTION leave()");
            assertThat(gone(bench, archived).warnings())
                    .contains(
                            "The triggers boat.leaving have also removed 2 rows in crew; no copy of them is archived.",
                            "The triggers boat.leaving have also added 1 row in log; no copy of them is archived.");
        }
    }

    /** A trigger that removes what would be removed anyway, before it is its turn. */
    @Test
    void inATableOnTheWay() {
        Bench bench = Bench.of(Engine.POSTGRESQL, TABLES);
        bench.database()
                .run(
                        "CREATE FUNCTION leave() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN DELETE FROM mooring WHERE id = 3;"
                                + " RETURN OLD; END'",
                        "CREATE TRIGGER leaving AFTER DELETE ON boat FOR EACH ROW EXECUTE FUNCTION leave()");
        assertThat(gone(bench, true).warnings())
                .contains("The triggers boat.leaving have also removed 1 row in mooring; no copy of them is archived.");
    }

    @Test
    void inAllOnSqlite() {
        for (boolean archived : new boolean[] {false, true}) {
            Bench bench = Bench.of(Engine.SQLITE, TABLES);
            bench.database()
                    .run("CREATE TRIGGER leaving BEFORE DELETE ON boat BEGIN DELETE FROM crew WHERE boat_no = OLD.id;"
                            + " INSERT INTO log VALUES (OLD.name); END");
            assertThat(gone(bench, archived).warnings())
                    .contains("The triggers boat.leaving have also changed 3 rows; no copy of them is archived.");
        }
    }

    /** What the rule book names is archived with what is deleted, and comes back with it. */
    @OnEveryEngine
    void rowsOfNamedTablesAreArchived(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        switch (engine) {
            case SQLITE ->
                bench.database()
                        .run(
                                "CREATE TRIGGER leaving AFTER DELETE ON boat BEGIN DELETE FROM crew WHERE boat_no = OLD.id; END");
            case POSTGRESQL ->
                bench.database()
                        .run(
                                "CREATE FUNCTION leave() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN DELETE FROM crew WHERE"
                                        + " boat_no = OLD.id; RETURN OLD; END'",
                                "CREATE TRIGGER leaving BEFORE DELETE ON boat FOR EACH ROW EXECUTE FUNCTION leave()");
            case MARIADB ->
                bench.database()
                        .run(
                                "CREATE TRIGGER leaving AFTER DELETE ON boat FOR EACH ROW DELETE FROM crew WHERE boat_no = OLD.id");
            default -> {
                return;
            }
        }
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.table("boat", t -> t.archiveWith("crew", "log"))))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        Receipt gone = vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        assertThat(bench.count("crew")).isEqualTo(1);
        try (Stream<ArchivedRows> lines = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(lines.map(line -> line.table() + " " + line.rows() + " " + line.left()))
                    .containsExactlyInAnyOrder("boat 1 1", "mooring 2 2", "crew 2 2");
        }
        vacancy.execute(Request.restore(gone.id()).withoutConfirmation("test")).receiptOrThrow();
        assertThat(bench.count("crew WHERE boat_no = 1")).isEqualTo(2);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void nothingIsSaidOfATriggerThatChangesNothingElse(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        switch (engine) {
            case SQLITE -> bench.database().run("CREATE TRIGGER leaving BEFORE DELETE ON boat BEGIN SELECT 1; END");
            case POSTGRESQL ->
                bench.database()
                        .run(
                                "CREATE FUNCTION leave() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN RETURN OLD; END'",
                                "CREATE TRIGGER leaving BEFORE DELETE ON boat FOR EACH ROW EXECUTE FUNCTION leave()");
            case MARIADB ->
                bench.database().run("CREATE TRIGGER leaving BEFORE DELETE ON boat FOR EACH ROW SET @gone = OLD.id");
            default -> {
                return;
            }
        }
        assertThat(gone(bench, true).warnings()).noneMatch(warning -> warning.contains("have also"));
    }
}
