// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.VacancyException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.trail.TrailEntry;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Function;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Two tenants, each of whom tries everything on what belongs to the other. */
class ScopeAttackTest {

    private static final List<String> TABLES =
            List.of("boat", "mooring", "power_reading", "work_order", "tariff", "wage");

    /** What belongs to a tenant bears a word that only its own texts may have. */
    private static String word(int tenant) {
        return tenant == 7 ? "seven" : "eight";
    }

    private static Database build(Engine engine) {
        Database database = engine.fresh();
        // Without quotes, so that H2 has them in upper case.
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL,"
                        + " name VARCHAR(40) NOT NULL UNIQUE, left_on DATE)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, place VARCHAR(40),"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE power_reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER, note VARCHAR(40),"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id))",
                "CREATE TABLE work_order (id INTEGER NOT NULL PRIMARY KEY, harbour_id INTEGER NOT NULL, boat_id INTEGER,"
                        + " text VARCHAR(40), ended_on DATE DEFAULT '9999-12-31' NOT NULL, FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE tariff (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
                "CREATE TABLE wage (id INTEGER NOT NULL PRIMARY KEY, amount INTEGER)",
                "INSERT INTO tariff VALUES (1, 'day')",
                "INSERT INTO wage VALUES (1, 4711)");
        for (int tenant : List.of(7, 8)) {
            for (int i = 1; i <= 4; i++) {
                int id = tenant * 10 + i;
                String name = word(tenant) + " " + i;
                database.run(
                        "INSERT INTO boat VALUES (" + id + ", " + tenant + ", '" + name + "', NULL)",
                        "INSERT INTO mooring VALUES (" + id + ", " + id + ", '" + name + "')",
                        "INSERT INTO power_reading VALUES (" + id + ", " + id + ", '" + name + "')",
                        "INSERT INTO work_order VALUES (" + id + ", " + tenant + ", " + id + ", '" + name
                                + "', '9999-12-31')");
            }
        }
        return database;
    }

    private static final RuleBook RULES = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
            .relation("power_reading.mooring_id", Rule.cascade())
            .relation("work_order.boat_id", Rule.setNull())
            .table("tariff", table -> table.personal("name").person().forget(Rule.blank()))
            .table("work_order", table -> table.marker(Marker.endDate("ended_on", "9999-12-31"))));

    private static Vacancy open(Database database, Scope scope) {
        return Vacancy.on(JdbcStore.of(database.source()))
                .rules(RULES)
                .scope(() -> scope)
                // Both have the same name, as a shared account of an office has.
                .actor(() -> "Mira Holm")
                .open();
    }

    private static Scope of(int tenant) {
        return Scope.where("harbour_id", tenant)
                .through("power_reading.mooring_id", "mooring.boat_id")
                .through("mooring.boat_id")
                .open("tariff");
    }

    private interface Attempt {
        Object by(Vacancy attacker);
    }

    private static Object executed(Vacancy attacker, Request request) {
        return attacker.execute(request.withoutConfirmation("an attack"));
    }

    private static <T> List<T> all(Stream<T> stream) {
        try (stream) {
            return stream.toList();
        }
    }

    /** Everything that can be tried on rows, receipts, images and holds of somebody else. */
    private static Map<String, Attempt> attempts(int victim, Receipt erased, Receipt marked, Hold hold) {
        Map<String, Attempt> attempts = new LinkedHashMap<>();
        for (int i = 1; i <= 4; i++) {
            int key = victim * 10 + i;
            for (String table : TABLES.subList(0, 4)) {
                String at = table + " " + key;
                attempts.put(
                        "preview " + at, who -> who.preview(Request.erase(table).key(key)));
                attempts.put(
                        "erase " + at, who -> executed(who, Request.erase(table).key(key)));
                attempts.put(
                        "skip " + at,
                        who -> executed(who, Request.erase(table).key(key).onBlocked(OnBlocked.SKIP)));
                attempts.put(
                        "rows " + at, who -> all(who.rows(Request.erase(table).key(key))));
                attempts.put(
                        "missing " + at,
                        who -> all(who.missing(Request.erase(table).key(key))).size());
                attempts.put(
                        "restore row " + at,
                        who -> executed(who, Request.restore(table).key(key)));
                attempts.put(
                        "purge row " + at,
                        who -> executed(who, Request.purge(table).key(key)));
                attempts.put("image " + at, who -> who.image(erased.id(), table, key));
                attempts.put(
                        "history " + at, who -> all(who.history().of(table, key).open()));
                attempts.put("hold " + at, who -> who.archive().holdRow(table, key, "mine now"));
            }
            attempts.put(
                    "mark " + key,
                    who -> executed(who, Request.softDelete("work_order").key(key)));
            attempts.put(
                    "name " + key,
                    who -> who.preview(
                            Request.erase("boat").where(column("name").equalTo(word(victim) + " " + i(key)))));
            attempts.put(
                    "move to " + key,
                    who -> executed(
                            who,
                            Request.erase("boat")
                                    .key((15 - victim) * 10 + 4)
                                    .rule("work_order.boat_id", "reassign:" + key)));
        }
        for (Receipt receipt : List.of(erased, marked)) {
            ReceiptId id = receipt.id();
            String of = " " + receipt.operation();
            attempts.put("receipt" + of, who -> who.receipt(id));
            attempts.put("documents" + of, who -> who.archive().documents(id));
            attempts.put("preview restore" + of, who -> who.preview(Request.restore(id)));
            attempts.put("restore" + of, who -> executed(who, Request.restore(id)));
            attempts.put("purge" + of, who -> executed(who, Request.purge(id)));
            attempts.put("hold" + of, who -> who.archive().holdReceipt(id, "mine now"));
            attempts.put("history" + of, who -> all(who.history().receipt(id).open()));
            attempts.put(
                    "archived" + of,
                    who -> all(who.archive().rows(ArchiveQuery.all().withUsed().receipts(List.of(id)))));
            attempts.put("continue" + of, who -> who.continuing(id)
                    .execute(Request.erase("boat").key((15 - victim) * 10 + 3).withoutConfirmation("an attack")));
        }
        attempts.put(
                "everything archived",
                who -> all(who.archive().rows(ArchiveQuery.all().withUsed())));
        attempts.put("purge all", who -> executed(who, Request.purge("boat").everyRow()));
        attempts.put("all history", who -> all(who.history().open()));
        attempts.put("history of a table", who -> all(who.history().of("boat").open()));
        attempts.put("holds", who -> who.archive().holds());
        attempts.put("hold a table", who -> who.archive().holdTable("boat", "mine now"));
        attempts.put("release", who -> {
            who.archive().release(hold.number());
            return "released";
        });
        attempts.put("truncate", who -> executed(who, Request.truncate("boat")));
        attempts.put("wages", who -> who.preview(Request.erase("wage").key(1)));
        attempts.put("wage rows", who -> all(who.rows(Request.erase("wage").key(1))));
        attempts.put("wage counts", who -> who.tables().counts(List.of(TableName.of("wage"))));
        attempts.put("orphans", who -> who.tables().orphans());
        attempts.put("due", who -> who.archive().due());
        return attempts;
    }

    private static int i(int key) {
        return key % 10;
    }

    @OnEveryEngine
    void nothingOfTheOtherTenantIsSeenOrTouched(Engine engine) throws SQLException {
        Database database = build(engine);
        open(database, Scope.everything()).archive().setUp();
        int tried = 0;
        for (int victim : List.of(7, 8)) {
            Vacancy own = open(database, of(victim));
            int gone = victim * 10 + 1;
            Receipt erased =
                    own.execute(Request.erase("boat").key(gone).expect(1)).receiptOrThrow();
            Receipt marked = own.execute(
                            Request.softDelete("work_order").key(gone + 1).expect(1))
                    .receiptOrThrow();
            Hold hold = own.archive().holdRow("boat", gone + 1, word(victim) + " is in court");
            Vacancy attacker = open(database, of(15 - victim));
            String victims = dump(database, victim);

            for (Map.Entry<String, Attempt> attempt :
                    attempts(victim, erased, marked, hold).entrySet()) {
                String told;
                try {
                    told = text(attempt.getValue().by(attacker));
                } catch (VacancyException refused) {
                    told = refused.getMessage();
                }
                tried++;
                // What was asked for by its words may be repeated; what was found may not.
                if (!attempt.getKey().startsWith("name ")) {
                    assertThat(told).as("%s on %s", attempt.getKey(), engine).doesNotContain(word(victim));
                }
                assertThat(dump(database, victim))
                        .as("%s on %s", attempt.getKey(), engine)
                        .isEqualTo(victims);
            }
            assertThat(own.receipt(erased.id())).isPresent();
            assertThat(all(own.history().of("boat", gone).open())).hasSize(1);
            assertThat(all(own.archive().rows(ArchiveQuery.all()))).isNotEmpty();
            assertThat(own.archive().holds()).singleElement().satisfies(mine -> assertThat(mine.number())
                    .isEqualTo(hold.number()));
            own.archive().release(hold.number());
            assertThat(own.execute(Request.restore(erased.id()).withoutConfirmation("own rows")))
                    .isInstanceOf(Outcome.Done.class);
        }
        assertThat(tried).isGreaterThan(300);
    }

    /** All that was found, with everything in it. */
    private static String text(Object found) {
        if (found instanceof Outcome outcome) {
            return new io.vacancy.json.JsonWriter().write(outcome) + outcome.message();
        }
        return found instanceof Preview preview
                ? new io.vacancy.json.JsonWriter().write(preview) + preview.impact()
                : String.valueOf(found);
    }

    /** What belongs to a tenant, also in the archive. */
    private static String dump(Database database, int tenant) throws SQLException {
        Map<String, String> all = new TreeMap<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (String table : TABLES.subList(0, 4)) {
                try (ResultSet rows = statement.executeQuery("SELECT * FROM " + table + " ORDER BY id")) {
                    while (rows.next()) {
                        if (rows.getInt("id") / 10 == tenant) {
                            StringBuilder row = new StringBuilder();
                            for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                                row.append(rows.getString(i)).append(' ');
                            }
                            all.put(table + rows.getInt("id"), row.toString());
                        }
                    }
                }
            }
            for (String query : List.of(
                    "SELECT COUNT(*) FROM vacancy_hold WHERE released_at IS NULL AND because LIKE '" + word(tenant)
                            + "%'",
                    "SELECT COUNT(*) FROM vacancy_hold WHERE because = 'mine now'",
                    "SELECT COALESCE(SUM(rows_left), 0) FROM vacancy_line l JOIN vacancy_receipt r ON r.receipt_no ="
                            + " l.receipt_no WHERE r.table_name = 'boat'")) {
                try (ResultSet rows = statement.executeQuery(query)) {
                    rows.next();
                    all.put(query, rows.getString(1));
                }
            }
        }
        return all.toString();
    }

    @OnEveryEngine
    void aForeignRowIsLikeNoRowAtAll(Engine engine) {
        Database database = build(engine);
        Vacancy attacker = open(database, of(7));
        attacker.archive().setUp();
        for (String table : TABLES.subList(0, 4)) {
            Function<Integer, String> asked =
                    key -> text(attacker.preview(Request.erase(table).key(key)))
                            .replaceAll("\"fingerprint\":\"[^\"]*\"", "")
                            .replace(String.valueOf(key), "KEY")
                            .replaceAll("fingerprint=[0-9a-f-]*", "");
            assertThat(asked.apply(81)).isEqualTo(asked.apply(99));
        }
    }

    @OnEveryEngine
    void aScopeThatSaysNothingIsAnError(Engine engine) {
        Database database = build(engine);
        assertThatThrownBy(() -> open(database, Scope.where("habour_id", 7))
                        .preview(Request.erase("boat").key(81)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("No table has the column habour_id");
        assertThatThrownBy(() -> open(database, Scope.where("harbour_id", 7))
                        .preview(Request.erase("mooring").key(81)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("is closed");
        assertThatThrownBy(() -> open(database, Scope.where("harbour_id", 7).through("power_reading.mooring_id"))
                        .preview(Request.erase("boat").key(71)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("which has no column");
        assertThatThrownBy(() -> open(
                                database,
                                Scope.where("harbour_id", 7).through("mooring.boat_id", "power_reading.mooring_id"))
                        .preview(Request.erase("boat").key(71)))
                .isInstanceOf(MisuseException.class);
        // What hangs on a row in a closed table stands in the way, and is not told.
        Preview closed = open(database, Scope.where("harbour_id", 7))
                .preview(Request.erase("boat").key(71));
        assertThat(closed.blockers()).containsExactly(Blocker.hidden(closed.table()));
        assertThat(open(database, Scope.where("HARBOUR_ID", "7"))
                        .preview(Request.softDelete("work_order").key(81))
                        .state())
                .isEqualTo(Preview.State.NOTHING);
    }

    @OnEveryEngine
    void nothingIsWrittenOutsideTheScope(Engine engine) {
        Database database = build(engine);
        Vacancy own = open(database, of(7));
        Request away = Request.replace("work_order")
                .key(71)
                .with(Map.of("id", 779, "harbour_id", 8))
                .fromNow();
        assertThat(own.preview(away).blockers()).singleElement().satisfies(blocker -> assertThat(blocker.reason())
                .isEqualTo("its successor would be outside your scope"));
        assertThat(own.execute(away.expect(1))).isInstanceOf(Outcome.Blocked.class);
        assertThat(database.count("work_order")).isEqualTo(8);
        assertThat(own.execute(Request.replace("work_order")
                        .key(71)
                        .with(Map.of("id", 779))
                        .fromNow()
                        .expect(1)))
                .isInstanceOf(Outcome.Done.class);
        // A reading comes back to its mooring, but not to one that somebody else has by now.
        own.archive().setUp();
        Receipt reading =
                own.execute(Request.erase("mooring").key(72).expect(1)).receiptOrThrow();
        database.run("UPDATE boat SET harbour_id = 8 WHERE id = 72");
        assertThat(own.preview(Request.restore(reading.id())).state()).isEqualTo(Preview.State.BLOCKED);
        database.run("UPDATE boat SET harbour_id = 7 WHERE id = 72");
        assertThat(own.execute(Request.restore(reading.id()).withoutConfirmation("back")))
                .isInstanceOf(Outcome.Done.class);
    }

    @OnEveryEngine
    void everyActIsAskedForBeforeAnythingIsRead(Engine engine) {
        Database database = build(engine);
        Vacancy all = open(database, Scope.everything());
        all.archive().setUp();
        Receipt erased = all.execute(Request.erase("boat").key(71).expect(1)).receiptOrThrow();
        Hold hold = all.archive().holdRow("boat", 72, "in court");
        Vacancy twoEyes = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RuleBook.build(book -> book.approval(ApprovalEntry.ANY)))
                .actor(() -> "Mira Holm")
                .open();
        OpenQuestion question = twoEyes.questions()
                .open(twoEyes.preview(Request.erase("tariff").where(column("id").equalTo(1))));
        assertThat(twoEyes.questions().answer(question.id(), question.question().awaited()))
                .get()
                .isInstanceOf(Outcome.Waiting.class);
        List<String> asked = new ArrayList<>();
        AtomicBoolean looks = new AtomicBoolean();
        Permission nobody = (who, table, act) -> {
            asked.add(act.name());
            return act == Act.LOOK && looks.get() ? null : "No.";
        };
        Vacancy actor = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RULES)
                .actor(() -> "Tavi Orn")
                .permission(nobody)
                .open();
        Map<Act, Attempt> acts = new LinkedHashMap<>();
        acts.put(Act.LOOK, who -> who.preview(Request.erase("boat").key(72)).state());
        acts.put(Act.ERASE, who -> executed(who, Request.erase("boat").key(72)));
        acts.put(
                Act.SOFT_DELETE,
                who -> executed(who, Request.softDelete("work_order").key(72)));
        acts.put(
                Act.REPLACE,
                who -> executed(
                        who,
                        Request.replace("work_order")
                                .key(72)
                                .with(Map.of("id", 779))
                                .fromNow()));
        acts.put(Act.MERGE, who -> {
            // The row that stays is read first, by those who may look.
            Request merge = Request.merge("boat").key(72).into(73);
            assertThatThrownBy(() -> who.preview(merge)).hasMessage("No.");
            looks.set(true);
            try {
                return executed(who, merge);
            } finally {
                looks.set(false);
            }
        });
        acts.put(Act.BLANK, who -> executed(who, Request.blank("tariff").key(1)));
        acts.put(Act.FORGET, who -> executed(who, Request.forget("tariff").key(1)));
        acts.put(Act.CHANGE_LINKS, who -> executed(who, Request.unlinkOrphans("work_order.boat_id")));
        acts.put(Act.APPROVE, who -> who.questions().waiting());
        acts.put(Act.RESTORE, who -> executed(who, Request.restore("boat").key(71)));
        acts.put(Act.PURGE, who -> executed(who, Request.purge("boat").key(71)));
        acts.put(Act.TRUNCATE, who -> executed(who, Request.truncate("tariff")));
        acts.put(Act.DROP, who -> executed(who, Request.drop("tariff")));
        acts.put(Act.HOLD, who -> who.archive().holdRow("boat", 73, "why not"));
        acts.put(Act.RELEASE, who -> {
            who.archive().release(hold.number());
            return "";
        });
        acts.put(Act.READ_ARCHIVE, who -> who.receipt(erased.id()));
        acts.put(Act.READ_HISTORY, who -> all(who.history().open()));
        assertThat(acts.keySet()).containsExactlyInAnyOrder(Act.values());
        acts.forEach((act, attempt) -> {
            asked.clear();
            String told;
            try {
                told = text(attempt.by(actor));
            } catch (VacancyException refused) {
                told = refused.getMessage();
            }
            assertThat(told).as("%s", act).doesNotContain("seven").doesNotContain("eight");
            if (act != Act.RELEASE) {
                assertThat(asked).as("%s", act).contains(act.name());
            }
        });
        assertThat(database.count("boat")).isEqualTo(7);
        assertThat(all(actor.archive().rows(ArchiveQuery.all()))).isEmpty();
        assertThat(actor.archive().holds()).isEmpty();
        assertThat(all.archive().holds()).hasSize(1);
    }

    @OnEveryEngine
    void whoSeesEverythingIsToldEverything(Engine engine) {
        Database database = build(engine);
        open(database, Scope.everything()).archive().setUp();
        open(database, of(7)).execute(Request.erase("boat").key(71).expect(1));
        Vacancy all = open(database, Scope.everything());
        assertThat(all(all.archive().rows(ArchiveQuery.all())).stream()
                        .map(ArchivedRows::table)
                        .map(TableName::name)
                        .map(name -> name.toLowerCase(java.util.Locale.ROOT))
                        .collect(Collectors.toSet()))
                .contains("boat", "mooring", "power_reading");
        List<TrailEntry> entries = all(all.history().open());
        assertThat(entries).hasSize(1);
        List<Row> seen = all(all.rows(Request.erase("boat").everyRow()));
        assertThat(seen).hasSize(7);
    }
}
