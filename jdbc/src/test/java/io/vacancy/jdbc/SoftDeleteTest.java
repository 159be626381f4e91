// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission;
import io.vacancy.advice.Advice;
import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Key;
import io.vacancy.request.Mode;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;

/** Rows that are marked and stay, on every kind of marker. */
class SoftDeleteTest {

    private static final Clock NOON = Clock.fixed(Instant.parse("2026-06-15T12:00:00Z"), ZoneOffset.UTC);

    private static final List<String> TABLES =
            List.of("boat", "mooring", "reading", "note", "inspection", "contract", "sticker");

    /** Every kind of marker, over columns as applications have them. */
    static Database build(Engine engine) {
        Database database = engine.fresh();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL, call_sign VARCHAR(9),"
                        + " left_on DATE, left_by VARCHAR(60), left_why VARCHAR(8), left_receipt VARCHAR(40),"
                        + " back_at TIMESTAMP NULL, changed_by VARCHAR(60), changed_at TIMESTAMP NULL)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " state VARCHAR(10) DEFAULT 'moored' NOT NULL, before_that VARCHAR(10), receipt VARCHAR(40),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id))",
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, answers INTEGER,"
                        + " active CHAR(1), receipt VARCHAR(40), FOREIGN KEY (boat_id) REFERENCES boat (id),"
                        + " FOREIGN KEY (answers) REFERENCES note (id))",
                "CREATE TABLE inspection (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE contract (no INTEGER NOT NULL, valid_from DATE NOT NULL, boat_id INTEGER NOT NULL,"
                        + " rent INTEGER NOT NULL, valid_until DATE, receipt VARCHAR(40), PRIMARY KEY (no, valid_from),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE sticker (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " valid_to DATE DEFAULT '9999-12-31' NOT NULL, receipt VARCHAR(40),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))");
        for (int boat = 1; boat <= 4; boat++) {
            database.run(
                    "INSERT INTO boat (id, name, call_sign) VALUES (" + boat + ", 'Boat " + boat + "', 'VQ" + boat
                            + "')",
                    "INSERT INTO mooring (id, boat_id, state) VALUES (" + boat + "1, " + boat + ", 'moored')",
                    "INSERT INTO mooring (id, boat_id, state) VALUES (" + boat + "2, " + boat + ", 'away')",
                    "INSERT INTO mooring (id, boat_id, state) VALUES (" + boat + "3, " + boat + ", 'gone')",
                    "INSERT INTO reading VALUES (" + boat + "1, " + boat + "1)",
                    "INSERT INTO reading VALUES (" + boat + "3, " + boat + "3)",
                    "INSERT INTO note VALUES (" + boat + "1, " + boat + ", NULL, 'Y', NULL)",
                    "INSERT INTO note VALUES (" + boat + "2, " + boat + ", " + boat + "1, NULL, NULL)",
                    "INSERT INTO note VALUES (" + boat + "3, " + boat + ", " + boat + "2, 'N', NULL)",
                    "INSERT INTO inspection VALUES (" + boat + ", " + boat + ")",
                    "INSERT INTO contract VALUES (" + boat + ", '2024-01-01', " + boat + ", 100, NULL, NULL)",
                    "INSERT INTO contract VALUES (" + boat + ", '2026-01-01', " + boat + ", 120, NULL, NULL)",
                    "INSERT INTO sticker (id, boat_id) VALUES (" + boat + "1, " + boat + ")",
                    "INSERT INTO sticker VALUES (" + boat + "2, " + boat + ", '2025-12-31', NULL)");
        }
        return database;
    }

    static RuleBook rules() {
        return RuleBook.build(SoftDeleteTest::write);
    }

    private static void write(RuleBook.Builder book) {
        book.table("boat", t -> t.label("{name}")
                        .marker(Marker.date("left_on")
                                .who("left_by")
                                .why("left_why")
                                .receipt("left_receipt")
                                .restoredAt("back_at"))
                        .auditColumns("changed_by", "changed_at")
                        .uniqueWhileActive("call_sign"))
                .table(
                        "mooring",
                        t -> t.marker(Marker.status("state", "gone", "moored", "away")
                                .was("before_that")
                                .receipt("receipt")))
                .table("note", t -> t.marker(Marker.flag("active", "Y", "N").receipt("receipt")))
                .table(
                        "contract",
                        t -> t.marker(Marker.versions(List.of("no"), "valid_from", "valid_until")
                                .receipt("receipt")))
                .table(
                        "sticker",
                        t -> t.marker(Marker.endDate("valid_to", "9999-12-31").receipt("receipt")))
                .whenSoftDeleted("reading.mooring_id", Rule.leave())
                .whenSoftDeleted("inspection.boat_id", Rule.leave());
        for (String child : List.of("mooring", "note", "contract", "sticker")) {
            book.relation(child + ".boat_id", Rule.cascade());
        }
        book.relation("note.answers", Rule.cascade()).relation("reading.mooring_id", Rule.cascade());
    }

    static Vacancy open(Database database, RuleBook rules) {
        return Vacancy.on(JdbcStore.of(database.source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .clock(NOON)
                .open();
    }

    /** Every row of every table, as text. */
    static List<String> dump(Database database, List<String> tables) throws SQLException {
        List<String> all = new ArrayList<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (String table : tables) {
                try (ResultSet rows = statement.executeQuery("SELECT * FROM " + table + " ORDER BY 1, 2")) {
                    while (rows.next()) {
                        StringBuilder row = new StringBuilder(table);
                        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                            String name = rows.getMetaData().getColumnLabel(i);
                            if (!name.equals("back_at") && !name.startsWith("changed_")) {
                                row.append(" ").append(name).append("=").append(rows.getString(i));
                            }
                        }
                        all.add(row.toString());
                    }
                }
            }
        }
        return all;
    }

    @OnEveryEngine
    void rowsAreMarkedWithWhatHangsOnThemAndComeBackAsTheyWere(Engine engine) throws SQLException {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        List<String> before = dump(database, TABLES);

        Preview seen = vacancy.preview(Request.softDelete("boat").keys(1, 2).because("sold to Port Arden"));
        Receipt gone = vacancy.execute(seen, seen.question().answer("yes")).receiptOrThrow();

        assertThat(gone.totals()).containsOnly(Map.entry(Action.SOFT_DELETE, 2L + 4 + 4 + 2 + 2));
        assertThat(gone.activeCounts()).isEqualTo(new ActiveCounts(4, 4, 2, 4, 0));
        assertThat(database.count("boat WHERE left_on IS NOT NULL AND left_by = 'Mira Holm' AND left_why = 'sold to '"
                        + " AND changed_by = 'Mira Holm' AND left_receipt = '" + gone.id() + "'"))
                .isEqualTo(2);
        assertThat(database.count("mooring WHERE state = 'gone' AND before_that IN ('moored', 'away')"))
                .isEqualTo(4);
        assertThat(database.count("note WHERE active = 'N'")).isEqualTo(8);
        assertThat(database.count("contract WHERE valid_until IS NOT NULL AND valid_from > '2025-01-01'"))
                .isEqualTo(2);
        assertThat(database.count("sticker WHERE valid_to < '2026-12-31'")).isEqualTo(6);
        assertThat(database.count("reading")).isEqualTo(8);
        assertThat(vacancy.preview(Request.softDelete("boat").keys(1, 2, 3, 4))
                        .impact()
                        .activeCounts())
                .isEqualTo(new ActiveCounts(2, 4, 0, 4, 2));

        JsonWriter writer = new JsonWriter();
        JsonReader reader = new JsonReader(vacancy.schema());
        assertThat(reader.preview(writer.write(seen)).impact()).isEqualTo(seen.impact());
        assertThat(reader.receipt(writer.write(new Outcome.Done(gone)))).isEqualTo(gone);

        Preview back = vacancy.preview(Request.restore(gone.id()));
        assertThat(back.state()).isEqualTo(State.READY);
        assertThat(back.totals()).isEqualTo(Map.of(Action.RESTORE, 14L));
        assertThat(vacancy.execute(back, back.question().answer("yes"))).isInstanceOf(Outcome.Done.class);
        List<String> after = dump(database, TABLES);

        // The status was NULL in no row; what was NULL in a flag has become the active value.
        assertThat(after.stream().map(row -> row.replace("answers=11 active=Y", "answers=11 active=null")
                        .replace("answers=21 active=Y", "answers=21 active=null")))
                .isEqualTo(before);
        assertThat(database.count("boat WHERE back_at IS NOT NULL")).isEqualTo(2);
        assertThatThrownBy(() -> vacancy.preview(Request.restore(gone.id())))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Nothing can be restored by receipt");
    }

    @OnEveryEngine
    void whatIsMarkedIsLeftOutUnlessAskedForAndGoesLikeAnyRowWhenErased(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();

        Outcome again = vacancy.execute(Request.softDelete("boat").key(1).withoutConfirmation("twice"));
        Preview hidden = vacancy.preview(Request.delete("boat").key(1));
        Preview blocked = vacancy.preview(Request.delete("boat").key(1).includingMarked());
        database.run("DELETE FROM inspection WHERE boat_id = 1");
        Receipt erased = vacancy.execute(
                        Request.delete("boat").key(1).includingMarked().expect(1))
                .receiptOrThrow();

        assertThat(again.state().word()).isEqualTo("nothing");
        assertThat(again.message()).isEqualTo("1 row of boat is marked as deleted already; nothing was changed.");
        assertThat(hidden.state()).isEqualTo(State.NOTHING);
        assertThat(hidden.missing().rows()).isZero();
        assertThat(blocked.state()).isEqualTo(State.BLOCKED);
        assertThat(erased.totals()).containsOnly(Map.entry(Action.DELETE, 1L + 3 + 2 + 3 + 2 + 2));
        assertThat(erased.activeCounts()).isEqualTo(new ActiveCounts(3, 4, 3, 3, 0));
        assertThat(vacancy.preview(Request.softDelete("boat").everyRow())
                        .impact()
                        .everyRowOf(vacancy.schema().table("boat").name()))
                .isTrue();
    }

    @OnEveryEngine
    void whatStandsInTheWayOfComingBackIsListed(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();
        database.run("INSERT INTO boat (id, name, call_sign) VALUES (9, 'Newcomer', 'VQ1')");

        Preview child = vacancy.preview(Request.restore("mooring").key(11));
        Preview taken = vacancy.preview(Request.restore("boat").key(1));
        Preview active = vacancy.preview(Request.restore("boat").key(2));
        database.run("UPDATE boat SET call_sign = 'VQ9' WHERE id = 9");

        assertThat(child.state()).isEqualTo(State.BLOCKED);
        assertThat(child.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.relation()).isEqualTo("mooring.boat_id");
            assertThat(blocker.reason()).isEqualTo("the boat they refer to is still marked as deleted");
        });
        assertThat(taken.state()).isEqualTo(State.BLOCKED);
        assertThat(taken.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.relation()).isNull();
            assertThat(blocker.message()).isEqualTo("another row that is active or is restored has the same call_sign");
        });
        assertThat(active.state()).isEqualTo(State.NOTHING);
        assertThat(vacancy.execute(Request.restore("boat").key(1).expect(1))
                        .receiptOrThrow()
                        .totals())
                .containsEntry(Action.RESTORE, 7L);
    }

    @OnEveryEngine
    void rowsMarkedBeforeComeBackAloneAndVersionsOnlyTheLatest(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        database.run("UPDATE contract SET valid_until = '2026-03-01' WHERE no = 1");

        Preview old = vacancy.preview(Request.restore("contract").key("no=1,valid_from=2024-01-01"));
        Receipt back = vacancy.execute(Request.restore("contract")
                        .where(column("no").equalTo(1))
                        .expect(1))
                .receiptOrThrow();
        Receipt note =
                vacancy.execute(Request.restore("note").key(13).expect(1)).receiptOrThrow();

        assertThat(old.state()).isEqualTo(State.NOTHING);
        assertThat(back.record().get("valid_from")).hasToString("2026-01-01");
        assertThat(database.count("contract WHERE no = 1 AND valid_until IS NULL AND valid_from > '2025-01-01'"))
                .isEqualTo(1);
        assertThat(note.rows()).isEqualTo(1);
        assertThat(database.count("note WHERE active = 'Y' AND id = 13")).isEqualTo(1);
    }

    @OnEveryEngine
    void someTablesAreMarkedAndOthersErasedInOneDeletion(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, RuleBook.build(book -> book.table(
                        "boat", t -> t.marker(Marker.date("left_on")))
                .table("mooring", t -> t.marker(Marker.status("state", "gone", "moored", "away")))
                .relation("mooring.boat_id", Rule.cascade())
                .whenSoftDeleted("reading.mooring_id", Rule.erase())
                .whenSoftDeleted("note.boat_id", Rule.erase())
                .relation("note.answers", List.of("block"), Rule.cascade())
                .whenSoftDeleted(
                        "inspection.boat_id", Rule.when(column("id").equalTo(2)).block("kept"), Rule.leave())
                .whenSoftDeleted("contract.boat_id", Rule.leave())
                .whenSoftDeleted("sticker.boat_id", Rule.erase())));

        Preview second = vacancy.preview(Request.softDelete("boat").key(2));
        database.run("INSERT INTO note VALUES (99, 2, 11, 'Y', NULL)");
        // The notes are erased, so what the request says of them holds for parents that are erased.
        Preview answered = vacancy.preview(Request.softDelete("boat").key(1).rule("note.answers", "block:answered"));
        database.run("DELETE FROM note WHERE id = 99");
        Receipt receipt =
                vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();

        assertThat(answered.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .isEqualTo("answered"));
        assertThat(second.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .isEqualTo("kept"));
        assertThat(receipt.totals())
                .containsOnly(Map.entry(Action.SOFT_DELETE, 3L), Map.entry(Action.DELETE, 1L + 3 + 2));
        // The reading of the mooring that was gone before stays.
        assertThat(database.count("reading WHERE mooring_id < 20")).isEqualTo(1);
        assertThat(database.count("note WHERE boat_id = 1")).isZero();
        assertThat(database.count("mooring WHERE boat_id = 1 AND state = 'gone'"))
                .isEqualTo(3);
    }

    @OnEveryEngine
    void activeRowsAreReadByConditionByTextAndByView(Engine engine) throws SQLException {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();
        database.run("INSERT INTO contract VALUES (2, '2999-01-01', 2, 150, NULL, NULL)");
        Map<String, Long> expected = Map.of("boat", 3L, "mooring", 6L, "note", 6L, "contract", 3L, "sticker", 3L);

        for (Map.Entry<String, Long> table : expected.entrySet()) {
            String name = table.getKey();
            SqlText text = vacancy.tables().activeSql(name, "x");
            try (Connection connection = database.connect();
                    PreparedStatement query =
                            connection.prepareStatement("SELECT COUNT(*) FROM " + name + " x WHERE " + text.text())) {
                for (int i = 0; i < text.values().size(); i++) {
                    query.setObject(i + 1, text.values().get(i));
                }
                try (ResultSet rows = query.executeQuery()) {
                    rows.next();
                    assertThat(rows.getLong(1)).as(name).isEqualTo(table.getValue());
                }
            }
            database.run(vacancy.tables().activeView(name, "active_" + name));
            assertThat(database.count("active_" + name)).as(name).isEqualTo(table.getValue());
            assertThat(vacancy.preview(
                                    Request.erase(name).where(vacancy.tables().active(name)))
                            .impact()
                            .selected())
                    .as(name)
                    .isEqualTo(table.getValue());
        }
        assertThatThrownBy(() -> vacancy.tables().active("reading")).hasMessageContaining("gives reading no marker");
    }

    @OnEveryEngine
    void theUsualTrapsAreTold(Engine engine) {
        Database database = build(engine);
        database.run("CREATE UNIQUE INDEX one_name ON boat (name)");
        Vacancy vacancy = open(database, rules());
        vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();
        database.run("INSERT INTO mooring (id, boat_id) VALUES (99, 1)");

        Map<Advice.Kind, List<Advice>> advice =
                vacancy.tables().advisor().all().stream().collect(Collectors.groupingBy(Advice::kind));

        assertThat(advice.get(Advice.Kind.ACTIVE_CHILDREN)).singleElement().satisfies(each -> assertThat(each.message())
                .isEqualTo("1 row of mooring is active and depends, by mooring.boat_id, on soft-deleted rows of"
                        + " boat."));
        assertThat(advice.get(Advice.Kind.NULL_FLAG)).singleElement().satisfies(each -> assertThat(each.message())
                .startsWith("3 rows of note have NULL in active."));
        assertThat(advice.get(Advice.Kind.NO_MARKER))
                .extracting(each -> each.table().name())
                .containsExactly("inspection", "reading");
        Advice held = advice.get(Advice.Kind.VALUE_HELD).get(0);
        assertThat(held.message()).startsWith("A soft-deleted row of boat still holds its name");
        for (Advice each : advice.get(Advice.Kind.NO_MARKER)) {
            database.run(each.statement());
        }
        boolean partial = engine == Engine.SQLITE || engine == Engine.POSTGRESQL;
        assertThat(held.statement() != null).isEqualTo(partial);
        if (partial) {
            database.run("DROP INDEX one_name", held.statement());
            database.run("INSERT INTO boat (id, name) VALUES (9, 'Boat 1')");
            Preview back =
                    open(database, rules()).preview(Request.restore("boat").key(1));
            assertThat(back.blockers())
                    .extracting(Blocker::reason)
                    .anyMatch(reason -> reason.endsWith("the same name"));
        }
    }

    @OnEveryEngine
    void stampsAreSetOnTheRowAndOnItsParent(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(
                database, RuleBook.build(book -> book.table("boat", t -> t.auditColumns("changed_by", "changed_at"))
                        .table("inspection", t -> t.stampsParent("inspection.boat_id"))));

        Preview preview = vacancy.preview(Request.erase("inspection").keys(1, 2));
        vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();

        assertThat(preview.warnings()).containsExactly("2 rows of boat are stamped as changed, by inspection.boat_id.");
        assertThat(database.count("boat WHERE changed_by = 'Mira Holm' AND changed_at IS NOT NULL"))
                .isEqualTo(2);
    }

    @OnEveryEngine
    void aRowEndsAndItsSuccessorBegins(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        Condition one = column("no").equalTo(1L);

        Preview raised = vacancy.preview(Request.replace("contract")
                .where(one)
                .with(Map.of("rent", "135"))
                .from("2026-07-01"));
        Receipt receipt =
                vacancy.execute(raised, raised.question().answer("yes")).receiptOrThrow();
        Preview twice = vacancy.preview(
                Request.replace("contract").where(one).with(Map.of("rent", 140)).from("2026-07-01"));
        Receipt sticker = vacancy.execute(Request.replace("sticker")
                        .key(11)
                        .with(Map.of("id", 19))
                        .from("2026-06-20")
                        .expect(1))
                .receiptOrThrow();
        Preview several = vacancy.preview(Request.replace("contract")
                .where(column("no").atLeast(0L))
                .with(Map.of("rent", 1))
                .fromNow());

        assertThat(vacancy.preview(Request.softDelete("contract").where(one)).warnings())
                .containsExactly("1 row of contract begins later and would come into force all the same.");
        assertThat(raised.question().consequences())
                .contains("The successor has valid_from 2026-07-01, valid_until NULL, receipt NULL, rent 135.");
        assertThat(new JsonReader(vacancy.schema())
                        .preview(new JsonWriter().write(raised))
                        .impact())
                .isEqualTo(raised.impact());
        assertThat(receipt.totals()).containsExactly(Map.entry(Action.REPLACE, 1L));
        assertThat(receipt.activeCounts()).isEqualTo(new ActiveCounts(4, 8, 4, 9, 0));
        assertThat(database.count("contract WHERE no = 1 AND valid_from = '2026-07-01' AND rent = 135 AND boat_id = 1"
                        + " AND valid_until IS NULL"))
                .isEqualTo(1);
        assertThat(database.count("contract WHERE no = 1 AND rent = 120 AND valid_until = '2026-07-01'"))
                .isEqualTo(1);
        assertThat(twice.state()).isEqualTo(State.BLOCKED);
        assertThat(twice.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .isEqualTo("a version of it begins on 2026-07-01 or later"));
        assertThat(sticker.rows()).isEqualTo(1);
        assertThat(database.count("sticker WHERE id = 19 AND boat_id = 1 AND valid_to = '9999-12-31'"))
                .isEqualTo(1);
        assertThat(database.count("sticker WHERE id = 11 AND valid_to = '2026-06-20'"))
                .isEqualTo(1);
        assertThat(several.state()).isEqualTo(State.REFUSED);
        assertThat(several.refusal()).contains("a successor takes the place of one");
        if (engine != Engine.SQLITE) {
            // There, the key is the row id, which numbers itself.
            assertThatThrownBy(() -> vacancy.preview(
                            Request.replace("sticker").key(12).with(Map.of()).fromNow()))
                    .hasMessageContaining("the same key");
        }
        assertThatThrownBy(() -> vacancy.preview(
                        Request.replace("boat").key(1).with(Map.of("id", 7)).fromNow()))
                .hasMessageContaining("neither versions nor an end date");
    }

    @OnEveryEngine
    void whereNobodySaysWhenItIsWhenTheAnswerComes(Engine engine) throws Exception {
        Database database = build(engine);
        database.run(
                "CREATE TABLE tariff (no INTEGER NOT NULL, since TIMESTAMP(3) DEFAULT '2026-01-01 00:00:00' NOT NULL,"
                        + " till TIMESTAMP(3) NULL, price INTEGER, PRIMARY KEY (no, since))",
                "INSERT INTO tariff (no, price) VALUES (1, 10)");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RuleBook.build(
                        book -> book.table("tariff", t -> t.marker(Marker.versions(List.of("no"), "since", "till")))))
                .actor(() -> "Mira Holm")
                .open();

        Preview seen = vacancy.preview(Request.replace("tariff")
                .where(column("no").equalTo(1))
                .with(Map.of("price", 12))
                .fromNow());
        Thread.sleep(20);
        Outcome outcome = vacancy.execute(seen, seen.question().answer("yes"));

        assertThat(outcome.state()).as(outcome.message()).isEqualTo(Outcome.State.DONE);
        assertThat(database.count("tariff WHERE price = 12 AND till IS NULL")).isEqualTo(1);
        assertThat(database.count("tariff o WHERE price = 10 AND till = (SELECT since FROM tariff WHERE price = 12)"))
                .isEqualTo(1);
    }

    @OnEveryEngine
    void ofTwoSoftDeletesOfOneRowOneMarksIt(Engine engine) throws Exception {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        ExecutorService threads = Executors.newFixedThreadPool(2);
        List<Future<Outcome>> both = new ArrayList<>();
        CyclicBarrier start = new CyclicBarrier(2);
        for (int i = 0; i < 2; i++) {
            both.add(threads.submit(() -> {
                start.await();
                return vacancy.execute(Request.softDelete("boat").key(1).withoutConfirmation("at once"));
            }));
        }
        List<String> states = new ArrayList<>();
        for (Future<Outcome> each : both) {
            states.add(each.get(60, TimeUnit.SECONDS).state().word());
        }
        threads.shutdown();

        // Whoever comes second finds it marked, or is told that somebody else holds it; never marks it again.
        assertThat(states).containsOnlyOnce("done").allMatch(state -> List.of("done", "nothing", "busy", "changed")
                .contains(state));
        assertThat(database.number("SELECT COUNT(DISTINCT left_receipt) FROM boat"))
                .isEqualTo(1);
    }

    @OnEveryEngine
    void aChildAddedToASoftDeletedRowIsFoundByTheCheck(Engine engine) {
        Database database = build(engine);
        Vacancy vacancy = open(database, rules());
        Preview seen = vacancy.preview(Request.softDelete("boat").key(1));
        database.run("INSERT INTO mooring (id, boat_id) VALUES (98, 1)");
        Outcome outcome = vacancy.execute(seen, seen.question().answer("yes"));
        vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();
        // No foreign key stops this one, since the boat is still there.
        database.run("INSERT INTO mooring (id, boat_id) VALUES (99, 1)");

        assertThat(outcome.state().word()).isEqualTo("changed");
        assertThat(vacancy.tables().advisor().all())
                .filteredOn(advice -> advice.kind() == Advice.Kind.ACTIVE_CHILDREN)
                .extracting(Advice::relation)
                .containsExactly("mooring.boat_id");
    }

    @OnEveryEngine
    void sparingScopePermissionAndTheCallersTransactionHoldForMarkingToo(Engine engine) throws SQLException {
        Database database = build(engine);
        RuleBook rules = RuleBook.build(book -> {
            write(book);
            book.deletion("sold", d -> d.from("boat").where(column("name").equalTo("Boat 4")));
        });
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .clock(NOON)
                .scope(() -> table ->
                        table.name().name().equals("boat") ? column("id").lessThan(4) : null)
                .permission((who, table, act) ->
                        act == Permission.Act.RESTORE ? who + " may not " + act.words() + " " + table : null)
                .open();

        Outcome outside = vacancy.execute(
                vacancy.request("sold", Map.of(), Mode.SOFT_DELETE).withoutConfirmation("a test"));
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            Outcome inside = vacancy.within(connection)
                    .execute(Request.softDelete("boat").key(1).expect(1));
            assertThat(inside.state().word()).isEqualTo("done");
            connection.rollback();
        }
        assertThat(database.count("boat WHERE left_on IS NOT NULL")).isZero();
        database.run("DELETE FROM inspection WHERE boat_id = 2");
        Receipt skipped = vacancy.execute(Request.softDelete("boat")
                        .keys(1, 2, 3, 4)
                        .rule("inspection.boat_id", "block:seen by the insurer")
                        .onBlocked(OnBlocked.SKIP)
                        .withoutConfirmation("a test"))
                .receiptOrThrow();
        Outcome back = vacancy.execute(Request.restore("boat").key(2).withoutConfirmation("a test"));

        assertThat(outside.state().word()).isEqualTo("nothing");
        assertThat(skipped.rows()).isEqualTo(1);
        assertThat(skipped.skipped().rows()).isEqualTo(2);
        assertThat(database.count("boat WHERE left_on IS NOT NULL AND id = 2")).isEqualTo(1);
        assertThat(back.message()).startsWith("Mira Holm may not restore rows of boat");
    }

    @OnEveryEngine
    void aMarkerThatCannotWorkIsToldAtOnce(Engine engine) {
        Database database = build(engine);
        database.run(
                "CREATE VIEW moored AS SELECT * FROM mooring WHERE state = 'moored'",
                "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY, state VARCHAR(9) DEFAULT 'gone', sunk_on DATE NOT"
                        + " NULL, seen_on DATE DEFAULT '2020-01-01', twice INTEGER GENERATED ALWAYS AS (id * 2)"
                        + (List.of(Engine.H2, Engine.OTHER).contains(engine) ? "" : " STORED") + ")");

        wrong(database, "boat", Marker.date("left_no"), "did you mean left_on?");
        wrong(database, "boat", Marker.date("name"), "neither a date nor a time");
        wrong(database, "buoy", Marker.date("sunk_on"), "cannot be NULL");
        wrong(database, "buoy", Marker.date("seen_on"), "by default, so new rows would be soft-deleted");
        wrong(
                database,
                "buoy",
                Marker.status("state", "gone", "afloat"),
                "by default, so new rows would be soft-deleted");
        wrong(database, "buoy", Marker.flag("twice", 1, 2), "the database computes it");
        wrong(database, "note", Marker.flag("active", "N", "N"), "the same value");
        wrong(database, "note", Marker.flag("active", "Y", "deleted"), "cannot be a value of note.active");
        wrong(database, "moored", Marker.status("state", "gone", "moored"), "The view moored cannot have a marker");
        assertThatThrownBy(() -> Marker.versions(List.of("no"), "valid_from", (String) null))
                .hasMessageContaining("end is null");
        wrong(database, "boat", Marker.date("left_on").who("id"), "no text");
        wrong(database, "boat", Marker.date("left_on"), "Say what becomes of them when it is soft-deleted");
        database.run(
                "CREATE TABLE slip (a INTEGER NOT NULL, b INTEGER NOT NULL, gone DATE, PRIMARY KEY (a, b))",
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, a INTEGER, b INTEGER, c INTEGER,"
                        + " FOREIGN KEY (a, b) REFERENCES slip (a, b), FOREIGN KEY (a, c) REFERENCES slip (a, b))");
        Rule moved = Rule.reassignTo(Key.of("a", 1, "b", 1));
        assertThatThrownBy(() ->
                        open(database, RuleBook.build(book -> book.table("slip", t -> t.marker(Marker.date("gone")))
                                .whenSoftDeleted("stay(a,b)", moved)
                                .whenSoftDeleted("stay(a,c)", moved))))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("both write stay.a");
    }

    private static void wrong(Database database, String table, Marker marker, String message) {
        RuleBook rules = RuleBook.build(
                book -> book.table(table, t -> t.marker(marker)).relation("mooring.boat_id", Rule.cascade()));
        assertThatThrownBy(() -> open(database, rules))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining(message);
    }

    /** A value in a text that is kept means the same in every mode of the engine, and never ends before it should. */
    @OnEveryEngine
    void valuesInTextsAreQuotedForEveryModeOfTheEngine(Engine engine) throws SQLException {
        Database database = engine.fresh();
        String word = "o'r \\";
        database.run("CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, state VARCHAR(40) NOT NULL)");
        try (Connection connection = database.connect();
                PreparedStatement insert = connection.prepareStatement("INSERT INTO berth VALUES (?, ?)")) {
            for (int i = 1; i <= 3; i++) {
                insert.setInt(1, i);
                insert.setString(2, i == 1 ? word : i == 2 ? "free" : "' OR 1 = 1 -- ");
                insert.execute();
            }
        }
        Vacancy vacancy = open(
                database,
                RuleBook.build(
                        book -> book.table("berth", t -> t.marker(Marker.status("state", "gone", word, "free")))));
        String view = vacancy.tables().activeView("berth", "active_berth");
        String other = vacancy.tables().activeView("berth", "active_berth_2");

        database.run(view);
        String mode = engine == Engine.MARIADB
                ? "SET SESSION sql_mode = CONCAT(@@sql_mode, ',NO_BACKSLASH_ESCAPES')"
                : engine == Engine.POSTGRESQL ? "SET standard_conforming_strings = off" : null;
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            if (mode != null) {
                statement.execute(mode);
            }
            statement.execute(other);
        }

        assertThat(database.count("active_berth WHERE id IN (1, 2)")).isEqualTo(2);
        assertThat(database.count("active_berth")).isEqualTo(2);
        assertThat(database.count("active_berth_2")).isEqualTo(2);
        for (String alias : List.of("x; DROP TABLE berth", "x y", "1x", "x\"", "")) {
            assertThatThrownBy(() -> vacancy.tables().activeSql("berth", alias)).isInstanceOf(MisuseException.class);
        }
    }
}
