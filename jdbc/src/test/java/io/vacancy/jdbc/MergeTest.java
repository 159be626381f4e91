// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission.Act;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Key;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.TrailEntry;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.stream.Stream;

/** Two rows that are one: what refers to the one refers to the other, and the one is deleted. */
class MergeTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, badge VARCHAR(10) UNIQUE, name VARCHAR(40), town INTEGER,"
                + " left_on DATE, met INTEGER, FOREIGN KEY (met) REFERENCES skipper (id))",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER NOT NULL, second_id INTEGER, town INTEGER,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id), FOREIGN KEY (second_id) REFERENCES skipper (id))",
        "CREATE TABLE permit (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER NOT NULL, pier INTEGER, town INTEGER,"
                + " UNIQUE (skipper_id, pier), FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE stamp (id INTEGER NOT NULL PRIMARY KEY, permit_id INTEGER NOT NULL,"
                + " FOREIGN KEY (permit_id) REFERENCES permit (id))",
        "CREATE TABLE visit (id INTEGER NOT NULL PRIMARY KEY, badge VARCHAR(10), FOREIGN KEY (badge) REFERENCES skipper (badge))",
        "CREATE TABLE profile (skipper_id INTEGER NOT NULL PRIMARY KEY, FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "INSERT INTO skipper VALUES (1, 'A1', 'Mira Holm', 1, NULL, NULL), (2, 'A2', 'Mira Holms', 1, NULL, NULL),"
                + " (3, NULL, 'Ada Vik', 2, NULL, 2)",
        "INSERT INTO boat VALUES (10, 1, 2, 1), (11, 2, NULL, 1), (12, 2, 2, 1), (13, 3, NULL, 2)",
        "INSERT INTO permit VALUES (20, 1, 7, 1), (21, 2, 7, 1), (22, 2, 8, 1), (23, 2, NULL, 1), (24, 1, NULL, 1)",
        "INSERT INTO visit VALUES (30, 'A2'), (31, 'A1')",
        "INSERT INTO stamp VALUES (40, 21)"
    };

    private static Request twoIntoOne() {
        return Request.merge("skipper").key(2).into(1);
    }

    @OnEveryEngine
    void everyChildRowGetsTheRowThatStaysAndAllComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("DELETE FROM stamp", "DELETE FROM permit WHERE id = 21");
        bench.vacancy().archive().setUp();

        Preview preview = bench.vacancy().preview(twoIntoOne());
        Receipt receipt = Bench.done(bench.vacancy(), twoIntoOne()).receiptOrThrow();

        assertThat(preview.question().title()).isEqualTo("Merge skipper Mira Holms (id 2) into Mira Holm (id 1)?");
        assertThat(preview.totals()).isEqualTo(Map.of(Action.DELETE, 1L, Action.REASSIGN, 8L));
        assertThat(receipt.operation()).isEqualTo(OperationKind.MERGE);
        assertThat(bench.count("skipper WHERE id = 2")).isZero();
        assertThat(bench.count("boat WHERE skipper_id = 1")).isEqualTo(3);
        assertThat(bench.count("boat WHERE second_id = 1")).isEqualTo(2);
        assertThat(bench.count("permit WHERE skipper_id = 1")).isEqualTo(4);
        assertThat(bench.count("visit WHERE badge = 'A1'")).isEqualTo(2);
        assertThat(bench.count("skipper WHERE met = 1")).isEqualTo(1);
        try (Stream<TrailEntry> entries = bench.vacancy().history().open()) {
            assertThat(entries.toList()).extracting(TrailEntry::kind).contains(TrailEntry.Kind.MERGE);
        }

        Outcome back = Bench.done(bench.vacancy(), Request.restore(receipt.id()));

        assertThat(back.state().word()).isEqualTo("done");
        assertThat(bench.count("boat WHERE skipper_id = 2")).isEqualTo(2);
        assertThat(bench.count("boat WHERE second_id = 2")).isEqualTo(2);
        assertThat(bench.count("permit WHERE skipper_id = 2")).isEqualTo(2);
        assertThat(bench.count("visit WHERE badge = 'A2'")).isEqualTo(1);
        assertThat(bench.count("skipper WHERE met = 2")).isEqualTo(1);
    }

    @OnEveryEngine
    void rowsThatWouldCollideBlockOrAreDeletedAsDuplicates(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("INSERT INTO profile VALUES (1)", "INSERT INTO profile VALUES (2)");
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();

        Preview blocked = vacancy.preview(twoIntoOne());
        Request permits = Request.merge("skipper")
                .key(2)
                .deletingDuplicates("permit.skipper_id")
                .into(1)
                .rule("stamp.permit_id", "cascade");
        Request all = Request.merge("skipper")
                .key(2)
                .deletingDuplicates("permit.skipper_id", "profile.skipper_id")
                .into(1)
                .rule("stamp.permit_id", "cascade");
        Preview half = vacancy.preview(permits);
        Receipt receipt = Bench.done(vacancy, all).receiptOrThrow();

        assertThat(blocked.state()).isEqualTo(State.BLOCKED);
        assertThat(blocked.blockers())
                .extracting(blocker -> blocker.relation() + " " + blocker.rows())
                .containsExactlyInAnyOrder("permit.skipper_id 2", "profile.skipper_id 2");
        assertThat(half.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.relation())
                .isEqualTo("profile.skipper_id"));
        assertThat(receipt.totals().get(Action.DELETE)).isEqualTo(4);
        assertThat(receipt.rules()).containsOnlyKeys("permit.skipper_id", "profile.skipper_id", "stamp.permit_id");
        assertThat(bench.count("permit")).isEqualTo(4);
        assertThat(bench.count("permit WHERE skipper_id = 1")).isEqualTo(4);
        assertThat(bench.count("stamp")).isZero();
        assertThat(bench.count("profile")).isEqualTo(1);

        assertThat(Bench.done(vacancy, Request.restore(receipt.id())).state().word())
                .isEqualTo("done");
        assertThat(bench.count("permit WHERE skipper_id = 2")).isEqualTo(3);
        assertThat(bench.count("profile")).isEqualTo(2);
        assertThat(bench.count("stamp")).isEqualTo(1);
    }

    @OnEveryEngine
    void aRowWithoutTheValueThatIsReferredToTakesNothingOver(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);

        Preview preview =
                bench.vacancy().preview(Request.merge("skipper").key(2).into(3));

        assertThat(preview.blockers())
                .extracting(blocker -> blocker.relation() + ": " + blocker.reason())
                .containsExactlyInAnyOrder(
                        "skipper.met: it would refer to itself",
                        "visit.badge: the skipper that stays has no value for them to refer to");
    }

    @OnEveryEngine
    void whatIsNotThereIsNotMergedInto(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();

        assertThatThrownBy(() -> vacancy.preview(Request.merge("skipper").key(2).into(9)))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Table skipper has no row 9 to merge into.");
        assertThat(vacancy.preview(Request.merge("skipper").key(2).into(2)).refusal())
                .isEqualTo("The row is the one that it is to be merged into.");
        assertThat(vacancy.preview(Request.merge("skipper")
                                .matching(Map.of("town", 1))
                                .into(3))
                        .refusal())
                .isEqualTo("2 rows of skipper are selected, and one is merged at a time.");
        assertThat(vacancy.preview(Request.merge("skipper").key(9).into(1)).state())
                .isEqualTo(State.NOTHING);
        assertThatThrownBy(() -> vacancy.preview(Request.merge("skipper")
                        .key(2)
                        .deletingDuplicates("stamp.permit_id")
                        .into(1)))
                .hasMessage("Rows of skipper have no child rows by stamp.permit_id, so it has no duplicates.");
        assertThat(bench.count("skipper")).isEqualTo(3);
    }

    @OnEveryEngine
    void scopePermissionAndNeverDeletedHold(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("DELETE FROM stamp", "DELETE FROM permit WHERE id = 21");
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .scope(() -> Scope.where("town", 1).open("stamp", "visit", "profile"))
                .open();
        Vacancy forbidden = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .permission((who, table, act) -> act == Act.MERGE ? "Merging is for the harbour master." : null)
                .open();
        RuleBook never = RuleBookFile.read("version: 1\ntables:\n  skipper: {never-deleted: true}\n", "rules");

        assertThatThrownBy(() -> scoped.preview(Request.merge("skipper").key(2).into(3)))
                .hasMessageContaining("has no row 3 to merge into");
        // A skipper of another town met the one who is merged, and is not for this scope to change.
        assertThat(scoped.preview(twoIntoOne()).state()).isEqualTo(State.BLOCKED);
        assertThat(Bench.done(forbidden, twoIntoOne()).message()).contains("Merging is for the harbour master.");
        assertThat(bench.with(never).preview(twoIntoOne()).refusal()).isEqualTo("Rows of skipper are never deleted.");
    }

    @OnEveryEngine
    void whereRowsAreSoftDeletedTheMergedOneIsMarked(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("DELETE FROM stamp", "DELETE FROM permit WHERE id = 21");
        RuleBook rules = RuleBookFile.read("""
                version: 1
                tables:
                  skipper: {mode: soft-delete, marker: {date: left_on}}
                relations:
                  boat.skipper_id: {soft-delete: {block: "it has a boat"}}
                  boat.second_id: {soft-delete: leave}
                  permit.skipper_id: {soft-delete: leave}
                  visit.badge: {soft-delete: leave}
                  profile.skipper_id: {soft-delete: leave}
                """, "rules");
        Vacancy vacancy = bench.with(rules);
        vacancy.archive().setUp();

        Receipt receipt = Bench.done(vacancy, twoIntoOne()).receiptOrThrow();

        assertThat(receipt.totals()).containsEntry(Action.SOFT_DELETE, 1L).containsEntry(Action.REASSIGN, 8L);
        assertThat(bench.count("skipper WHERE id = 2 AND left_on IS NOT NULL")).isEqualTo(1);
        assertThat(bench.count("boat WHERE skipper_id = 2 OR second_id = 2")).isZero();
        assertThatThrownBy(() -> vacancy.preview(Request.merge("skipper").key(1).into(2)))
                .hasMessageContaining("or it is marked as deleted");

        assertThat(Bench.done(vacancy, Request.restore(receipt.id())).state().word())
                .isEqualTo("done");
        assertThat(bench.count("skipper WHERE left_on IS NULL")).isEqualTo(3);
        assertThat(bench.count("boat WHERE skipper_id = 2")).isEqualTo(2);
    }

    @OnEveryEngine
    void childRowsWithoutAKeyAreMovedOrBlock(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE word (skipper_id INTEGER, said VARCHAR(9), UNIQUE (skipper_id, said),"
                        + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
                "INSERT INTO skipper VALUES (1), (2)",
                "INSERT INTO word VALUES (1, 'ahoy'), (2, 'ahoy'), (2, 'avast'), (2, NULL)");
        Request request = Request.merge("skipper")
                .key(2)
                .deletingDuplicates("word.skipper_id")
                .into(1);

        Preview preview = bench.vacancy().preview(request);

        if (preview.state() == State.BLOCKED) {
            assertThat(preview.blockers())
                    .allSatisfy(blocker -> assertThat(blocker.reason()).contains("no key to tell them apart by"));
            assertThat(engine).isEqualTo(Engine.MARIADB);
        } else {
            Bench.done(bench.vacancy(), request).receiptOrThrow();
            assertThat(bench.count("word WHERE skipper_id = 1")).isEqualTo(3);
            assertThat(bench.count("word")).isEqualTo(3);
        }
    }

    @OnEveryEngine
    void compositeKeysAreMergedToo(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE berth (pier INTEGER NOT NULL, no INTEGER NOT NULL, PRIMARY KEY (pier, no))",
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, pier INTEGER, no INTEGER,"
                        + " FOREIGN KEY (pier, no) REFERENCES berth (pier, no))",
                "INSERT INTO berth VALUES (1, 1), (1, 2)",
                "INSERT INTO stay VALUES (1, 1, 1), (2, 1, 2), (3, 1, NULL)");
        Request request = Request.merge("berth").key("pier=1,no=2").into(Key.of("pier", 1, "no", 1));

        Bench.done(bench.vacancy(), request).receiptOrThrow();

        assertThat(bench.count("stay WHERE no = 1")).isEqualTo(2);
        assertThat(bench.count("berth")).isEqualTo(1);
        assertThat(JsonReader.request(new JsonWriter().write(request)).operation())
                .hasToString(request.operation().toString());
    }

    @OnEveryEngine
    void whatChangesMeanwhileIsSeen(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("DELETE FROM stamp", "DELETE FROM permit WHERE id = 21");
        Preview shown = bench.vacancy().preview(twoIntoOne());

        bench.database().run("INSERT INTO boat VALUES (14, 2, NULL, 1)");
        Outcome changed = bench.vacancy()
                .execute(shown, shown.question().answer(shown.question().awaited()));
        assertThat(changed.state().word()).isEqualTo("changed");

        assertThat(bench.vacancy()
                        .execute(Request.merge("skipper").key(2).into(1).expect(1))
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(1);
        assertThat(bench.count("boat WHERE skipper_id = 1")).isEqualTo(4);
    }

    @OnEveryEngine
    void ofTwoWhoMergeTheSameTwoRowsOneIsTold(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        for (int round = 0; round < 15; round++) {
            bench.database()
                    .run("INSERT INTO skipper VALUES (100, 'X', 'x', 1, NULL, NULL), (101, 'Y', 'y', 1, NULL, NULL)");
            CyclicBarrier together = new CyclicBarrier(2);
            List<Callable<Outcome>> both =
                    List.of(() -> merging(bench, together, 100, 101), () -> merging(bench, together, 101, 100));
            ExecutorService threads = Executors.newFixedThreadPool(2);
            try {
                for (Future<Outcome> each : threads.invokeAll(both)) {
                    each.get();
                }
            } finally {
                threads.shutdown();
            }
            assertThat(bench.count("skipper WHERE id >= 100"))
                    .as("round " + round)
                    .isEqualTo(1);
            bench.database().run("DELETE FROM skipper WHERE id >= 100");
        }
    }

    private static Outcome merging(Bench bench, CyclicBarrier together, int key, int into) throws Exception {
        Request request = Request.merge("skipper").key(key).into(into).withoutConfirmation("a test");
        together.await();
        for (int attempt = 0; ; attempt++) {
            try {
                Outcome outcome = bench.vacancy().execute(request);
                if (!(outcome instanceof Outcome.Busy) || attempt == 9) {
                    return outcome;
                }
            } catch (MisuseException gone) {
                assertThat(gone).hasMessageContaining("to merge into");
                return new Outcome.Changed(List.of(gone.getMessage()));
            }
        }
    }

    @OnEveryEngine
    void aRowThatIsGoneMeanwhileIsNotMergedInto(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database()
                .run("INSERT INTO skipper VALUES (100, 'X', 'x', 1, NULL, NULL), (101, 'Y', 'y', 1, NULL, NULL)");
        Preview shown =
                bench.vacancy().preview(Request.merge("skipper").key(100).into(101));

        bench.database().run("DELETE FROM skipper WHERE id = 101");
        Outcome outcome = bench.vacancy().execute(shown, shown.question().answer("yes"));

        assertThat(outcome).isInstanceOf(Outcome.Changed.class);
        assertThat(bench.count("skipper WHERE id = 100")).isEqualTo(1);
    }

    @OnEveryEngine
    void aMergeHasNoRulesOfItsOwn(Engine engine) {
        assertThatThrownBy(() ->
                        Bench.of(engine, TABLES).vacancy().preview(twoIntoOne().rule("boat.skipper_id", "cascade")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("a merge gives its child rows to the row that stays");
        List<Runnable> unfit =
                List.of(() -> twoIntoOne().includingMarked(), () -> twoIntoOne().piece(List.of(1)));
        unfit.forEach(each -> assertThatThrownBy(each::run)
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("a request to merge"));
    }
}
