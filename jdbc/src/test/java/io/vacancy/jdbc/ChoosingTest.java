// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.condition.RelativeTime;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Limits;
import io.vacancy.request.Request;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.ValueKind;
import java.time.Clock;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.LongStream;
import java.util.stream.Stream;

class ChoosingTest {

    private static final Request FEES = Request.delete("fee").everyRow();

    private static Vacancy with(Bench bench, RuleBook rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .clock(Clock.fixed(Instant.parse("2026-05-02T10:00:00Z"), ZoneId.of("UTC")))
                .open();
    }

    private static List<Object> ids(Vacancy vacancy, Request request) {
        try (Stream<Row> rows = vacancy.rows(request)) {
            return rows.map(row -> row.get("id")).sorted().toList();
        }
    }

    @OnEveryEngine
    void aConditionTakesItsRowsAndWhatHangsOnThem(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Request left = Request.delete("mooring")
                .where(SearchCondition.read("left_on < DATE '2026-01-01' AND boat_id IN (15, 16)"));

        Preview seen = bench.vacancy().preview(left);
        long before = bench.count("mooring");
        Receipt receipt =
                bench.vacancy().execute(seen, seen.question().answer("yes")).receiptOrThrow();

        assertThat(seen.question().title()).contains("where left_on < DATE '2026-01-01' AND boat_id IN (15, 16)");
        assertThat(receipt.rows()).isPositive().isEqualTo(before - bench.count("mooring"));
        assertThat(bench.count("mooring WHERE left_on < '2026-01-01' AND boat_id IN (15, 16)"))
                .isZero();
        assertThat(receipt.effects())
                .extracting("table")
                .extracting(Object::toString)
                .contains("fee");
    }

    @OnEveryEngine
    void todayIsTheDayOfTheClock(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, RuleBook.empty());

        List<Object> recent = ids(
                vacancy,
                Request.delete("mooring")
                        .where(column("left_on").atLeast(RelativeTime.today().minus(30, ChronoUnit.DAYS))));

