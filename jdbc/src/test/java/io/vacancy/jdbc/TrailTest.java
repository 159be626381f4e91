// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.History;
import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.Confirmation;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.TrailEntry.Kind;
import io.vacancy.trail.Verification;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.UnaryOperator;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Who did what, when and why; and what was refused. */
class TrailTest {

    private static final List<String> OWN = List.of(
            "vacancy_trail", "vacancy_trail_row", "vacancy_receipt", "vacancy_part", "vacancy_outbox", "vacancy_seal");
    private static final byte[] SECRET = "a secret of the harbour office".getBytes(StandardCharsets.UTF_8);

    private static Vacancy on(Bench bench, RuleBook rules, UnaryOperator<Vacancy.Builder> more) {
        return more.apply(Vacancy.on(JdbcStore.of(bench.database().source()))
                        .rules(rules)
                        .actor(() -> "Mira Holm"))
                .open();
    }

    private static List<TrailEntry> told(History history) {
        try (Stream<TrailEntry> entries = history.open()) {
            return entries.toList();
        }
    }

    private static Outcome answered(Vacancy vacancy, Preview preview, @Nullable String answer) {
        return vacancy.execute(preview, preview.question().answer(answer));
    }

    private static RuleBook marked() {
        return RuleBook.build(book -> book.table("mooring", t -> t.marker(Marker.date("left_on"))));
    }

    private static Bench withMarker(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.database().run("ALTER TABLE mooring ADD COLUMN left_on DATE");
        return bench;
    }

