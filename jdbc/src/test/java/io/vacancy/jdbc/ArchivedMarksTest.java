// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/** What is marked together comes back together and as it was, in tables that keep neither receipt nor old status. */
class ArchivedMarksTest {

    private static final List<String> TABLES =
            List.of("boat", "mooring", "reading", "note", "inspection", "contract", "sticker");

    private static RuleBook rules() {
        return RuleBook.build(book -> {
            book.table("boat", t -> t.marker(Marker.date("left_on")))
                    .table("mooring", t -> t.marker(Marker.status("state", "gone", "moored", "away")))
                    .table("note", t -> t.marker(Marker.flag("active", "Y", "N")))
                    .table("contract", t -> t.marker(Marker.versions(List.of("no"), "valid_from", "valid_until")))
                    .table("sticker", t -> t.marker(Marker.endDate("valid_to", "9999-12-31")))
                    .whenSoftDeleted("reading.mooring_id", Rule.erase())
                    .whenSoftDeleted("inspection.boat_id", Rule.leave());
            for (String child : List.of("mooring", "note", "contract", "sticker")) {
                book.relation(child + ".boat_id", Rule.cascade());
            }
            book.relation("note.answers", Rule.cascade()).relation("reading.mooring_id", Rule.cascade());
        });
    }

    private static Vacancy open(Database database) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(rules())
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        return vacancy;
    }

    private static Database harbour(Engine engine) {
        Database database = SoftDeleteTest.build(engine);
        // An end that is not the usual one, and one that is still to come.
        database.run(
                "UPDATE sticker SET valid_to = '9000-01-01' WHERE id = 11",
                "UPDATE sticker SET valid_to = '9999-12-31' WHERE id = 12",
                "UPDATE contract SET valid_until = '2999-12-31' WHERE no = 1 AND valid_from = '2026-01-01'",
                "UPDATE sticker SET valid_to = '9999-12-31' WHERE id = 21");
        return database;
    }

    private static List<String> contents(Vacancy vacancy) {
        List<String> all = new ArrayList<>();
        for (String table : TABLES) {
            try (Stream<Row> rows = vacancy.rows(Request.erase(table).everyRow().includingMarked())) {
                rows.map(row -> table + " " + row.values()).forEach(all::add);
            }
        }
        all.sort(null);
        return all;
    }

    private static Receipt done(Vacancy vacancy, Request request) {
        return vacancy.execute(request.withoutConfirmation("test")).receiptOrThrow();
    }

    @OnEveryEngine
    void byReceiptEverythingIsAsItWas(Engine engine) {
        Vacancy vacancy = open(harbour(engine));
        List<String> before = contents(vacancy);
        Receipt gone = done(vacancy, Request.softDelete("boat").keys(1, 2));
        assertThat(contents(vacancy)).isNotEqualTo(before);
        Preview back = vacancy.preview(Request.restore(gone.id()));
        assertThat(back.state()).describedAs("%s", back).isEqualTo(Preview.State.READY);
        assertThat(back.totals())
                .containsEntry(
                        Action.RESTORE,
                        gone.totals().get(Action.SOFT_DELETE) + gone.totals().get(Action.DELETE));
        vacancy.execute(back, back.question().answer("yes")).receiptOrThrow();
        assertThat(contents(vacancy)).isEqualTo(before);
        assertThatThrownBy(() -> vacancy.preview(Request.restore(gone.id())))
                .hasMessage("Nothing can be restored by receipt " + gone.id() + ".");
    }

    @OnEveryEngine
    void byRowItComesBackWithWhatWasMarkedWithIt(Engine engine) {
        Vacancy vacancy = open(harbour(engine));
        // Marked for itself before, it stays so.
        done(vacancy, Request.softDelete("mooring").key(12));
        List<String> before = contents(vacancy);
        Receipt gone = done(vacancy, Request.softDelete("boat").keys(1, 2));
        Receipt one = done(vacancy, Request.restore("boat").key(1));
        assertThat(one.totals().get(Action.RESTORE)).isEqualTo(6);
        List<String> without2 = before.stream()
                .filter(row -> !ofBoat(row, 2) && !row.startsWith("reading"))
                .toList();
        assertThat(contents(vacancy).stream().filter(row -> !ofBoat(row, 2) && !row.startsWith("reading")))
                .isEqualTo(without2);
        // What is left of the receipt is the other boat, and the readings that were removed.
        done(vacancy, Request.restore(gone.id()));
        assertThat(contents(vacancy)).isEqualTo(before);
    }

    private static boolean ofBoat(String row, int boat) {
        return row.matches("boat \\{id=" + boat + ",.*|.*boat_id=" + boat + "\\D.*");
    }

    @OnEveryEngine
    void ofSeveralOneComesBackByTheReceipt(Engine engine) {
        Database database = harbour(engine);
        Vacancy vacancy = open(database);
        Receipt gone = done(vacancy, Request.softDelete("boat").keys(1, 2, 3));
        Receipt back = done(vacancy, Request.restore(gone.id(), "boat").keys(2));
        assertThat(back.totals().get(Action.RESTORE)).isEqualTo(7);
        assertThat(database.count("boat WHERE left_on IS NULL")).isEqualTo(2);
    }

    @OnEveryEngine
    void onlyTheNewestMarkCounts(Engine engine) {
        Database database = harbour(engine);
        Vacancy vacancy = open(database);
        Receipt first = done(vacancy, Request.softDelete("boat").keys(1, 2));
        database.run("UPDATE boat SET left_on = NULL WHERE id = 1", "UPDATE mooring SET state = 'away' WHERE id = 11");
        Receipt second = done(vacancy, Request.softDelete("boat").key(1));
        // Of the first receipt the second boat is left, and what of the first one nobody has made active meanwhile.
        done(vacancy, Request.restore(first.id()));
        assertThat(database.count("boat WHERE left_on IS NULL")).isEqualTo(3);
        assertThat(database.count("mooring WHERE boat_id = 1 AND state <> 'gone'"))
                .isZero();
        done(vacancy, Request.restore(second.id()));
        assertThat(database.count("boat WHERE left_on IS NULL")).isEqualTo(4);
        assertThat(database.count("mooring WHERE id = 11 AND state = 'away'")).isEqualTo(1);
        assertThat(database.count("mooring WHERE id = 12 AND state = 'gone'")).isEqualTo(1);
    }

    @OnEveryEngine
    void ofErasedRowsNothingIsListedAndWhatStaysIsSaid(Engine engine) {
        Database database = harbour(engine);
        Vacancy vacancy = open(database);
        done(vacancy, Request.softDelete("mooring").key(11));
        done(vacancy, Request.softDelete("boat").keys(1));
        Preview back = vacancy.preview(Request.restore("boat").key(1));
        assertThat(back.warnings())
                .contains("2 rows of mooring refer to them through mooring.boat_id and stay soft-deleted: nothing says"
                        + " that they were soft-deleted with them.");
        done(
                vacancy,
                Request.erase("mooring").where(column("boat_id").equalTo(1)).includingMarked());
        try (Stream<ArchivedRows> all = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(all.filter(line -> line.kind() == ArchivedRows.Kind.MARKS)
                            .map(line -> line.table() + " " + line.left()))
                    .containsExactlyInAnyOrder("boat 1", "contract 1", "note 2", "sticker 1");
        }
        assertThat(done(vacancy, Request.restore("boat").key(1)).totals().get(Action.RESTORE))
                .isEqualTo(5);
    }

    @OnEveryEngine
    void theArchiveListsThemAndAPurgeLeavesThemAlone(Engine engine) {
        Vacancy vacancy = open(harbour(engine));
        Receipt gone = done(vacancy, Request.softDelete("boat").key(1));
        try (Stream<ArchivedRows> all = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(all.map(line -> line.table() + " " + line.kind() + " " + line.left()))
                    .containsExactlyInAnyOrder(
                            "boat MARKS 1",
                            "contract MARKS 1",
                            "mooring MARKS 2",
                            "note MARKS 2",
                            "sticker MARKS 1",
                            "reading ROWS 1");
        }
        done(vacancy, Request.purge(gone.id()));
        assertThat(done(vacancy, Request.restore(gone.id())).totals().get(Action.RESTORE))
                .isEqualTo(7);
    }

    /** There are as many terms as receipts to nothing that an engine limits. */
    @Test
    void aThousandReceiptsLaterAKeyIsStillFound() {
        Database database = Engine.SQLITE.fresh();
        database.run(
                "CREATE TABLE tag (id INTEGER NOT NULL PRIMARY KEY, active CHAR(1))",
                "INSERT INTO tag VALUES (1, NULL)",
                "INSERT INTO tag VALUES (2, 'Y')");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RuleBook.build(book -> book.table("tag", t -> t.marker(Marker.flag("active", "Y", "N")))))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        done(vacancy, Request.softDelete("tag").key(1));
        for (int i = 0; i < 1_050; i++) {
            database.run("UPDATE tag SET active = 'Y' WHERE id = 2");
            done(vacancy, Request.softDelete("tag").key(2));
        }
        done(vacancy, Request.restore("tag").key(1));
        assertThat(database.count("tag WHERE active IS NULL")).isEqualTo(1);
    }

    /** With a digest of the marks in the trail, what is left of them is still what was archived. */
    @OnEveryEngine
    void whatIsErasedSinceDoesNotMakeTheOthersSuspect(Engine engine) {
        Database database = harbour(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(rules())
                .actor(() -> "Mira Holm")
                .sealKey("a secret of the harbour office, long enough".getBytes(StandardCharsets.UTF_8))
                .open();
        vacancy.archive().setUp();
        Receipt gone = done(vacancy, Request.softDelete("boat").keys(1, 2));
        done(
                vacancy,
                Request.erase("sticker").where(column("boat_id").equalTo(1)).includingMarked());
        assertThat(done(vacancy, Request.restore(gone.id())).totals().get(Action.RESTORE))
                .isPositive();
        assertThat(database.count("boat WHERE left_on IS NULL")).isEqualTo(4);
    }

    /** A copy outside the database has what is removed, and nothing of rows that stay. */
    @OnEveryEngine
    void aSavedCopyHasNoMarks(Engine engine) {
        Vacancy vacancy = open(harbour(engine));
        List<String> tables = new ArrayList<>();
        SaveTarget target = new SaveTarget() {
            @Override
            public String name() {
                return "a list";
            }

            @Override
            public void begin(ReceiptId receipt, List<ArchivedRows> lines) {
                lines.forEach(line -> tables.add(line.table() + " " + line.kind()));
            }

            @Override
            public void take(int line, Row row) {}

            @Override
            public void end() {}
        };
        vacancy.saveTo(target)
                .execute(Request.softDelete("boat").key(1).withoutConfirmation("test"))
                .receiptOrThrow();
        assertThat(tables).containsExactly("reading ROWS");
    }
}