        assertThat(recent).hasSize((int) bench.count("mooring WHERE left_on >= '2026-04-02'"));
        assertThat(ids(
                        vacancy,
                        Request.delete("logbook_entry")
                                .where(column("written_at").before(RelativeTime.now()))))
                .hasSize((int) bench.count("logbook_entry WHERE written_at < '2026-05-02 10:00:00'"));
    }

    @OnEveryEngine
    void letterCaseIsForWhoAsksToSay(Engine engine) {
        Bench bench = Bench.harbour(engine);

        assertThat(ids(
                        bench.vacancy(),
                        Request.delete("skipper").where(column("email").equalToInAnyCase("MIRA@harbour.example"))))
                .containsExactly(1L);
    }

    @OnEveryEngine
    void aMatchMeansExactlyOneRow(Engine engine) {
        Bench bench = Bench.harbour(engine);

        Preview none = bench.vacancy().preview(Request.delete("skipper").matching("email", "nobody@harbour.example"));
        Preview one = bench.vacancy().preview(Request.delete("fee").matching(Map.of("mooring_id", 501)));
        Preview several = bench.vacancy().preview(Request.delete("boat").matching("harbour_id", "7"));

        assertThat(none.state()).isEqualTo(State.NOTHING);
        assertThat(one.impact().selected()).isEqualTo(bench.count("fee WHERE mooring_id = 501"));
        assertThat(several.state()).isEqualTo(State.REFUSED);
        assertThat(several.refusal()).contains("match where harbour_id = '7'").contains("exactly one");
        assertThat(several.records()).hasSize((int) bench.count("boat WHERE harbour_id = 7"));
    }

    @OnEveryEngine
    void listedKeysCountOnceAndMissingOnesAreTold(Engine engine) {
        Bench bench = Bench.harbour(engine);
        List<Object> keys = new ArrayList<>(List.of(701, "702", 701L, 703));
        LongStream.rangeClosed(90_001, 90_030).forEach(keys::add);

        Preview seen = bench.vacancy().preview(Request.delete("fee").keys(keys.stream()));

        assertThat(seen.impact().selected()).isEqualTo(3);
        assertThat(seen.missing().rows()).isEqualTo(30);
        assertThat(seen.missing().sample()).hasSize(20);
        try (Stream<Row> all = bench.vacancy().missing(Request.delete("fee").keys(keys))) {
            assertThat(all.map(row -> row.get("id")).toList())
                    .containsExactlyInAnyOrderElementsOf(
                            LongStream.rangeClosed(90_001, 90_030).boxed().toList());
        }
    }

    @OnEveryEngine
    void manyKeysAreTheSameAsFew(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "CREATE TABLE digit (n INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9)",
                "INSERT INTO buoy (id) SELECT a.n + 10 * b.n + 100 * c.n + 1000 * d.n"
                        + " FROM digit a CROSS JOIN digit b CROSS JOIN digit c CROSS JOIN digit d");
        // Every third one, each given twice, and as many that are not there.
        Request thirds = Request.delete("buoy")
                .keys(LongStream.concat(LongStream.range(0, 6_667), LongStream.range(0, 6_667))
                        .mapToObj(i -> i * 3));

        Preview seen = bench.vacancy().preview(thirds);
        Outcome outcome = bench.vacancy().execute(seen, seen.question().answer("yes"));

        assertThat(seen.impact().selected()).isEqualTo(3_334);
        assertThat(seen.missing().rows()).isEqualTo(3_333);
        assertThat(seen.missing().sample().get(0).get("id")).isEqualTo(10_002L);
        assertThat(outcome.receiptOrThrow().rows()).isEqualTo(3_334);
        assertThat(outcome.receiptOrThrow().records()).isEmpty();
        assertThat(bench.count("buoy WHERE MOD(id, 3) = 0")).isZero();
        assertThat(bench.count("buoy")).isEqualTo(6_666);
    }

    @OnEveryEngine
    void codeDecidesOnEachRowAndNothingIsSkipped(Engine engine) {
        Bench bench = Bench.harbour(engine);
        long odd = bench.count("fee WHERE MOD(id, 2) = 1");
        List<Object> asked = new ArrayList<>();

        Receipt receipt = bench.vacancy()
                .execute(FEES.filter(row -> {
                            asked.add(row.get("id"));
                            return ((Long) row.get("id")) % 2 == 1;
                        })
                        .withoutConfirmation("odd ones"))
                .receiptOrThrow();

        assertThat(receipt.rows()).isEqualTo(odd).isPositive();
        assertThat(bench.count("fee WHERE MOD(id, 2) = 1")).isZero();
        assertThat(asked).hasSizeGreaterThanOrEqualTo((int) (odd + bench.count("fee")));
    }

    @OnEveryEngine
    void theFirstRowsInAnOrder(Engine engine) {
        Bench bench = Bench.harbour(engine);
        long dearest = bench.database().number("SELECT id FROM fee ORDER BY amount DESC, id LIMIT 1");

        Preview seen = bench.vacancy().preview(FEES.limit(1).orderByDescending("amount"));

        assertThat(seen.records()).extracting(row -> row.get("id")).containsExactly(dearest);
        assertThat(bench.vacancy().preview(FEES.limit(3)).records())
                .extracting(row -> row.get("id"))
                .containsExactlyElementsOf(ids(bench.vacancy(), FEES).subList(0, 3));
        assertThatThrownBy(() -> bench.vacancy().preview(FEES.orderBy("amount")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("no number of rows");
    }

    @OnEveryEngine
    void theStricterOfTwoGuardsWins(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.table("fee", fee -> fee.atMost(2))
                .table("power_reading", reading -> reading.limits(Limits.NONE.atMostPercent(50)))
                .table("yard", yard -> yard.neverEmpty())));
        Request three = FEES.limit(3);

        assertThat(refusal(vacancy, three.atMost(10))).contains("3 rows of fee").contains("at most 2");
        assertThat(refusal(vacancy, FEES.limit(2).atMost(1))).contains("at most 1");
        assertThat(vacancy.preview(FEES.limit(2).atMost(10)).state()).isEqualTo(State.READY);
        assertThat(refusal(vacancy, Request.delete("mooring").key(503).atMostInAll(1)))
                .contains("would be deleted in total");
        assertThat(refusal(vacancy, Request.delete("power_reading").everyRow())).contains("50 per cent");
        assertThat(refusal(vacancy, Request.delete("fee").keys(701, 702).expect(1)))
                .contains("1 row of fee was expected");
        Outcome emptied = with(bench, RuleBook.build(book -> book.table("radio_message", table -> table.neverEmpty())))
                .execute(Request.truncate("radio_message").withoutConfirmation("spring cleaning"));
        assertThat(emptied.message()).contains("never to be emptied");
        assertThat(bench.count("radio_message")).isPositive();
    }

    private static String refusal(Vacancy vacancy, Request request) {
        Preview preview = vacancy.preview(request);
        assertThat(preview.state()).isEqualTo(State.REFUSED);
        return preview.refusal();
    }

    @OnEveryEngine
    void everyRowIsAskedForByTheTablesNameAlsoWhereAConditionMeansIt(Engine engine) {
        Bench bench = Bench.harbour(engine);
        long fees = bench.count("fee");

        Preview every = bench.vacancy().preview(FEES);
        Preview always = bench.vacancy()
                .preview(Request.delete("fee")
                        .where(column("paid").isNull().or(column("paid").isNotNull())));
        Preview some =
                bench.vacancy().preview(Request.delete("fee").where(column("id").notEqualTo(701)));

        assertThat(every.question().strength()).isEqualTo(Strength.TABLE);
        assertThat(every.question().title()).isEqualTo("Erase every row of fee, all " + fees + " rows?");
        assertThat(always.question().strength()).isEqualTo(Strength.TABLE);
        assertThat(some.question().strength()).isEqualTo(Strength.YES_NO);
        assertThat(bench.vacancy().execute(every, every.question().answer("yes")))
                .isInstanceOf(Outcome.Declined.class);
        assertThat(bench.vacancy()
                        .execute(every, every.question().answer("fee"))
                        .receiptOrThrow()
                        .rows())
                .isEqualTo(fees);
        assertThat(bench.count("fee")).isZero();
    }

    @OnEveryEngine
    void aTableIsEmptiedAtOnceOnlyIfNothingRefersToIt(Engine engine) {
        Bench bench = Bench.harbour(engine);
        long messages = bench.count("radio_message");

        Preview boats = bench.vacancy().preview(Request.truncate("boat"));
        Preview radio = bench.vacancy().preview(Request.truncate("radio_message"));
        List<Row> taken = new ArrayList<>();
        Outcome outcome = bench.vacancy()
                .onEachRow(taken::add)
                .execute(radio, radio.question().answer("radio_message"));

        assertThat(boats.state()).isEqualTo(State.REFUSED);
        assertThat(boats.refusal()).contains("mooring.boat_id").contains("refer to it");
        assertThat(radio.question().title()).isEqualTo("Empty table radio_message at once, all " + messages + " rows?");
        assertThat(outcome.receiptOrThrow().rows()).isEqualTo(messages);
        assertThat(taken).hasSize((int) messages);
        assertThat(bench.count("radio_message")).isZero();
        assertThatThrownBy(() -> Request.truncate("radio_message").limit(2)).isInstanceOf(MisuseException.class);
    }

    @OnEveryEngine
    void theQuestionIsAsStrongAsTheRuleBookSays(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.question("power_reading", Strength.NONE)
                .question(2, Strength.COUNT)
                .question("boat", Strength.LABEL)
                .questionForEveryRow(Strength.COUNT)
                .table("boat", boat -> boat.label("{name} ({registration})"))));

        assertThat(vacancy.preview(Request.delete("power_reading").key(9001))
                        .question()
                        .strength())
                .isEqualTo(Strength.NONE);
        Preview boat = vacancy.preview(Request.delete("boat").key(17));
        assertThat(boat.question().awaited()).isEqualTo("Osprey (HV-204)");
        assertThat(vacancy.preview(FEES.limit(3)).question().awaited()).isEqualTo("3");
        assertThat(vacancy.preview(FEES.limit(2)).question().strength()).isEqualTo(Strength.YES_NO);
        assertThat(vacancy.preview(FEES).question().awaited()).isEqualTo(Long.toString(bench.count("fee")));
        Preview withoutConfirmation =
                vacancy.preview(Request.delete("power_reading").key(9001));
        assertThat(vacancy.execute(
                        withoutConfirmation, withoutConfirmation.question().answer(null)))
                .isInstanceOf(Outcome.Done.class);
    }

    @OnEveryEngine
    void aNamedDeletionWantsItsParameters(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(
                bench,
                RuleBook.build(book -> book.deletion("old-moorings", old -> old.from("mooring")
                        .where(column("left_on").before(parameter("before")))
                        .parameter("before", ValueKind.DATE)
                        .atMost(1_000)
                        .because("kept for two years"))));

        Request old = vacancy.request("old-moorings", Map.of("before", LocalDate.of(2026, 1, 1)));

        assertThat(ids(vacancy, old)).hasSize((int) bench.count("mooring WHERE left_on < '2026-01-01'"));
        Receipt receipt = vacancy.execute(old.withoutConfirmation("nightly")).receiptOrThrow();
        assertThat(receipt.deletion()).isEqualTo("old-moorings");
        assertThat(receipt.because()).isEqualTo("kept for two years");
        assertThatThrownBy(() -> vacancy.request("old-moorings", Map.of()))
                .hasMessageContaining("requires a value for before");
        assertThatThrownBy(() -> vacancy.request("old-moorings", Map.of("befor", "2020-01-01")))
                .hasMessageContaining("did you mean before?");
        assertThatThrownBy(() -> vacancy.request("old-moorings", Map.of("before", "soon")))
                .hasMessageContaining("\"soon\" cannot be the value of before");
        assertThatThrownBy(() -> vacancy.preview(
                        Request.delete("mooring").where(column("left_on").before(parameter("before")))))
                .hasMessageContaining("parameter before");
    }

    @OnEveryEngine
    void afterANoTheSameRequestIsNarrowed(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Request wide = Request.delete("fee").where(column("paid").is(true));
        Preview seen = bench.vacancy().preview(wide);
        assertThat(bench.vacancy().execute(seen, seen.question().answer("no"))).isInstanceOf(Outcome.Declined.class);

        Preview narrowed = bench.vacancy().preview(wide.and(column("id").lessThan(703)));

        assertThat(narrowed.impact().selected())
                .isEqualTo(bench.count("fee WHERE paid AND id < 703"))
                .isLessThan(seen.impact().selected());
    }

    @OnEveryEngine
    void wrongConditionsAreToldBeforeAnySql(Engine engine) {
        Vacancy vacancy = Bench.harbour(engine).vacancy();

        assertThatThrownBy(() -> vacancy.preview(
                        Request.delete("mooring").where(column("arrives_on").before("2020-01-01"))))
                .hasMessageContaining("arrives_on is not in table mooring; did you mean arrived_on?");
        assertThatThrownBy(() -> vacancy.preview(
                        Request.delete("mooring").where(column("arrived_on").before("tomorrow"))))
                .hasMessageContaining("\"tomorrow\" cannot be a value of mooring.arrived_on");
        assertThatThrownBy(() -> vacancy.preview(
                        Request.delete("mooring").where(column("id").equalTo("99999999999999999999"))))
                .hasMessageContaining("beyond the range");
        assertThatThrownBy(() -> Request.delete("mooring").keys(List.of())).hasMessageContaining("nothing is selected");
    }
}