    @OnEveryEngine
    void whateverIsDoneHasOneEntry(Engine engine) {
        Bench bench = withMarker(engine);
        bench.database()
                .run(
                        "CREATE TABLE letter (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER)",
                        "INSERT INTO letter VALUES (1, 99)");
        RuleBook rules = RuleBook.build(book -> book.table("mooring", t -> t.marker(Marker.date("left_on")))
                .relation("letter.boat_id -> boat.id", Rule.leave()));
        Vacancy vacancy = on(bench, rules, builder -> builder.onBehalfOf(() -> "the port court")
                .origin(() -> Map.of("page", "/boats/1")));
        Receipt gone = vacancy.execute(
                        Request.delete("boat").key(1).because("sold").expect(1))
                .receiptOrThrow();
        Preview back = vacancy.preview(Request.restore(gone.id()));
        answered(vacancy, back, "yes").receiptOrThrow();
        vacancy.execute(Request.softDelete("mooring").key(21).withoutConfirmation("nightly"))
                .receiptOrThrow();
        vacancy.execute(Request.restore("mooring").key(21).expect(1)).receiptOrThrow();
        long hold = vacancy.archive().holdRow("boat", 2, "case 7").number();
        vacancy.archive().release(hold);
        vacancy.execute(Request.unlinkOrphans("letter.boat_id").expect(1)).receiptOrThrow();
        Request purge = Request.purge(gone.id());
        Preview purging = vacancy.preview(purge);
        vacancy.execute(purge, Answer.of(purging.fingerprint(), "yes")).receiptOrThrow();

        List<TrailEntry> entries = told(vacancy.history());

        assertThat(entries)
                .extracting(TrailEntry::kind)
                .containsExactly(
                        Kind.PURGE,
                        Kind.UNLINK_ORPHANS,
                        Kind.RELEASE,
                        Kind.HOLD,
                        Kind.RESTORE,
                        Kind.SOFT_DELETE,
                        Kind.RESTORE,
                        Kind.ERASE);
        assertThat(entries).allSatisfy(entry -> assertThat(entry)
                .returns(Ending.DONE, TrailEntry::ending)
                .returns("Mira Holm", TrailEntry::by)
                .returns("the port court", TrailEntry::onBehalfOf)
                .returns(Map.of("page", "/boats/1"), TrailEntry::origin));
        assertThat(entries.get(0).confirmation())
                .isEqualTo(new Confirmation(
                        Confirmation.How.QUESTION,
                        purging.question().title(),
                        purging.question().consequences(),
                        "yes",
                        purging.fingerprint(),
                        null));
        assertThat(entries.get(0).receipts()).containsExactly(gone.id());
        assertThat(entries.get(5).confirmation())
                .isEqualTo(new Confirmation(
                        Confirmation.How.WITHOUT_CONFIRMATION, "nightly", List.of(), null, null, null));
        assertThat(entries.get(6).confirmation())
                .returns(Confirmation.How.QUESTION, Confirmation::how)
                .returns("yes", Confirmation::answer)
                .returns(back.question().title(), Confirmation::words);
        TrailEntry erased = entries.get(7);
        assertThat(erased.because()).isEqualTo("sold");
        assertThat(erased.receipt()).isEqualTo(gone.id());
        assertThat(erased.affected())
                .extracting(AffectedRows::table, AffectedRows::rows, affectedRows -> affectedRows.keys().stream()
                        .sorted()
                        .toList())
                .containsExactlyInAnyOrder(
                        tuple("boat", 1L, List.of("1")),
                        tuple("mooring", 2L, List.of("11", "12")),
                        tuple("note", 3L, List.of("1", "2", "3")),
                        tuple("sticker", 2L, List.of("1", "2")));
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void whatWasNotDoneIsToldToo(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = on(
                bench,
                RuleBook.empty(),
                builder -> builder.permission(
                        (who, table, act) -> table.name().equals("sticker") ? "Stickers are for the office." : null));

        answered(vacancy, vacancy.preview(Request.delete("boat").key(1)), "no");
        vacancy.execute(Request.delete("skipper").key(1).expect(1));
        vacancy.execute(Request.delete("mooring").everyRow().expect(1));
        vacancy.execute(Request.delete("sticker").key(3).expect(1));
        // Nobody stood in the way of these.
        vacancy.execute(Request.delete("mooring").key(99).expect(1));
        vacancy.preview(Request.delete("skipper").key(1));

        List<TrailEntry> entries = told(vacancy.history().of("boat"));
        assertThat(entries).hasSize(1);
        assertThat(entries.get(0)).returns(Ending.REFUSED, TrailEntry::ending).returns(Kind.ERASE, TrailEntry::kind);
        List<TrailEntry> all = told(bench.vacancy().history());
        assertThat(all)
                .extracting(TrailEntry::ending)
                .containsExactly(Ending.REFUSED, Ending.REFUSED, Ending.BLOCKED, Ending.REFUSED);
        assertThat(all.get(0).reason()).isEqualTo("Stickers are for the office.");
        assertThat(all.get(0).affected())
                .containsExactly(new AffectedRows("sticker", null, null, null, 1, List.of("3")));
        assertThat(all.get(2).reason()).contains("boat.skipper_id");
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(bench.vacancy().trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void aDeclinedQuestionIsTold(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);

        answered(bench.vacancy(), bench.vacancy().preview(Request.delete("boat").key(1)), "rather not");

        TrailEntry entry = told(bench.vacancy().history()).get(0);
        assertThat(entry.ending()).isEqualTo(Ending.DECLINED);
        assertThat(entry.confirmation()).isNotNull();
        assertThat(entry.confirmation().answer()).isEqualTo("rather not");
        assertThat(told(bench.vacancy().history().of("boat", 1))).hasSize(1);
    }

    @OnEveryEngine
    void whatHappenedToOneRow(Engine engine) {
        Bench bench = withMarker(engine);
        Vacancy vacancy = on(bench, marked(), builder -> builder);
        vacancy.execute(Request.softDelete("mooring").key(11).expect(1)).receiptOrThrow();
        vacancy.execute(Request.restore("mooring").key(11).expect(1)).receiptOrThrow();
        Receipt gone = vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        answered(vacancy, vacancy.preview(Request.restore(gone.id())), "yes").receiptOrThrow();
        vacancy.execute(Request.delete("boat").key(2).expect(1)).receiptOrThrow();
        Instant now = Instant.now();

        History of11 = vacancy.history().of("mooring", 11);

        assertThat(told(of11))
                .extracting(TrailEntry::kind)
                .containsExactly(Kind.RESTORE, Kind.ERASE, Kind.RESTORE, Kind.SOFT_DELETE);
        assertThat(told(of11.kind(Kind.ERASE))).extracting(TrailEntry::receipt).containsExactly(gone.id());
        assertThat(vacancy.image(gone.id(), "mooring", 11).map(row -> row.get("boat_id")))
                .contains(1L);
        assertThat(vacancy.image(gone.id(), "mooring", 21)).isEmpty();
        assertThat(told(vacancy.history().receipt(gone.id())))
                .extracting(TrailEntry::kind)
                .containsExactly(Kind.RESTORE, Kind.ERASE);
        assertThat(told(of11.by("Jonas Reik"))).isEmpty();
        assertThat(told(of11.since(now))).isEmpty();
        assertThat(told(of11.before(now))).hasSize(4);
        assertThat(told(of11.ending(Ending.BLOCKED))).isEmpty();
    }

    @OnEveryEngine
    void pagesNeitherSkipNorRepeat(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.database().run("CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY)");
        for (int i = 1; i <= 12; i++) {
            bench.database().run("INSERT INTO buoy VALUES (" + i + ")");
        }
        for (int i = 1; i <= 11; i++) {
            bench.vacancy().execute(Request.delete("buoy").key(i).expect(1)).receiptOrThrow();
        }
        List<String> seen = new ArrayList<>();
        History.Page page = bench.vacancy().history().page(4);
        // Newer than what the first page showed.
        bench.vacancy().execute(Request.delete("buoy").key(12).expect(1)).receiptOrThrow();
        while (true) {
            page.entries()
                    .forEach(entry -> seen.add(entry.affected().get(0).keys().get(0)));
            String next = page.next();
            if (next == null) {
                break;
            }
            page = bench.vacancy().history().after(next).page(4);
        }

        assertThat(seen)
                .containsExactlyElementsOf(IntStream.rangeClosed(1, 11)
                        .mapToObj(i -> Integer.toString(12 - i))
                        .toList());
        assertThatThrownBy(() -> told(bench.vacancy().history().after("none")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("none");
    }

    @OnEveryEngine
    void ofManyRowsTheFirstKeysAreTold(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = on(bench, RuleBook.empty(), builder -> builder.keysInTrail(2));

        vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();

        AffectedRows notes = told(vacancy.history()).get(0).affected().stream()
                .filter(affectedRows -> affectedRows.table().equals("note"))
                .findFirst()
                .orElseThrow();
        assertThat(notes.rows()).isEqualTo(3);
        assertThat(notes.keys()).hasSize(2);
        assertThat(notes.whole()).isFalse();
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    private static RuleBook personal() {
        return RuleBook.build(
                book -> book.table("skipper", t -> t.label("skipper {email}").personal("email"))
                        .table("boat", t -> t.label("{name}").personal("name"))
                        .table("pass", t -> t.personal("holder"))
                        .question("boat", Strength.LABEL)
                        .outbox("/harbour"));
    }

    private static Bench withPasses(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        // The key of a pass is personal; the key of a gate refers to it, and so is personal too.
        bench.database()
                .run(
                        "CREATE TABLE pass (holder VARCHAR(40) NOT NULL PRIMARY KEY)",
                        "CREATE TABLE gate (id INTEGER NOT NULL PRIMARY KEY, holder VARCHAR(40),"
                                + " FOREIGN KEY (holder) REFERENCES pass (holder) ON DELETE CASCADE)",
                        "INSERT INTO pass VALUES ('Ilka Brandvold'), ('Tomas Reed'), ('Ann')",
                        "INSERT INTO gate VALUES (1, 'Ilka Brandvold'), (2, 'Tomas Reed'), (3, 'Ann')",
                        "INSERT INTO boat VALUES (4, 'Kestrel', 2)",
                        "DELETE FROM mooring",
                        "UPDATE note SET answers = NULL",
                        "DELETE FROM note");
        return bench;
    }

    @OnEveryEngine
    void personalValuesAreToldNowhere(Engine engine) {
        Bench bench = withPasses(engine);
        Vacancy vacancy = on(bench, personal(), builder -> builder.personalKey(SECRET));
        Preview osprey = vacancy.preview(Request.delete("boat").key(1).because("OSPREY was sold to Ann"));
        answered(vacancy, osprey, "Osprey").receiptOrThrow();
        answered(vacancy, vacancy.preview(Request.delete("boat").key(2)), "not Merlin!");
        vacancy.execute(Request.delete("boat").matching("name", "Kestrel").expect(1));
        vacancy.execute(Request.delete("boat")
                .where(ColumnRef.column("name")
                        .like("Kes%")
                        .or(ColumnRef.column("name").in("Kestrel", "Merlin")))
                .atMost(1)
                .withoutConfirmation("Kestrel is gone"));
        vacancy.execute(Request.delete("pass")
                        .key("Ilka Brandvold")
                        .because("Ilka Brandvold asked")
                        .expect(1))
                .receiptOrThrow();
        vacancy.execute(Request.delete("gate")
                        .where(ColumnRef.column("holder").equalTo("Tomas Reed"))
                        .expect(1))
                .receiptOrThrow();
        vacancy.execute(Request.delete("skipper")
                .where(ColumnRef.column("email").equalTo("jonas@harbour.example"))
                .expect(1));
        vacancy.archive().holdRow("pass", "Tomas Reed", "the case of Tomas Reed");
        // Nobody has this key, and the reason names it all the same.
        vacancy.execute(Request.delete("pass")
                .key("Ilka Brandvold")
                .because("Ilka Brandvold asks again")
                .expect(2));
        vacancy.execute(Request.delete("pass")
                .key("Ann")
                .reassign("gate.holder", "Tomas Reed")
                .withoutConfirmation("to Tomas Reed"));

        String everything =
                ArchiveTest.contents(bench.database(), OWN).toString().toLowerCase(Locale.ROOT);

        assertThat(everything)
                .contains("digest:")
                .doesNotContain("osprey", "merlin", "kestrel", "kes%", "brandvold", "tomas reed", "jonas@", "mira@");
        // Who knows a value finds it again, with the same secret.
        assertThat(told(vacancy.history().of("pass", "Ilka Brandvold"))).hasSize(1);
        assertThat(told(vacancy.history().of("pass", "Tomas Reed"))).hasSize(1);
        assertThat(told(vacancy.history().of("pass", "Nobody"))).isEmpty();
        Vacancy other = on(
                bench,
                personal(),
                builder -> builder.personalKey("another secret of somebody".getBytes(StandardCharsets.UTF_8)));
        assertThat(told(other.history().of("pass", "Ilka Brandvold"))).isEmpty();

        List<Request> images = Stream.of("boat", "pass", "gate")
                .map(table -> Request.purge(table).everyRow())
                .toList();
        images.forEach(purge -> vacancy.execute(purge.withoutConfirmation("asked to be forgotten"))
                .receiptOrThrow());
        vacancy.trail().seal();
        assertThat(vacancy.trail().verify().verified()).isTrue();
        assertThat(ArchiveTest.contents(bench.database(), List.of("vacancy_image", "vacancy_part"))
                        .toString())
                .doesNotContain("Osprey", "Brandvold");
    }

    @OnEveryEngine
    void withoutASecretPersonalValuesAreLeftOut(Engine engine) {
        Bench bench = withPasses(engine);
        Vacancy vacancy = on(bench, personal(), builder -> builder);

        vacancy.execute(Request.delete("pass")
                        .key("Ann")
                        .because("Ann and Annette left")
                        .expect(1))
                .receiptOrThrow();

        TrailEntry entry = told(vacancy.history()).get(0);
        assertThat(entry.affected().get(0).keys()).containsExactly("(personal)");
        // What hangs on the pass went unseen, so nobody knows whether the text names any of it.
        assertThat(entry.because()).isEqualTo("(withheld)");
    }

    @OnEveryEngine
    void listenersHearOfWhatIsCommitted(Engine engine) throws SQLException {
        Bench bench = ArchiveTest.bench(engine);
        List<String> heard = new ArrayList<>();
        List<TrailEntry> unwritten = new ArrayList<>();
        Vacancy vacancy = on(
                bench,
                RuleBook.empty(),
                builder -> builder.listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        heard.add(outcome.state().word());
                    }

                    @Override
                    public void entryNotWritten(TrailEntry entry) {
                        unwritten.add(entry);
                    }
                }));
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = vacancy.within(connection);
            within.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
            within.execute(Request.delete("skipper").key(1).expect(1));
            assertThat(heard).containsExactly("blocked");
            connection.rollback();
            within.rolledBack();
            assertThat(heard).containsExactly("blocked");

            within.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
            connection.commit();
            within.committed();
            within.committed();
        }
        assertThat(heard).containsExactly("blocked", "done");
        assertThat(unwritten).extracting(TrailEntry::ending).containsExactly(Ending.BLOCKED);
        // What was rolled back left no entry, and what was written on the caller's connection waits for its seal.
        assertThat(told(vacancy.history())).hasSize(1);
        assertThat(vacancy.trail().verify().unsealed()).isEqualTo(1);
        assertThat(vacancy.trail().seal().position()).isEqualTo(1);
        assertThat(vacancy.trail().verify()).returns(0L, Verification::unsealed).returns(true, Verification::verified);
    }

    @OnEveryEngine
    void otherSystemsFollowThroughTheOutbox(Engine engine) throws Exception {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = on(bench, RuleBook.build(book -> book.outbox("/harbour/office")), builder -> builder);
        Receipt first = vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        vacancy.execute(Request.delete("skipper").key(1).expect(1));
        vacancy.execute(Request.delete("sticker").key(4).expect(1)).receiptOrThrow();
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            vacancy.within(connection)
                    .execute(Request.delete("sticker").key(3).expect(1))
                    .receiptOrThrow();
            connection.rollback();
        }
        List<OutboxEvent> waiting = vacancy.outbox().waiting(10);
        assertThat(waiting).hasSize(2);
        JsonNode event = new ObjectMapper().readTree(waiting.get(0).content());
        assertThat(event.path("specversion").asText()).isEqualTo("1.0");
        assertThat(event.path("id").asText()).isEqualTo(waiting.get(0).id());
        assertThat(event.path("source").asText()).isEqualTo("/harbour/office");
        assertThat(event.path("type").asText()).isEqualTo("io.vacancy.erase");
        assertThat(event.path("subject").asText()).isEqualTo("boat");
        assertThat(event.path("data").path("receipt").asText())
                .isEqualTo(first.id().value());

        // A reader that fails at the second has taken the first.
        List<String> read = new ArrayList<>();
        assertThatThrownBy(() -> vacancy.outbox().passOn(10, each -> {
                    if (!read.isEmpty()) {
                        throw new IllegalStateException("the index is down");
                    }
                    read.add(each.id());
                }))
                .hasMessage("the index is down");
        assertThat(vacancy.outbox().passOn(10, each -> read.add(each.id()))).isEqualTo(1);
        assertThat(read).containsExactly(waiting.get(0).id(), waiting.get(1).id());
        assertThat(vacancy.outbox().passOn(10, each -> read.add(each.id()))).isZero();
    }

