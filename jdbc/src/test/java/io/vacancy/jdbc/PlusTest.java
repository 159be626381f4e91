// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.json.PreviewDocument;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.TrailEntry;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Rows of several tables under one question. */
class PlusTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40))",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), skipper_id INTEGER, left_on DATE,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, since INTEGER, follows INTEGER,"
                + " FOREIGN KEY (boat_id) REFERENCES boat (id), FOREIGN KEY (follows) REFERENCES mooring (id))",
        "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER, amount INTEGER,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "INSERT INTO skipper VALUES (1, 'Tavi Orn'), (2, 'Mira Holm'), (3, 'Jonas Brandt')",
        "INSERT INTO boat VALUES (1, 'Osprey', 1, NULL), (2, 'Merlin', 2, NULL), (3, 'Kestrel', 3, NULL)",
        "INSERT INTO mooring VALUES (11, 1, 2019, NULL), (12, 1, 2024, 11), (21, 2, 2019, NULL), (31, 3, 2020, NULL)",
        "INSERT INTO fee VALUES (10, 1, 30), (11, 1, 40), (20, 2, 5)"
    };

    private static final String RULES = """
            version: 1
            relations:
              boat.skipper_id: cascade
              mooring.boat_id: cascade
              mooring.follows: cascade
              fee.skipper_id: {block: "is still in the books"}
            """;

    private static Request boatsAndOldMoorings() {
        return Request.delete("boat")
                .key(1)
                .plus(Request.delete("mooring").where(column("since").lessThan(2020)));
    }

    @OnEveryEngine
    void nothingCountsTwiceAndAllComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();

        Preview preview = vacancy.preview(boatsAndOldMoorings());

        assertThat(Bench.written(preview.effects()))
                .containsExactly("delete boat null 1", "delete mooring null 2", "delete mooring mooring.boat_id 1");
        assertThat(preview.impact().selected()).isEqualTo(3);
        assertThat(preview.title()).isEqualTo("Erase boat Osprey (id 1) and 2 rows of mooring where since < 2020");
        assertThat(preview.records()).extracting(row -> row.get("id")).containsExactlyInAnyOrder(1L, 11L, 21L);
        Receipt receipt =
                Bench.done(vacancy, boatsAndOldMoorings().because("sold")).receiptOrThrow();
        assertThat(receipt.totals()).containsExactly(Map.entry(Action.DELETE, 4L));
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(bench.count("mooring")).isEqualTo(1);
        TrailEntry entry = vacancy.history().of("mooring", 21).page(1).entries().get(0);
        assertThat(entry.affected()).extracting(AffectedRows::table).containsExactly("boat", "mooring", "mooring");
        assertThat(entry.selected()).isEqualTo("by 1 key, and mooring where since < 2020");

        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(bench.count("mooring WHERE follows = 11 OR since = 2019")).isEqualTo(3);
    }

    @OnEveryEngine
    void whatIsSelectedIsNotInTheWay(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        Request skipper = Request.delete("skipper").key(1);

        assertThat(vacancy.preview(skipper).state()).isEqualTo(State.BLOCKED);
        assertThat(vacancy.preview(skipper.plus(Request.delete("fee").key(10))).blockers())
                .singleElement()
                .satisfies(blocker -> assertThat(blocker.rows()).isEqualTo(1));
        Request all =
                skipper.plus(Request.delete("fee").where(column("skipper_id").equalTo(1)));
        assertThat(Bench.done(vacancy, all)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("fee")).isEqualTo(1);
        assertThat(bench.count("boat WHERE id = 1")).isZero();
    }

    @OnEveryEngine
    void oneQuestionIsForAllOfItOrNothing(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        Request request =
                Request.delete("boat").keys(3, 77).plus(Request.delete("fee").keys(20, 88));
        Preview preview = vacancy.preview(request);
        assertThat(preview.missing().rows()).isEqualTo(2);
        try (Stream<Row> missing = vacancy.missing(request)) {
            assertThat(missing.map(row -> row.table() + " " + row.get("id"))).containsExactly("boat 77", "fee 88");
        }

        bench.database().run("UPDATE fee SET amount = 6 WHERE id = 20");
        assertThat(vacancy.execute(
                        preview, preview.question().answer(preview.question().awaited())))
                .isInstanceOf(Outcome.Changed.class);
        assertThat(bench.count("boat")).isEqualTo(3);

        Outcome blocked = vacancy.execute(Request.delete("boat")
                .key(3)
                .plus(Request.delete("skipper").key(2))
                .withoutConfirmation("a test"));
        assertThat(blocked).isInstanceOf(Outcome.Blocked.class);
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void rowsOfOneTableAreMarkedAndOfAnotherErased(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with("""
                version: 1
                tables:
                  boat: {mode: soft-delete, marker: {date: left_on}}
                relations:
                  mooring.boat_id: {rules: cascade, soft-delete: leave}
                """);
        vacancy.archive().setUp();
        Request request =
                Request.delete("boat").key(1).plus(Request.delete("fee").everyRow());

        Preview preview = vacancy.preview(request);
        assertThat(preview.title())
                .isEqualTo("Mark as deleted boat Osprey (id 1) and erase every row of fee, all 3 rows");
        assertThat(preview.question().awaited()).isEqualTo("fee");
        Receipt receipt = Bench.done(vacancy, request).receiptOrThrow();

        assertThat(bench.count("boat WHERE left_on IS NOT NULL")).isEqualTo(1);
        assertThat(bench.count("fee")).isZero();
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("boat WHERE left_on IS NULL")).isEqualTo(3);
        assertThat(bench.count("fee")).isEqualTo(3);
    }

    @OnEveryEngine
    void marksOfSeveralTablesComeBackTogether(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("ALTER TABLE fee ADD COLUMN gone DATE");
        Vacancy vacancy = bench.with("""
                version: 1
                tables:
                  boat: {mode: soft-delete, marker: {date: left_on}}
                  fee: {mode: soft-delete, marker: {date: gone}}
                relations:
                  mooring.boat_id: {rules: cascade, soft-delete: leave}
                """);
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(
                        vacancy,
                        Request.delete("boat")
                                .keys(1, 2)
                                .plus(Request.delete("fee").keys(10, 20)))
                .receiptOrThrow();
        assertThat(receipt.totals()).containsExactly(Map.entry(Action.SOFT_DELETE, 4L));

        Preview back = vacancy.preview(Request.restore(receipt.id()));
        assertThat(Bench.written(back.effects())).containsExactly("restore boat null 2", "restore fee null 2");
        vacancy.execute(back, back.question().answer(back.question().awaited())).receiptOrThrow();
        assertThat(bench.count("boat WHERE left_on IS NULL")).isEqualTo(3);
        assertThat(bench.count("fee WHERE gone IS NULL")).isEqualTo(3);
    }

    @OnEveryEngine
    void limitsAreOfAllOfItAndThoseOfATableOfItsRows(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES + """
                tables:
                  fee: {at-most: 1}
                """);
        Request three = Request.delete("boat")
                .key(3)
                .plus(Request.delete("mooring").key(21))
                .plus(Request.delete("fee").key(20));
        assertThat(vacancy.execute(three.expect(2))).isInstanceOf(Outcome.Refused.class);
        assertThat(vacancy.preview(three.atMost(2)).refusal())
                .isEqualTo(
                        "The selection has 3 rows of boat and mooring and fee, and at most 2 may be deleted at once.");
        assertThat(vacancy.preview(three.atMostPercent(30)).refusal()).contains("of the 3 rows of boat");
        assertThat(vacancy.preview(Request.delete("boat")
                                .key(3)
                                .plus(Request.delete("fee").keys(10, 20)))
                        .refusal())
                .isEqualTo("The selection has 2 rows of fee, and at most 1 may be deleted at once.");
        assertThat(vacancy.execute(three.expect(3))).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("mooring")).isEqualTo(2);
    }

    @OnEveryEngine
    void keysThatARelationLedToAreNoAnswerToWhatWasAskedFor(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Preview preview = bench.with(RULES).preview(Request.delete("mooring").keys(11, 99));
        assertThat(preview.missing().rows()).isEqualTo(1);
        assertThat(bench.with(RULES)
                        .preview(Request.delete("mooring").key(11))
                        .missing()
                        .rows())
                .isZero();
    }

    @OnEveryEngine
    void whoMayNotDeleteOneOfThemDeletesNone(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Request request =
                Request.delete("boat").key(3).plus(Request.delete("fee").key(20));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Tavi Orn")
                .permission((who, table, act) -> table.toString().equals("fee") ? "Fees are for others." : null)
                .open();
        assertThat(vacancy.preview(request).refusal()).isEqualTo("Fees are for others.");
        assertThat(vacancy.preview(request).records()).isEmpty();
        assertThat(vacancy.execute(request.withoutConfirmation("a test"))).isInstanceOf(Outcome.Refused.class);
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThatThrownBy(() -> vacancy.rows(request)).hasMessage("Fees are for others.");
    }

    @OnEveryEngine
    void whoMayNotSeeOneOfTheTablesIsNotToldOfItsRows(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Bench.done(vacancy, boatsAndOldMoorings());
        Vacancy reader = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Jonas Brandt")
                .permission((who, table, act) -> table.is("mooring") ? "Moorings are for others." : null)
                .open();

        TrailEntry entry = reader.history().of("boat", 1).page(1).entries().get(0);
        assertThat(entry.affected()).extracting(AffectedRows::table).containsExactly("boat");
        assertThat(entry.selected()).isEmpty();
        assertThat(entry.confirmation()).isNull();
    }

    @OnEveryEngine
    void aQuestionOfItIsKeptAndAnswered(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        OpenQuestion question = vacancy.questions().open(vacancy.preview(boatsAndOldMoorings()));

        assertThat(question.request().others()).singleElement().hasToString("delete mooring");
        Preview preview =
                vacancy.preview(boatsAndOldMoorings().plus(Request.delete("fee").keys(10, 88)));
        PreviewDocument read = new JsonReader(vacancy.schema()).preview(new JsonWriter().write(preview));
        assertThat(read.impact()).isEqualTo(preview.impact());
        assertThat(read.impact().selected()).isEqualTo(4);
        assertThat(vacancy.questions().answer(question.id(), "yes")).get().isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("mooring")).isEqualTo(1);
    }

    @OnEveryEngine
    void theSameIdentityIsForTheSameRowsOnly(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(RULES);
        vacancy.archive().setUp();
        Request request = boatsAndOldMoorings().id("sold-1").withoutConfirmation("a test");
        Receipt receipt = vacancy.execute(request).receiptOrThrow();

        assertThat(vacancy.execute(request).receiptOrThrow().id()).isEqualTo(receipt.id());
        Request alone = Request.delete("boat").key(1).id("sold-1").withoutConfirmation("a test");
        assertThatThrownBy(() -> vacancy.execute(alone)).isInstanceOf(MisuseException.class);
        assertThat(receipt.rows()).isEqualTo(3);
        assertThat(receipt.selected().toString()).isEqualTo("{boat=1, mooring=2}");
        assertThat(vacancy.receipt(receipt.id()).orElseThrow().selected()).isEqualTo(receipt.selected());
    }

    @OnEveryEngine
    void whatCannotBeAddedUpIsSaid(Engine engine) {
        Vacancy vacancy = Bench.of(engine, TABLES).with(RULES);
        Request boat = Request.delete("boat").key(1);
        assertThatThrownBy(
                        () -> vacancy.preview(boat.plus(Request.delete("boat").key(2))))
                .hasMessageContaining("Rows of boat are selected twice in one request.");
        assertThatThrownBy(() -> boat.plus(Request.erase("fee").key(10)))
                .hasMessageContaining("A request to erase cannot be added to one to delete.");
        assertThatThrownBy(() -> boat.plus(Request.delete("fee").key(10).because("sold")))
                .hasMessageContaining("says more than which rows are meant");
        assertThatThrownBy(() -> Request.blank("boat")
                        .key(1)
                        .plus(Request.blank("skipper").key(1)))
                .isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> boat.onBlocked(OnBlocked.SKIP)
                        .plus(Request.delete("fee").key(10)))
                .isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> boat.plus(Request.delete("fee").key(10)).onBlocked(OnBlocked.SKIP))
                .isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> boat.plus(Request.delete("fee").key(10)).piece(List.of(1)))
                .isInstanceOf(MisuseException.class);
        assertThat(boat.plus(Request.delete("fee")
                                .key(10)
                                .plus(Request.delete("mooring").key(11)))
                        .others())
                .hasSize(2);
    }
}
