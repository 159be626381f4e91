// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.trail.TrailEntry;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;

/** What is personal in rows is emptied or replaced, and the rows stay. */
class BlankTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, name VARCHAR(80) NOT NULL,"
                + " email VARCHAR(120) NOT NULL UNIQUE, phone VARCHAR(40), born DATE, changed_by VARCHAR(40), left_on DATE)",
        "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, skipper_id INTEGER,"
                + " payer VARCHAR(80), amount INTEGER, paid INTEGER NOT NULL,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE letter (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, sender_id INTEGER,"
                + " reader_id INTEGER, said VARCHAR(80), FOREIGN KEY (sender_id) REFERENCES skipper (id),"
                + " FOREIGN KEY (reader_id) REFERENCES skipper (id))",
        "INSERT INTO skipper VALUES (1, 7, 'Mira Holm', 'mira@harbour.example', '555-0101', '1980-02-29', NULL, NULL),"
                + " (2, 7, 'Tavi Orn', 'tavi@harbour.example', NULL, NULL, NULL, NULL),"
                + " (3, 8, 'Juna Velde', 'juna@harbour.example', '555-0103', NULL, NULL, '2026-01-01')",
        "INSERT INTO fee VALUES (10, 7, 1, 'Mira Holm', 30, 1), (11, 7, 1, 'M. Holm', 40, 0), (12, 7, 2, 'Tavi Orn', 5, 1)",
        "INSERT INTO letter VALUES (20, 7, 1, 1, 'Ahoy from Mira'), (21, 7, 1, 2, 'Tavi, ahoy'), (22, 7, 2, 1, 'Mira!')"
    };

    private static final String RULES = """
            version: 1
            tables:
              skipper:
                personal: [name, email, phone]
                blank: {name: "it's skipper \\\\ {id}", email: "skipper-{id}@blank.invalid", born: 1900-01-01}
                audit-columns: {changed-by: changed_by}
                marker: {date: left_on}
              fee: {blank: {payer: "ü (removed)"}, never-deleted: true}
              letter: {personal: said}
            relations:
              fee.skipper_id:
                - {block: unpaid, when: "paid = 0"}
                - blank
              letter.sender_id: blank
              letter.reader_id: blank
            """;

    @OnEveryEngine
    void theRowStaysWithoutWhatIsPersonalAndAllComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();

        Preview preview = vacancy.preview(Request.blank("skipper").key(1));
        Receipt receipt = Bench.done(vacancy, Request.blank("skipper").key(1)).receiptOrThrow();

        assertThat(preview.question().title()).isEqualTo("Blank skipper Mira Holm (id 1)?");
        assertThat(Bench.written(preview.effects()))
                .containsExactly(
                        "blank skipper null 1",
                        "blank fee fee.skipper_id 1",
                        "blank letter letter.reader_id 2",
                        "blank letter letter.sender_id 1");
        assertThat(preview.effects().get(0).becomes())
                .isEqualTo("name becomes it's skipper \\ {id}, email becomes skipper-{id}@blank.invalid,"
                        + " phone becomes NULL, born becomes 1900-01-01");
        assertThat(receipt.operation()).isEqualTo(OperationKind.BLANK);
        assertThat(receipt.totals()).isEqualTo(Map.of(Action.BLANK, 5L));
        assertThat(bench.count("skipper WHERE id = 1 AND name LIKE 'it''s skipper _ 1' AND phone IS NULL"
                        + " AND email = 'skipper-1@blank.invalid' AND born = '1900-01-01' AND changed_by = 'Tavi Orn'"))
                .isEqualTo(1);
        // What blocks a deletion stops nothing here, and stays as it is.
        assertThat(bench.count("fee WHERE id = 11 AND payer = 'M. Holm'")).isEqualTo(1);
        assertThat(bench.count("fee WHERE id = 10 AND payer = 'ü (removed)' AND skipper_id = 1"))
                .isEqualTo(1);
        assertThat(bench.count("letter WHERE said IS NULL")).isEqualTo(3);
        assertThat(bench.count("letter WHERE sender_id = 1")).isEqualTo(2);
        assertThat(bench.count("skipper WHERE phone = '555-0103' OR name = 'Tavi Orn'"))
                .isEqualTo(2);
        try (Stream<TrailEntry> entries = vacancy.history().open()) {
            List<TrailEntry> told = entries.toList();
            assertThat(told).extracting(TrailEntry::kind).containsExactly(TrailEntry.Kind.BLANK);
            assertThat(told.stream().map(JsonWriter::entry).toList().toString())
                    .doesNotContain("Mira", "mira@", "555-0101");
        }
        assertThat(vacancy.receipt(receipt.id()).orElseThrow().toString()).doesNotContain("Mira");

        assertThat(Bench.done(vacancy, Request.restore(receipt.id()))
                        .receiptOrThrow()
                        .totals())
                .isEqualTo(Map.of(Action.PUT_BACK, 5L));
        assertThat(bench.count("skipper WHERE id = 1 AND name = 'Mira Holm' AND email = 'mira@harbour.example'"
                        + " AND phone = '555-0101' AND born = '1980-02-29'"))
                .isEqualTo(1);
        assertThat(bench.count("letter WHERE said IS NULL")).isZero();
        assertThat(bench.count("fee WHERE payer = 'Mira Holm'")).isEqualTo(1);
        assertThatThrownBy(() -> vacancy.preview(Request.restore(receipt.id())))
                .hasMessageContaining("Nothing can be restored by receipt");
    }

    @OnEveryEngine
    void childRowsOfAnErasedParentLoseTheLinkAndAreBlankedOnce(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("UPDATE fee SET paid = 1");
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Request request = Request.erase("skipper").key(1);

        Preview preview = vacancy.preview(request);
        Receipt receipt = Bench.done(vacancy, request).receiptOrThrow();

        assertThat(Bench.written(preview.effects()))
                .containsExactly(
                        "delete skipper null 1",
                        "set-null fee fee.skipper_id 2",
                        "blank fee fee.skipper_id 2",
                        "set-null letter letter.reader_id 2",
                        "blank letter letter.reader_id 2",
                        "set-null letter letter.sender_id 2",
                        "blank letter letter.sender_id 1");
        assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 1L, Action.SET_NULL, 6L, Action.BLANK, 5L));
        assertThat(bench.count("fee WHERE skipper_id IS NULL AND payer = 'ü (removed)'"))
                .isEqualTo(2);
        assertThat(bench.count("letter WHERE said IS NULL")).isEqualTo(3);

        // With the row come back the links to it, and what was blanked with them.
        assertThat(Bench.done(vacancy, Request.restore("skipper").key(1))
                        .state()
                        .word())
                .isEqualTo("done");
        assertThat(bench.count("fee WHERE skipper_id = 1 AND payer LIKE 'M% Holm'"))
                .isEqualTo(2);
        assertThat(bench.count("letter WHERE said IS NULL")).isZero();
        assertThat(bench.count("letter WHERE sender_id = 1")).isEqualTo(2);
    }

    @OnEveryEngine
    void inASoftDeleteChildRowsKeepTheLink(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();

        assertThat(vacancy.preview(Request.softDelete("skipper").key(1)).state())
                .isEqualTo(State.BLOCKED);
        Receipt receipt =
                Bench.done(vacancy, Request.softDelete("skipper").key(2)).receiptOrThrow();

        assertThat(receipt.totals()).isEqualTo(Map.of(Action.SOFT_DELETE, 1L, Action.BLANK, 3L));
        assertThat(bench.count("fee WHERE skipper_id = 2 AND payer = 'ü (removed)'"))
                .isEqualTo(1);
        Bench.done(vacancy, Request.restore(receipt.id())).receiptOrThrow();
        assertThat(bench.count("fee WHERE skipper_id = 2 AND payer = 'Tavi Orn'"))
                .isEqualTo(1);
        assertThat(bench.count("skipper WHERE left_on IS NULL")).isEqualTo(2);
    }

    @OnEveryEngine
    void whatWasChangedSinceStaysAndAValueThatAnotherRowHasBlocks(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(
                        vacancy, Request.blank("skipper").keys(List.of(1, 2)).because("gone"))
                .receiptOrThrow();

        bench.database().run("UPDATE letter SET said = 'written since' WHERE id = 21");
        bench.database().run("UPDATE skipper SET email = 'mira@harbour.example' WHERE id = 3");
        Preview blocked = vacancy.preview(Request.restore(receipt.id()));

        assertThat(blocked.state()).isEqualTo(State.BLOCKED);
        assertThat(blocked.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.rows()).isEqualTo(1);
            assertThat(blocker.reason()).isEqualTo("another row has the same email by now");
        });
        assertThat(blocked.warnings())
                .containsExactly("1 row of letter holds something else in said by now, and keeps it.");

        Bench.done(vacancy, Request.restore(receipt.id()).onBlocked(OnBlocked.SKIP))
                .receiptOrThrow();
        assertThat(bench.count("skipper WHERE name = 'Tavi Orn'")).isEqualTo(1);
        assertThat(bench.count("skipper WHERE name = 'Mira Holm'")).isZero();
        assertThat(bench.count("letter WHERE said = 'written since'")).isEqualTo(1);
        assertThat(bench.count("letter WHERE said IS NULL")).isZero();
    }

    @OnEveryEngine
    void whatWasThereIsPurgedLikeAnyImage(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(vacancy, Request.blank("skipper").key(1)).receiptOrThrow();

        try (Stream<ArchivedRows> kept = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(kept).extracting(ArchivedRows::kind).containsOnly(ArchivedRows.Kind.VALUES);
        }
        Bench.done(vacancy, Request.purge(receipt.id())).receiptOrThrow();

        assertThatThrownBy(() -> vacancy.preview(Request.restore(receipt.id()))).isInstanceOf(MisuseException.class);
        Receipt without = Bench.done(vacancy, Request.blank("skipper").key(2).withoutArchive())
                .receiptOrThrow();
        assertThat(without.archived()).isFalse();
        assertThat(bench.count("skipper WHERE email LIKE '%@blank.invalid'")).isEqualTo(2);
    }

    @OnEveryEngine
    void holdsPermissionsAndScopesAreKept(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        vacancy.archive().holdRow("fee", 10, "the auditors look at it");
        Vacancy forbidden = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Juna Velde")
                .permission((who, table, act) -> act == Act.BLANK && table.is("letter") ? "Letters are private." : null)
                .open();
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Juna Velde")
                .scope(() -> Scope.where("harbour_id", 8))
                .open();

        Preview held = vacancy.preview(Request.blank("skipper").keys(List.of(1, 2)));
        assertThat(held.state()).isEqualTo(State.BLOCKED);
        assertThat(held.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .contains("the auditors look at it"));
        Receipt rest = Bench.done(
                        vacancy, Request.blank("skipper").keys(List.of(1, 2)).onBlocked(OnBlocked.SKIP))
                .receiptOrThrow();
        assertThat(rest.skipped().rows()).isEqualTo(1);
        assertThat(bench.count("fee WHERE payer = 'Mira Holm'")).isEqualTo(1);
        assertThat(bench.count("skipper WHERE name = 'Mira Holm'")).isEqualTo(1);

        assertThat(Bench.done(forbidden, Request.blank("letter").key(20)).message())
                .contains("Letters are private.");
        assertThat(scoped.preview(Request.blank("skipper").key(1)).state()).isEqualTo(State.NOTHING);
        // Marked rows are left out unless they are meant.
        assertThat(scoped.preview(Request.blank("skipper").key(3)).state()).isEqualTo(State.NOTHING);
        assertThat(Bench.done(scoped, Request.blank("skipper").key(3).includingMarked())
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(1);
    }

    @OnEveryEngine
    void aWholeTableIsAskedForByNameAndACopyMayBeSavedToAFile(Engine engine, @TempDir Path folder) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        Request every = Request.blank("letter").where(column("id").greaterThan(0));

        Preview preview = vacancy.preview(every);
        assertThat(preview.question().awaited()).isEqualTo("letter");
        assertThat(preview.question().consequences())
                .contains("The selection is every row of the table: none stays as it is.");
        Path file = folder.resolve("letters.json");
        try (SavedFileWriter writer = new SavedFileWriter(file)) {
            vacancy.saveTo(writer)
                    .execute(preview, preview.question().answer("letter"))
                    .receiptOrThrow();
        }
        assertThat(bench.count("letter WHERE said IS NULL")).isEqualTo(3);

        Bench.done(vacancy, Request.restore(SavedFile.open(file), List.of("letter")))
                .receiptOrThrow();
        assertThat(bench.count("letter WHERE said = 'Ahoy from Mira'")).isEqualTo(1);
        assertThat(bench.count("letter WHERE said IS NULL")).isZero();
    }

    @OnEveryEngine
    void aRequestMayBlankWhereTheRuleBookPermitsIt(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with("version: 1\ntables:\n  fee: {personal: payer}\n");
        Request request = Request.erase("skipper").key(1).rule("fee.skipper_id", "blank");

        assertThat(Bench.done(
                                vacancy,
                                request.rule("letter.sender_id", "set-null").rule("letter.reader_id", "set-null"))
                        .receiptOrThrow()
                        .totals())
                .containsEntry(Action.BLANK, 2L);
        assertThat(bench.count("fee WHERE payer IS NULL AND skipper_id IS NULL"))
                .isEqualTo(2);
        assertThatThrownBy(() -> vacancy.preview(Request.erase("skipper").key(2).rule("letter.sender_id", "blank")))
                .hasMessageContaining("does not permit blank on letter.sender_id");
        assertThatThrownBy(() -> Request.blank("skipper").key(2).rule("fee.skipper_id", "cascade"))
                .hasMessageContaining("rules are for what is deleted");
        assertThatThrownBy(() -> vacancy.preview(Request.blank("letter").key(20)))
                .hasMessageContaining("the rule book names no personal column of the table");
        assertThat(JsonReader.request(
                                new JsonWriter().write(Request.blank("fee").key(10)))
                        .operation()
                        .word())
                .isEqualTo("blank");
    }

    @OnEveryEngine
    void rowsWithoutAKeyAreBlankedAndNotArchivedOrBlock(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, call_sign INTEGER)",
                "CREATE TABLE message (call_sign INTEGER, heard VARCHAR(40))",
                "INSERT INTO boat VALUES (1, 14), (2, 17)",
                "INSERT INTO message VALUES (14, 'Osprey to harbour'), (14, 'Out'), (17, 'Merlin')");
        String rules = "version: 1\ntables:\n  message: {blank: {heard: null}}\nrelations:\n"
                + "  \"message.call_sign -> boat.call_sign\": ";
        Vacancy vacancy = bench.with(rules + "blank\n");
        vacancy.archive().setUp();

        Preview unlinking = bench.with(rules + "{blank: call_sign}\n")
                .preview(Request.erase("boat").key(1));
        assertThat(unlinking.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .isEqualTo("rows of message have no key to find them again by, once they have lost their link"));
        Preview preview = vacancy.preview(Request.erase("boat").key(1));
        if (preview.state() == State.BLOCKED) {
            assertThat(engine).isEqualTo(Engine.MARIADB);
            return;
        }
        assertThat(preview.warnings())
                .containsExactly(
                        "Rows of message have no key by which they could be found again, so what they hold is not"
                                + " archived.");
        Receipt receipt = Bench.done(vacancy, Request.erase("boat").key(1)).receiptOrThrow();
        assertThat(bench.count("message WHERE heard IS NULL AND call_sign = 14"))
                .isEqualTo(2);
        assertThat(Bench.done(
                                vacancy,
                                Request.blank("message")
                                        .where(column("call_sign").equalTo(17)))
                        .receiptOrThrow()
                        .archived())
                .isFalse();
        Bench.done(vacancy, Request.restore(receipt.id())).receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(bench.count("message WHERE heard IS NULL")).isEqualTo(3);
    }

    @OnEveryEngine
    void keysOfSeveralColumnsMakeAPseudonym(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE crew (since DATE NOT NULL, place VARCHAR(10) NOT NULL, name VARCHAR(40) NOT NULL UNIQUE,"
                        + " PRIMARY KEY (since, place))",
                "INSERT INTO crew VALUES ('2026-05-01', 'bow', 'Lio Brack'), ('2026-05-01', 'stern', 'Edda Quill')");
        Vacancy vacancy = bench.with("version: 1\ntables:\n  crew: {blank: {name: \"{place}, {since}\"}}\n");

        Bench.done(vacancy, Request.blank("crew").where(column("place").equalTo("bow")))
                .receiptOrThrow();

        assertThat(bench.count("crew WHERE name = 'bow, 2026-05-01'")).isEqualTo(1);
        assertThat(bench.count("crew WHERE name = 'Edda Quill'")).isEqualTo(1);
    }

    @OnEveryEngine
    void whatWasBlankedIsPurgedByTheKeyOfTheRow(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Receipt both = Bench.done(vacancy, Request.blank("skipper").keys(List.of(1, 2)))
                .receiptOrThrow();
        vacancy.archive().holdRow("skipper", 2, "the auditors look at it");

        Preview preview =
                vacancy.preview(Request.purge("skipper").keys(List.of(1, 2)).onBlocked(OnBlocked.SKIP));
        assertThat(preview.totals()).isEqualTo(Map.of(Action.PURGE, 1L));
        assertThat(preview.skipped().rows()).isEqualTo(1);
        Receipt purged = Bench.done(vacancy, Request.purge("skipper").key(1)).receiptOrThrow();

        assertThat(purged.totals()).isEqualTo(Map.of(Action.PURGE, 1L));
        assertThat(vacancy.preview(Request.purge("skipper").key(1)).state()).isEqualTo(State.NOTHING);
        try (Stream<TrailEntry> entries = vacancy.history().of("skipper", 1).open()) {
            assertThat(entries.map(TrailEntry::kind)).containsExactly(TrailEntry.Kind.PURGE, TrailEntry.Kind.BLANK);
        }
        // A condition cannot be judged of what only has its key, so nothing is taken by one.
        assertThat(vacancy.preview(Request.purge("skipper")
                                .where(column("harbour_id").equalTo(7)))
                        .state())
                .isEqualTo(State.NOTHING);
        Bench.done(vacancy, Request.restore(both.id()));
        assertThat(bench.count("skipper WHERE name = 'Mira Holm'")).isZero();
        assertThat(bench.count("skipper WHERE name = 'Tavi Orn'")).isEqualTo(1);
    }

    @OnEveryEngine
    void aRowThatIsBlankedIsNotTakenForANewOneThatBlocks(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, skipper_no INTEGER NOT NULL, age INTEGER)",
                "INSERT INTO skipper VALUES (1)",
                "INSERT INTO visit VALUES (10, 1, 40)");
        Vacancy vacancy = bench.with("""
                version: 1
                tables:
                  visit: {blank: {age: 0}}
                relations:
                  "visit.skipper_no -> skipper.id":
                    - {block: "a child", when: "age < 18 OR age IS NULL"}
                    - blank
                """);

        Outcome outcome = Bench.done(vacancy, Request.erase("skipper").key(1));

        assertThat(outcome).as(outcome.message()).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("visit WHERE age = 0")).isEqualTo(1);
    }
}