    @OnEveryEngine
    void tablesOfAnOlderVersionAreBroughtUpToDate(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Receipt gone =
                bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        asBeforeModules(bench, engine);
        bench.database()
                .run(
                        "DROP TABLE vacancy_trail",
                        "DROP TABLE vacancy_trail_row",
                        "DROP TABLE vacancy_seal",
                        "DROP TABLE vacancy_unsealed",
                        "DROP TABLE vacancy_head",
                        "DROP TABLE vacancy_outbox",
                        "DROP TABLE vacancy_request",
                        "DELETE FROM vacancy_version",
                        "INSERT INTO vacancy_version VALUES (1, '2026-11-01T00:00:00Z')");
        Vacancy vacancy = on(bench, RuleBook.empty(), builder -> builder);

        // Going on would keep nothing.
        assertThatThrownBy(() -> vacancy.execute(Request.delete("boat").key(2).expect(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("of version 1, and this program works with version 5");
        assertThat(vacancy.archive().setUp())
                .isNotEmpty()
                .noneMatch(sql -> sql.startsWith("CREATE TABLE") && sql.contains("vacancy_image"));
        assertThat(vacancy.archive().setUp()).isEmpty();

        answered(vacancy, vacancy.preview(Request.restore(gone.id())), "yes").receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(told(vacancy.history())).hasSize(1);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void tablesOfTheOneVersionForAllAreBroughtUpToDate(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Receipt gone =
                bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        asBeforeModules(bench, engine);
        Vacancy vacancy = on(bench, RuleBook.empty(), builder -> builder);

        assertThatThrownBy(() -> vacancy.preview(Request.restore(gone.id()))).isInstanceOf(NotSetUpException.class);
        assertThat(vacancy.archive().setUp()).isNotEmpty();
        assertThat(vacancy.archive().setUp()).isEmpty();

        answered(vacancy, vacancy.preview(Request.restore(gone.id())), "yes").receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(told(vacancy.history())).hasSize(2);
    }

    /** The tables as they were when one number was the version of all of them. */
    private static void asBeforeModules(Bench bench, Engine engine) {
        String rename = engine == Engine.H2 || engine == Engine.OTHER
                ? "ALTER TABLE vacancy_line ALTER COLUMN %s RENAME TO %s"
                : "ALTER TABLE vacancy_line RENAME COLUMN %s TO %s";
        if (engine == Engine.SQLITE || engine == Engine.MARIADB) {
            bench.database().run("ALTER TABLE vacancy_image DROP COLUMN rest");
        }
        bench.database()
                .run(
                        "DROP TABLE vacancy_question",
                        "DROP TABLE vacancy_module",
                        "DELETE FROM vacancy_version",
                        "INSERT INTO vacancy_version VALUES (3, '2026-11-01T00:00:00Z')",
                        "ALTER TABLE vacancy_receipt DROP COLUMN scopes",
                        "ALTER TABLE vacancy_part DROP COLUMN rows_affected",
                        "ALTER TABLE vacancy_part DROP COLUMN took_ms",
                        String.format(rename, "kind", "links"),
                        String.format(rename, "archived_columns", "columns_kept"),
                        String.format(rename, "rows_archived", "rows_kept"));
    }

    /** Who and when stand in several places, and are the same everywhere. */
    @OnEveryEngine
    void stampsMarkersReceiptAndTrailAgree(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, gone_at "
                        + (engine == Engine.MARIADB ? "DATETIME(6)" : "TIMESTAMP")
                        + ", gone_by VARCHAR(40), gone_with VARCHAR(64), changed_by VARCHAR(40), changed_at "
                        + (engine == Engine.MARIADB ? "DATETIME(6)" : "TIMESTAMP") + ")",
                "INSERT INTO berth (id) VALUES (1)",
                "INSERT INTO berth (id) VALUES (2)");
        Vacancy vacancy = on(
                bench,
                RuleBook.build(book -> book.table("berth", t -> t.marker(
                                Marker.date("gone_at").who("gone_by").receipt("gone_with"))
                        .auditColumns("changed_by", "changed_at"))),
                builder -> builder.clock(Clock.tick(Clock.systemUTC(), Duration.ofNanos(1))));
        vacancy.archive().setUp();
        Receipt receipt =
                vacancy.execute(Request.softDelete("berth").key(1).expect(1)).receiptOrThrow();

        TrailEntry entry = told(vacancy.history()).get(0);
        Row row;
        try (Stream<Row> rows = vacancy.rows(Request.delete("berth").key(1).includingMarked())) {
            row = rows.findFirst().orElseThrow();
        }

        LocalDateTime at = LocalDateTime.ofInstant(entry.at(), ZoneOffset.UTC);
        assertThat(entry.at()).isEqualTo(receipt.at());
        assertThat(row.get("gone_at")).isEqualTo(at);
        assertThat(row.get("changed_at")).isEqualTo(at);
        assertThat(List.of(row.text("gone_by"), row.text("changed_by"), receipt.by(), entry.by()))
                .containsOnly("Mira Holm");
        assertThat(List.of(row.text("gone_with"), receipt.id().value())).containsOnly(String.valueOf(entry.receipt()));
        assertThat(vacancy.archive().documents(receipt.id()).get(0))
                .contains(receipt.at().toString());
    }

    @OnEveryEngine
    void everyPartOfAReceiptHasItsEntry(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Receipt first =
                bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        bench.vacancy()
                .continuing(first.id())
                .execute(Request.delete("boat").key(2).expect(1))
                .receiptOrThrow();

        assertThat(told(bench.vacancy().history().receipt(first.id())))
                .extracting(TrailEntry::part, entry -> entry.affected().get(0).keys())
                .containsExactly(tuple(2, List.of("2")), tuple(1, List.of("1")));
    }

    @OnEveryEngine
    void tablesAndKeysAreFoundAsTheyAreWritten(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE slip (code VARCHAR(300) NOT NULL, side INTEGER NOT NULL, PRIMARY KEY (code, side))",
                "INSERT INTO slip VALUES ('a', 1), ('A', 2), ('" + "x".repeat(290) + "', 3), ('" + "x".repeat(289)
                        + "y', 3)");
        bench.vacancy().archive().setUp();
        bench.vacancy()
                .execute(Request.delete("slip").everyRow().withoutConfirmation("a test"))
                .receiptOrThrow();
        bench.database().run("INSERT INTO slip VALUES ('a', 1)");
        bench.vacancy()
                .execute(Request.delete("slip")
                        .key(Key.of("code", "a", "side", 1))
                        .expect(1))
                .receiptOrThrow();

        History history = bench.vacancy().history();
        assertThat(told(history.of("slip", "code=a,side=1"))).hasSize(2);
        assertThat(told(history.of("slip", Key.of("side", 2, "code", "A")))).hasSize(1);
        assertThat(told(history.of("slip", "code=A,side=1"))).isEmpty();
        assertThat(told(history.of("slip", Key.of("side", 3, "code", "x".repeat(290)))))
                .hasSize(1);
        assertThat(told(history.of("slip", Key.of("side", 3, "code", "x".repeat(288) + "zz"))))
                .isEmpty();
        assertThat(told(history.of("slip"))).hasSize(2);
        assertThat(bench.vacancy().trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void anActorThatNoReceiptCouldKeepIsRefused(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "x".repeat(256))
                .open();
        assertThatThrownBy(() -> vacancy.execute(Request.delete("boat").key(1).expect(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("256 characters");
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    /** A trail whose head is gone is not sealed any more, and deleting goes on. */
    @OnEveryEngine
    void whatIsDoneIsDoneThoughNobodyCanSealIt(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.database().run("DELETE FROM vacancy_head");

        assertThat(bench.vacancy().execute(Request.delete("boat").key(1).expect(1)))
                .isInstanceOf(Outcome.Done.class);

        assertThatThrownBy(() -> bench.vacancy().trail().seal())
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("head of the trail is gone");
        assertThat(bench.vacancy().trail().verify())
                .returns(false, Verification::verified)
                .returns(1L, Verification::unsealed);
    }

    @OnEveryEngine
    void onlyWhoMaySeeATableHearsOfIt(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.vacancy().execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        bench.vacancy().execute(Request.delete("sticker").key(4).expect(1)).receiptOrThrow();
        Vacancy clerk = on(
                bench,
                RuleBook.empty(),
                builder -> builder.permission(
                        (who, table, act) -> table.name().equals("boat") ? "Boats are for the office." : null));
        Vacancy tenant = on(
                bench,
                RuleBook.empty(),
                builder -> builder.scope(() -> table -> table.name().name().equals("boat")
                        ? ColumnRef.column("skipper_id").equalTo(1)
                        : null));

        for (Vacancy vacancy : List.of(clerk, tenant)) {
            assertThat(told(vacancy.history())).extracting(TrailEntry::table).containsExactly("sticker");
        }
        assertThatThrownBy(() -> clerk.history().of("boat", 1)).isInstanceOf(MisuseException.class);
        // What was done by somebody who sees more is not told, and is like nothing at all.
        assertThat(told(tenant.history().of("boat", 1))).isEmpty();
    }
}
