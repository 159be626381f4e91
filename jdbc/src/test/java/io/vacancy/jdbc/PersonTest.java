// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PersonDataJson;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.schema.Row;
import io.vacancy.trail.Certificate;
import io.vacancy.trail.TrailEntry;
import java.io.StringWriter;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Stream;

/** A person is forgotten: what belongs to the person is erased, blanked or kept, as its table says. */
class PersonTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, name VARCHAR(80) NOT NULL,"
                + " email VARCHAR(120) UNIQUE, sponsor_id INTEGER, left_on DATE,"
                + " FOREIGN KEY (sponsor_id) REFERENCES skipper (id))",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, skipper_id INTEGER NOT NULL,"
                + " name VARCHAR(80), FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE logbook (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, boat_id INTEGER NOT NULL,"
                + " said VARCHAR(80), FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "CREATE TABLE bill (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, boat_id INTEGER,"
                + " payer VARCHAR(80), issued_on DATE, paid INTEGER NOT NULL,"
                + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "CREATE TABLE line (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, bill_id INTEGER NOT NULL,"
                + " FOREIGN KEY (bill_id) REFERENCES bill (id))",
        "CREATE TABLE permit (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, skipper_id INTEGER,"
                + " granted_by INTEGER, FOREIGN KEY (skipper_id) REFERENCES skipper (id),"
                + " FOREIGN KEY (granted_by) REFERENCES skipper (id))",
        "INSERT INTO skipper VALUES (1, 7, 'Mira Holm', 'mira@harbour.example', NULL, NULL),"
                + " (2, 7, 'Tavi Orn', 'tavi@harbour.example', 1, NULL),"
                + " (3, 8, 'Juna Velde', 'juna@harbour.example', NULL, '2026-01-01')",
        "INSERT INTO boat VALUES (10, 7, 1, 'Avocet'), (11, 7, 1, 'Teal'), (12, 7, 2, 'Gannet')",
        "INSERT INTO logbook VALUES (20, 7, 10, 'Mira was here'), (21, 7, 11, 'Dark'), (22, 7, 12, 'Tow')",
        "INSERT INTO bill VALUES (30, 7, 10, 'Mira Holm', '2012-05-01', 1), (31, 7, 10, 'Mira Holm', '2024-05-01', 1),"
                + " (32, 7, 11, 'Mira Holm', NULL, 1), (33, 7, 12, 'Tavi Orn', '2012-05-01', 0)",
        "INSERT INTO line VALUES (40, 7, 30), (41, 7, 31), (42, 7, 31), (43, 7, 33)",
        "INSERT INTO permit VALUES (50, 7, 1, 2), (51, 7, 2, 1)"
    };

    private static final String RULES = """
            version: 1
            tables:
              skipper:
                person: true
                personal: [name, email]
                blank: {name: "skipper {id}"}
                marker: {date: left_on}
                forget: blank
              boat: {forget: erase, retention: 30 days}
              logbook: {personal: said, forget: erase}
              bill:
                personal: payer
                forget:
                  - {block: "unpaid", when: "paid = 0"}
                  - {keep: "tax law", until: {column: issued_on, plus: 10 years}}
                  - erase
              line: {forget: erase}
              permit: {forget: erase}
            relations:
              permit.granted_by: {rules: {block: "granted by them"}, forget: leave}
            """;

    private static final Clock CLOCK = Clock.fixed(Instant.parse("2026-06-01T10:00:00Z"), ZoneOffset.UTC);

    private static Vacancy with(Bench bench, String rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(rules, "rules"))
                .clock(CLOCK)
                .actor(() -> "Tavi Orn")
                .open();
    }

    @OnEveryEngine
    void whatBelongsToThePersonIsErasedBlankedOrKeptAndAllComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(bench, RULES);
        vacancy.archive().setUp();
        Request forget = Request.forget("skipper").key(1).because("Mira Holm asked for it");

        Preview preview = vacancy.preview(forget);
        Receipt receipt = Bench.done(vacancy, forget).receiptOrThrow();

        assertThat(preview.question().title()).isEqualTo("Forget skipper Mira Holm (id 1)?");
        assertThat(preview.question().consequences())
                .contains(
                        "The row itself stays, without what is personal in it.",
                        "2 rows of bill are kept as they are: tax law, until 10 years after issued_on.",
                        "What is personal is in that copy until it is purged.");
        assertThat(Bench.written(preview.effects()))
                .containsExactlyInAnyOrder(
                        "blank skipper null 1",
                        "delete boat boat.skipper_id 2",
                        "delete logbook logbook.boat_id 2",
                        "delete bill bill.boat_id 1",
                        "delete line line.bill_id 1",
                        "delete permit permit.skipper_id 1",
                        "keep bill bill.boat_id 2",
                        "set-null bill bill.boat_id 2");
        assertThat(receipt.operation()).isEqualTo(OperationKind.FORGET);
        assertThat(receipt.totals())
                .isEqualTo(Map.of(Action.BLANK, 1L, Action.DELETE, 7L, Action.KEEP, 2L, Action.SET_NULL, 2L));
        assertThat(bench.count("skipper WHERE id = 1 AND name = 'skipper 1' AND email IS NULL"))
                .isEqualTo(1);
        // What depends on a kept row is kept with it; so is a bill of which nobody knows the date.
        assertThat(bench.count("bill WHERE id IN (31, 32) AND boat_id IS NULL AND payer = 'Mira Holm'"))
                .isEqualTo(2);
        assertThat(bench.count("line WHERE bill_id = 31")).isEqualTo(2);
        // Another person, whom she sponsored, and whose permit she granted.
        assertThat(bench.count("skipper WHERE sponsor_id = 1")).isEqualTo(1);
        assertThat(bench.count("permit WHERE id = 51 AND granted_by = 1")).isEqualTo(1);
        assertThat(bench.count("boat")).isEqualTo(1);

        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("it was somebody else who asked"))
                .receiptOrThrow();
        assertThat(bench.count("skipper WHERE name = 'Mira Holm' AND email = 'mira@harbour.example'"))
                .isEqualTo(1);
        assertThat(bench.count("bill WHERE boat_id IN (10, 11)")).isEqualTo(3);
        assertThat(bench.count("line")).isEqualTo(4);
        assertThat(bench.count("logbook WHERE said = 'Mira was here'")).isEqualTo(1);
    }

    @OnEveryEngine
    void theCertificateSaysWhatIsLeftAndNothingPersonal(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(bench, RULES);
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(vacancy, Request.forget("skipper").key(1).because("Mira Holm asked for it"))
                .receiptOrThrow();

        Certificate first = vacancy.persons().certificate(receipt.id()).orElseThrow();
        assertThat(first.person()).containsExactly("1");
        assertThat(first.lines())
                .contains(
                        new Certificate.Line(
                                "skipper", Action.BLANK, null, "name becomes skipper {id}, email becomes NULL", 1),
                        new Certificate.Line(
                                "bill", Action.KEEP, "bill.boat_id", "tax law, until 10 years after issued_on", 2));
        assertThat(first.copies()).isEqualTo(10);
        assertThat(first.copiesUntil()).isNull();
        assertThat(first.withoutReturn()).isFalse();
        try (Stream<TrailEntry> entries = vacancy.history().open()) {
            assertThat(entries.map(JsonWriter::entry).toList().toString()).doesNotContain("Mira", "mira@");
        }

        vacancy.execute(Request.purge(receipt.id()).withoutConfirmation("a certificate is asked for"))
                .receiptOrThrow();
        Certificate after = vacancy.persons().certificate(receipt.id()).orElseThrow();
        assertThat(after.copies()).isZero();
        assertThat(after.withoutReturn()).isTrue();
        assertThat(after.later()).extracting(Certificate.Later::kind).containsExactly(TrailEntry.Kind.PURGE);
        assertThat(new JsonWriter().write(after))
                .doesNotContain("Mira", "mira@")
                .contains("tax law");

        assertThat(vacancy.persons().certificate(ReceiptId.next(CLOCK.instant())))
                .isEmpty();
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Tavi Orn")
                .scope(() -> Scope.where("harbour_id", 8))
                .open();
        assertThat(scoped.persons().certificate(receipt.id())).isEmpty();
    }

    @OnEveryEngine
    void everythingThatBelongsToThePersonIsListedWhateverBecomesOfIt(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(
                bench,
                RULES.replace("logbook: {", "logbook: {never-deleted: true, ")
                        .replace("said, forget: erase", "said, forget: blank"));

        StringWriter written = new StringWriter();
        try (Stream<Row> rows = vacancy.persons().data("skipper", 1)) {
            PersonDataJson json = new PersonDataJson(written, null);
            rows.forEach(json::take);
            json.end();
        }
        try (Stream<Row> rows =
                vacancy.persons().data(Request.forget("skipper").matching(Map.of("name", "Mira Holm")))) {
            assertThat(rows.map(row -> row.table() + " " + row.get("id")).toList())
                    .startsWith("skipper 1")
                    .containsExactlyInAnyOrder(
                            "skipper 1",
                            "boat 10",
                            "boat 11",
                            "logbook 20",
                            "logbook 21",
                            "bill 30",
                            "bill 31",
                            "bill 32",
                            "line 40",
                            "line 41",
                            "line 42",
                            "permit 50");
        }
        assertThat(written.toString()).contains("\"Mira was here\"").doesNotContain("Tavi", "Tow");
        try (Stream<Row> rows = vacancy.persons().data("skipper", 4)) {
            assertThat(rows).isEmpty();
        }
        // Somebody who is marked as deleted is a person still.
        try (Stream<Row> rows = vacancy.persons().data("skipper", 3)) {
            assertThat(rows).hasSize(1);
        }
        Vacancy curious = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Tavi Orn")
                .permission(
                        (who, table, act) -> act == Act.LOOK && table.is("logbook") ? "Logbooks are private." : null)
                .open();
        assertThatThrownBy(() -> curious.persons().data("skipper", 1))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Logbooks are private.");
        assertThatThrownBy(() -> vacancy.persons().data(Request.erase("skipper").key(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("is not about one person");
    }

    @OnEveryEngine
    void whatMayNotBeForgottenBlocksOrIsRefused(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(bench, RULES);
        vacancy.archive().setUp();

        Preview unpaid = vacancy.preview(Request.forget("skipper").key(2));
        assertThat(unpaid.state()).isEqualTo(State.BLOCKED);
        assertThat(unpaid.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.message()).contains("unpaid");
            assertThat(blocker.permittedRules()).isEmpty();
        });
        // A table of which nothing is said, an own row that is erased under another person, a link that cannot be lost.
        Preview unsaid = with(bench, RULES.replace("logbook: {personal: said, forget: erase}", "logbook: {}"))
                .preview(Request.forget("skipper").key(1));
        assertThat(unsaid.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.message())
                .contains("does not say by forget"));
        Preview erased = with(bench, RULES.replace("forget: blank\n  boat", "forget: erase\n  boat"))
                .preview(Request.forget("skipper").key(1));
        assertThat(erased.blockers()).extracting(blocker -> blocker.relation()).contains("skipper.sponsor_id");
        Preview stuck = with(bench, RULES.replace("said, forget: erase", "said, forget: {keep: \"it is a log\"}"))
                .preview(Request.forget("skipper").key(1));
        assertThat(stuck.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.message())
                .contains("it is a log", "cannot lose their link"));

        vacancy.archive().holdRow("boat", 10, "it is looked for");
        assertThat(Bench.done(vacancy, Request.forget("skipper").key(1))).isInstanceOf(Outcome.Blocked.class);
        assertThat(Bench.done(vacancy, Request.forget("skipper").key(4))).isInstanceOf(Outcome.Nothing.class);
        // Somebody who is marked is forgotten all the same.
        assertThat(Bench.done(vacancy, Request.forget("skipper").key(3))).isInstanceOf(Outcome.Done.class);
        assertThatThrownBy(() -> vacancy.preview(Request.forget("boat").key(10)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("does not call rows of boat persons");
        assertThatThrownBy(() -> Request.forget("skipper").key(1).rule("boat.skipper_id", "cascade"))
                .isInstanceOf(MisuseException.class);

        Vacancy clerk = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Tavi Orn")
                .permission((who, table, act) -> act == Act.FORGET ? "Ask the office." : null)
                .open();
        assertThat(Bench.done(clerk, Request.forget("skipper").key(3)).message())
                .contains("Ask the office.");
        Vacancy other = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Tavi Orn")
                .scope(() -> Scope.where("harbour_id", 8))
                .open();
        assertThat(other.preview(Request.forget("skipper").key(1)).state()).isEqualTo(State.NOTHING);
    }

    @OnEveryEngine
    void aRequestToForgetIsReadBackAsItWasWritten(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(bench, RULES);
        vacancy.archive().setUp();
        Request forget = Request.forget("skipper").key(1).withoutArchive().because("asked");

        Request read = JsonReader.request(new JsonWriter().write(forget), vacancy.rules()::deletion);
        Preview preview = vacancy.preview(read);

        assertThat(new JsonWriter().write(read)).isEqualTo(new JsonWriter().write(forget));
        assertThat(preview.effects()).extracting(Effect::action).contains(Action.KEEP);
        Receipt receipt =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();
        assertThat(receipt.archived()).isFalse();
        assertThat(vacancy.persons().certificate(receipt.id()).orElseThrow().withoutReturn())
                .isTrue();
    }

    @OnEveryEngine
    void everythingArchivedOfAPersonIsPurgedUnderAnyReceipt(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(bench, RULES);
        vacancy.archive().setUp();
        // Long before: a boat with its log, a line of another bill, a log of somebody else, and an earlier blanking.
        vacancy.execute(Request.erase("logbook").key(20).withoutConfirmation("a test"));
        vacancy.execute(Request.erase("logbook").key(22).withoutConfirmation("a test"));
        vacancy.execute(Request.erase("line").key(41).withoutConfirmation("a test"));
        vacancy.execute(Request.blank("bill").key(32).withoutConfirmation("a test"));
        // A line that came back is there, and its image is as well.
        Outcome back = vacancy.execute(Request.erase("line").key(43).withoutConfirmation("a test"));
        vacancy.execute(Request.restore(back.receiptOrThrow().id()).withoutConfirmation("a test"));
        Bench.done(vacancy, Request.forget("skipper").key(1)).receiptOrThrow();

        List<Request> purges = vacancy.persons().archived("skipper", 1);
        assertThat(purges.get(0).table()).isEqualTo("skipper");
        Map<String, Long> purged = new TreeMap<>();
        for (Request purge : purges) {
            Receipt receipt = Bench.done(vacancy, purge).receiptOrThrow();
            purged.merge(
                    receipt.table().name().toLowerCase(Locale.ROOT),
                    receipt.totals().get(Action.PURGE),
                    Long::sum);
        }

        assertThat(purged)
                .isEqualTo(Map.of("skipper", 1L, "boat", 2L, "logbook", 2L, "bill", 1L, "line", 1L, "permit", 1L));
        assertThat(vacancy.persons().archived("skipper", 1)).isEmpty();
        // A bill that was kept and lost its link belongs to nobody, and so do its lines.
        assertThat(vacancy.preview(Request.purge("bill").key(32)).state()).isEqualTo(State.READY);
        assertThat(vacancy.preview(Request.purge("line").key(41)).state()).isEqualTo(State.READY);
        assertThat(vacancy.persons().archived("skipper", 99)).isEmpty();
        // What is Tavi's is there still.
        assertThat(vacancy.preview(Request.purge("logbook").key(22)).state()).isEqualTo(State.READY);
        assertThat(vacancy.persons().archived("skipper", 2))
                .extracting(Request::table)
                .containsExactly("logbook", "line");
        assertThatThrownBy(() -> vacancy.persons().archived("boat", 12)).isInstanceOf(MisuseException.class);
    }
}
