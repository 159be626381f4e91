// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.RowComparison;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/** What goes leaves images, and comes back from them. */
class ArchiveTest {

    private static final List<String> TABLES = List.of("skipper", "boat", "mooring", "note", "sticker");

    static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, email VARCHAR(40) UNIQUE)",
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), skipper_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, paid DECIMAL(8,2),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, answers INTEGER,"
                        + " body VARCHAR(40), FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE,"
                        + " FOREIGN KEY (answers) REFERENCES note (id))",
                "CREATE TABLE sticker (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE SET NULL)",
                "INSERT INTO skipper VALUES (1, 'mira@harbour.example'), (2, 'jonas@harbour.example')",
                "INSERT INTO boat VALUES (1, 'Osprey', 1), (2, 'Merlin', 1), (3, 'Kestrel', 2)",
                "INSERT INTO mooring VALUES (11, 1, 12.50), (12, 1, NULL), (21, 2, 0.10), (31, 3, 1)",
                "INSERT INTO note VALUES (1, 1, NULL, ''), (2, 1, 1, NULL), (3, 1, 2, 'yes'), (4, 2, NULL, 'no')",
                "INSERT INTO sticker VALUES (1, 1), (2, 1), (3, 2), (4, NULL)");
        bench.vacancy().archive().setUp();
        return bench;
    }

    /** Everything that is in some tables, as the engine writes it. */
    static Map<String, List<String>> contents(Database database, List<String> tables) {
        Map<String, List<String>> contents = new TreeMap<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (String table : tables) {
                List<String> rows = new ArrayList<>();
                try (ResultSet result = statement.executeQuery("SELECT * FROM " + table)) {
                    while (result.next()) {
                        StringBuilder row = new StringBuilder();
                        for (int i = 1; i <= result.getMetaData().getColumnCount(); i++) {
                            row.append(result.getString(i)).append(" | ");
                        }
                        rows.add(row.toString());
                    }
                }
                rows.sort(null);
                contents.put(table, rows);
            }
        } catch (SQLException failed) {
            throw new IllegalStateException(failed);
        }
        return contents;
    }

    private static Receipt erase(Vacancy vacancy, Request request) {
        return vacancy.execute(request.withoutConfirmation("a test")).receiptOrThrow();
    }

    private static Outcome carriedOut(Vacancy vacancy, Preview preview) {
        return vacancy.execute(
                preview, preview.question().answer(preview.question().awaited()));
    }

    private static List<ArchivedRows> kept(Vacancy vacancy, ArchiveQuery query) {
        try (Stream<ArchivedRows> kept = vacancy.archive().rows(query)) {
            return kept.toList();
        }
    }

    @OnEveryEngine
    void whatGoesComesBack(Engine engine) {
        Bench bench = bench(engine);
        Map<String, List<String>> before = contents(bench.database(), TABLES);
        Request request = Request.delete("boat").key(1).because("sold");
        Preview seen = bench.vacancy().preview(request);
        assertThat(seen.impact().archived()).isTrue();
        assertThat(seen.question().consequences()).contains("A copy is archived, from which it can be restored.");
        Receipt gone = carriedOut(bench.vacancy(), seen).receiptOrThrow();
        assertThat(gone.archived()).isTrue();
        assertThat(contents(bench.database(), TABLES)).isNotEqualTo(before);

        List<ArchivedRows> kept = kept(bench.vacancy(), ArchiveQuery.all());
        assertThat(kept)
                .extracting(ArchivedRows::table, ArchivedRows::rows, ArchivedRows::left, ArchivedRows::kind)
                .contains(
                        org.assertj.core.groups.Tuple.tuple(TableName.of("boat"), 1L, 1L, ArchivedRows.Kind.ROWS),
                        org.assertj.core.groups.Tuple.tuple(TableName.of("sticker"), 2L, 2L, ArchivedRows.Kind.LINKS));
        assertThat(kept).allMatch(line -> line.by().equals("Mira Holm") && "sold".equals(line.because()));

        Preview back = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(back.state()).isEqualTo(State.READY);
        assertThat(back.totals()).isEqualTo(Map.of(Action.RESTORE, 6L, Action.RELINK, 2L));
        assertThat(back.question().title()).isEqualTo("Restore boat Osprey (id 1)?");
        assertThat(carriedOut(bench.vacancy(), back)).isInstanceOf(Outcome.Done.class);
        assertThat(contents(bench.database(), TABLES)).isEqualTo(before);
        assertThat(kept(bench.vacancy(), ArchiveQuery.all())).isEmpty();
        assertThatThrownBy(() -> bench.vacancy().preview(Request.restore(gone.id())))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining(gone.id().value());
    }

    @OnEveryEngine
    void nobodyAskedIsKeptToo(Engine engine) {
        Bench bench = bench(engine);
        Map<String, List<String>> before = contents(bench.database(), TABLES);
        Receipt gone = erase(bench.vacancy(), Request.delete("boat").keys(1, 2));
        Preview back = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(carriedOut(bench.vacancy(), back)).isInstanceOf(Outcome.Done.class);
        assertThat(contents(bench.database(), TABLES)).isEqualTo(before);
    }

    @OnEveryEngine
    void aPartComesBack(Engine engine) {
        Bench bench = bench(engine);
        Map<String, List<String>> before = contents(bench.database(), TABLES);
        Receipt gone = erase(bench.vacancy(), Request.delete("boat").keys(1, 2, 3));
        Preview fees =
                bench.vacancy().preview(Request.restore(gone.id(), "mooring").everyRow());
        assertThat(fees.state()).isEqualTo(State.BLOCKED);
        assertThat(fees.blockers().get(0).reason()).isEqualTo("the boat they refer to is gone");

        Preview one = bench.vacancy().preview(Request.restore(gone.id(), "boat").keys(2));
        assertThat(one.totals()).isEqualTo(Map.of(Action.RESTORE, 3L, Action.RELINK, 1L));
        assertThat(carriedOut(bench.vacancy(), one)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat")).isEqualTo(1);
        Preview rest = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(rest.totals()).isEqualTo(Map.of(Action.RESTORE, 8L, Action.RELINK, 2L));
        assertThat(carriedOut(bench.vacancy(), rest)).isInstanceOf(Outcome.Done.class);
        assertThat(contents(bench.database(), TABLES)).isEqualTo(before);
    }

    @OnEveryEngine
    void whatStandsInTheWayIsToldAndCanBeSpared(Engine engine) {
        Bench bench = bench(engine);
        Receipt gone = erase(bench.vacancy(), Request.delete("boat").keys(1, 2));
        bench.database().run("INSERT INTO boat VALUES (1, 'Osprey II', 2)");
        bench.database().run("INSERT INTO mooring VALUES (21, 1, 3)", "UPDATE sticker SET boat_id = 3 WHERE id = 2");
        Preview back = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(back.state()).isEqualTo(State.BLOCKED);
        assertThat(back.blockers())
                .extracting(blocker -> blocker.table() + ": " + blocker.rows() + " " + blocker.reason())
                .containsExactlyInAnyOrder(
                        "boat: 1 a row that is there has the same id",
                        "mooring: 1 a row that is there has the same id");
        assertThat(back.warnings())
                .contains("1 row of sticker holds something else in sticker.boat_id by now, and keeps it.");

        Preview skipped = bench.vacancy().preview(Request.restore(gone.id()).onBlocked(OnBlocked.SKIP));
        // What went with boat 1 does not hang itself on the other boat that has its key now.
        assertThat(skipped.state()).isEqualTo(State.READY);
        assertThat(skipped.totals()).isEqualTo(Map.of(Action.RESTORE, 2L, Action.RELINK, 1L));
        assertThat(skipped.skippedBy())
                .extracting(by -> by.rows() + " " + by.reason())
                .contains(
                        "1 a row that is there has the same id",
                        "2 the boat they were deleted with is not restored",
                        "1 the boat they referred to is not restored");
        assertThat(carriedOut(bench.vacancy(), skipped)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat WHERE id = 2")).isEqualTo(1);
        assertThat(bench.count("mooring WHERE boat_id = 1")).isEqualTo(1);
        assertThat(bench.count("sticker WHERE boat_id = 1")).isZero();
    }

    @OnEveryEngine
    void nothingIsKeptWhereNobodyWantsIt(Engine engine) {
        Bench bench = bench(engine);
        Receipt gone = erase(bench.vacancy(), Request.delete("boat").key(1).withoutArchive());
        assertThat(gone.archived()).isFalse();
        assertThat(kept(bench.vacancy(), ArchiveQuery.all())).isEmpty();
        Vacancy without = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book ->
                        book.table("note", t -> t.retention(io.vacancy.rules.Retention.UNLIMITED.withoutImages()))))
                .actor(() -> "Jonas Reed")
                .open();
        Receipt second = erase(without, Request.delete("boat").key(2));
        assertThat(second.archived()).isTrue();
        assertThat(kept(without, ArchiveQuery.all()))
                .extracting(ArchivedRows::table)
                .doesNotContain(TableName.of("note"));
        Bench bare =
                Bench.of(engine, "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)", "INSERT INTO boat VALUES (1)");
        assertThat(erase(bare.vacancy(), Request.delete("boat").key(1)).archived())
                .isFalse();
        assertThatThrownBy(() -> kept(bare.vacancy(), ArchiveQuery.all()))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("own tables are not set up");
    }

    @OnEveryEngine
    void rowsAreFoundByWhatTheyWere(Engine engine) {
        Bench bench = bench(engine);
        erase(bench.vacancy(), Request.delete("boat").key(2));
        bench.database().run("INSERT INTO boat VALUES (2, 'Merlin II', 2)");
        erase(bench.vacancy(), Request.delete("boat").key(2));
        Preview newest = bench.vacancy()
                .preview(Request.restore("boat").where(ColumnRef.column("name").like("Merlin%")));
        assertThat(newest.records()).extracting(row -> row.text("name")).containsExactly("Merlin II");
        assertThat(carriedOut(bench.vacancy(), newest)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat WHERE name = 'Merlin II'")).isEqualTo(1);
    }

    @OnEveryEngine
    void tablesThatWereAlteredSinceStandInTheWayRowByRow(Engine engine) {
        Bench bench = bench(engine);
        Receipt gone = erase(bench.vacancy(), Request.delete("boat").key(1));
        bench.database().run("ALTER TABLE sticker ADD COLUMN colour VARCHAR(9)");
        bench.database().run("ALTER TABLE mooring DROP COLUMN paid");
        bench.database().run("ALTER TABLE boat ADD COLUMN length_m INTEGER DEFAULT 7 NOT NULL");
        bench.vacancy().refresh();
        Preview back = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(back.blockers())
                .extracting(blocker -> blocker.table() + ": " + blocker.rows() + " " + blocker.reason())
                .containsExactly("mooring: 1 they have a value in column paid, which is no longer there");
        Preview skipped = bench.vacancy().preview(Request.restore(gone.id()).onBlocked(OnBlocked.SKIP));
        assertThat(carriedOut(bench.vacancy(), skipped)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat WHERE id = 1 AND length_m = 7")).isEqualTo(1);
        assertThat(bench.count("mooring WHERE boat_id = 1")).isEqualTo(1);

        // SQLite alters no column, so there is nothing that could stand in the way.
        if (engine != Engine.SQLITE) {
            Receipt second = erase(bench.vacancy(), Request.delete("boat").key(2));
            bench.database().run("ALTER TABLE note DROP COLUMN body", "ALTER TABLE note ADD COLUMN body INTEGER");
            bench.database()
                    .run(
                            "UPDATE note SET body = 1",
                            engine == Engine.MARIADB
                                    ? "ALTER TABLE note MODIFY COLUMN body INTEGER NOT NULL"
                                    : "ALTER TABLE note ALTER COLUMN body SET NOT NULL");
            bench.vacancy().refresh();
            Preview altered = bench.vacancy().preview(Request.restore(second.id()));
            assertThat(altered.blockers()).singleElement().satisfies(blocker -> {
                assertThat(blocker.table()).isEqualTo(TableName.of("note"));
                assertThat(blocker.reason()).startsWith("column body was ").endsWith(" now");
            });
        }
        bench.database().run("DROP TABLE sticker");
        bench.vacancy().refresh();
    }

    @OnEveryEngine
    void whatWasMarkedAndErasedTogetherComesBackTogether(Engine engine) {
        Bench bench = bench(engine);
        bench.database()
                .run("ALTER TABLE boat ADD COLUMN left_on DATE", "ALTER TABLE boat ADD COLUMN receipt VARCHAR(40)");
        Map<String, List<String>> before = contents(bench.database(), TABLES);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.table(
                                "boat",
                                t -> t.marker(
                                        io.vacancy.rules.Marker.date("left_on").receipt("receipt")))
                        .whenSoftDeleted("mooring.boat_id", io.vacancy.rules.Rule.erase())
                        .whenSoftDeleted("note.boat_id", io.vacancy.rules.Rule.leave())
                        .whenSoftDeleted("sticker.boat_id", io.vacancy.rules.Rule.setNull())))
                .actor(() -> "Mira Holm")
                .open();
        Receipt gone = erase(vacancy, Request.softDelete("boat").key(1));
        assertThat(gone.archived()).isTrue();
        assertThat(bench.count("mooring WHERE boat_id = 1")).isZero();
        Preview back = vacancy.preview(Request.restore(gone.id()));
        assertThat(back.totals()).isEqualTo(Map.of(Action.RESTORE, 3L, Action.RELINK, 2L));
        assertThat(carriedOut(vacancy, back)).isInstanceOf(Outcome.Done.class);
        assertThat(contents(bench.database(), TABLES)).isEqualTo(before);
    }

    /** What was deleted beside what stands under its keys now, in parts, by composite keys, and without one. */
    @OnEveryEngine
    void whatWasDeletedIsComparedWithWhatStandsThere(Engine engine) throws SQLException {
        Bench bench = bench(engine);
        bench.database()
                .run("CREATE TABLE stamp (no INTEGER NOT NULL, at_place VARCHAR(10) NOT NULL, boat_id INTEGER NOT"
                        + " NULL, price DECIMAL(8,2), PRIMARY KEY (no, at_place), FOREIGN KEY (boat_id) REFERENCES boat (id) ON"
                        + " DELETE CASCADE)");
        for (int from = 0; from < 1200; from += 100) {
            StringBuilder rows = new StringBuilder();
            for (int no = from; no < from + 100; no++) {
                rows.append(no == from ? "" : ", ").append("(" + no + ", 'quay', 1, 1.50)");
            }
            bench.database().run("INSERT INTO stamp VALUES " + rows);
        }
        Vacancy vacancy = bench.vacancy();
        vacancy.refresh();
        ReceiptId receipt = vacancy.execute(Request.erase("boat").key(1).expect(1))
                .receiptOrThrow()
                .id();
        bench.database().run("INSERT INTO boat VALUES (1, 'Osprey II', 1)");
        bench.database().run("INSERT INTO mooring VALUES (11, 1, 12.5), (12, 1, 3)");
        bench.database().run("INSERT INTO stamp VALUES (1150, 'quay', 1, 1.5), (7, 'pier', 1, 9)");

        List<RowComparison> compared;
        try (Stream<RowComparison> each = vacancy.compare(receipt)) {
            compared = each.toList();
        }

        Map<String, Long> states = new TreeMap<>();
        compared.forEach(each ->
                states.merge(each.was().table().name() + " " + each.state().word(), 1L, Long::sum));
        assertThat(states)
                .isEqualTo(new TreeMap<>(Map.of(
                        "boat changed", 1L,
                        "mooring same", 1L,
                        "mooring changed", 1L,
                        "note gone", 3L,
                        "stamp gone", 1199L,
                        "stamp same", 1L)));
        assertThat(compared)
                .filteredOn(each -> each.state() == RowComparison.State.CHANGED)
                .extracting(RowComparison::differing)
                .containsExactlyInAnyOrder(List.of("name"), List.of("paid"));
        assertThat(compared)
                .filteredOn(each -> each.was().table().name().equals("stamp"))
                .allSatisfy(each -> assertThat(each.keyColumns()).containsExactly("no", "at_place"));
        // On the caller's one connection as well.
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            try (Stream<RowComparison> each = vacancy.within(connection).compare(receipt)) {
                assertThat(each).hasSize(compared.size());
            }
            connection.rollback();
        }
        // What came back is not archived any more.
        vacancy.execute(Request.erase("boat").key(1).withoutArchive().expect(1)).receiptOrThrow();
        vacancy.execute(Request.restore(receipt).expect(1)).receiptOrThrow();
        assertThatThrownBy(() -> vacancy.compare(receipt))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("No row is archived under receipt");
    }
}
