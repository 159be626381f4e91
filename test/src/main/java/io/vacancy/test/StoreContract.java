// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import static io.vacancy.test.VacancyAssertions.assertThat;
import static io.vacancy.test.VacancyAssertions.assertThatPreviewOf;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.RelatedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.spi.Store;
import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.stream.Stream;
import org.assertj.core.api.Assertions;
import org.junit.jupiter.api.Test;

/**
 * What every store has to do. A test class of a store extends it and says how one is made with some rows; each test makes
 * one anew.
 */
public abstract class StoreContract {

    /** A few tables of a harbour. */
    protected static final Schema SCHEMA = new MemorySchema()
            .table("skipper", "id integer key", "name text")
            .table("boat", "id integer key", "skipper_id integer null", "name text", "left_on date null")
            .table("mooring", "id integer key", "boat_id integer", "berth integer")
            .table("fee", "id integer key", "mooring_id integer", "paid boolean null")
            .table(
                    "work_order",
                    "id integer key",
                    "boat_id integer null",
                    "yard_id integer",
                    "mooring_id integer null",
                    "ended_on date null")
            .table("yard", "id integer key", "parent_id integer null")
            .relation("boat", "skipper_id", "skipper")
            .relation("mooring", "boat_id", "boat")
            .relation("fee", "mooring_id", "mooring")
            .relation("work_order", "boat_id", "boat")
            .relation("work_order", "yard_id", "yard")
            .relation("work_order", "mooring_id", "mooring")
            .relation("yard", "parent_id", "yard")
            .build();

    private static final RuleBook RULES =
            RuleBook.build(book -> book.relation("boat.skipper_id", Rule.block("still has a boat"))
                    .relation("mooring.boat_id", Rule.cascade())
                    .relation(
                            "fee.mooring_id",
                            Rule.when(ColumnRef.column("paid").isNot(true)).block("unpaid"),
                            Rule.cascade())
                    .relation("work_order.boat_id", Rule.setNull())
                    .relation("work_order.yard_id", Rule.reassign())
                    .relation("work_order.mooring_id", Rule.setNull())
                    .relation("yard.parent_id", Rule.cascade()));

    /** A store with the tables of {@link #SCHEMA} and these rows, parents before children. */
    protected abstract Store store(List<Row> rows);

    /** The rows of a table that are stored now. */
    protected abstract long count(Store store, String table);

    private Store open() {
        MemoryStore rows = MemoryStore.of(SCHEMA)
                .insert("skipper", 1, "Ada Lund")
                .insert("skipper", 2, "Bo Lund")
                .insert("boat", 17, 1, "Osprey", null)
                .insert("boat", 18, 1, "Tern", null)
                .insert("boat", 19, null, "Osprey", null)
                .insert("mooring", 170, 17, 3)
                .insert("mooring", 171, 17, 4)
                .insert("mooring", 180, 18, 5)
                .insert("fee", 1700, 170, true)
                .insert("fee", 1710, 171, true)
                .insert("fee", 1800, 180, null)
                .insert("yard", 1, null)
                .insert("yard", 2, 1)
                .insert("yard", 3, 2)
                .insert("yard", 4, null)
                .insert("work_order", 5, 17, 3, null, null)
                .insert("work_order", 6, 18, 4, 180, null);
        List<Row> all = new ArrayList<>();
        Stream.of("skipper", "boat", "mooring", "fee", "yard", "work_order")
                .forEach(table -> all.addAll(rows.rows(table)));
        return store(all);
    }

    private static Vacancy on(Store store) {
        return on(store, builder -> builder);
    }

    private static Vacancy on(Store store, UnaryOperator<Vacancy.Builder> further) {
        Vacancy vacancy = further.apply(Vacancy.on(store).rules(RULES).actor(() -> "Mira Holm"))
                .open();
        vacancy.archive().setUp();
        return vacancy;
    }

    private static Outcome answered(Vacancy vacancy, Preview preview) {
        return vacancy.execute(
                preview, preview.question().answer(preview.question().awaited()));
    }

    @Test
    void aPreviewCountsEverythingAndChangesNothing() {
        Store store = open();
        assertThatPreviewOf(on(store), Request.erase("boat").key(17))
                .isReady()
                .deletes("boat", 1)
                .deletes("mooring", 2)
                .deletes("fee", 2)
                .unlinks("work_order", 1)
                .leavesOtherTablesAlone();
        Assertions.assertThat(count(store, "boat")).isEqualTo(3);
    }

    @Test
    void rowsOfSeveralTablesGoTogetherAndNoneCountsTwice() {
        Store store = open();
        Vacancy vacancy = on(store);
        Request request = Request.erase("boat")
                .key(17)
                .plus(Request.erase("mooring").keys(170, 999))
                .plus(Request.erase("work_order").key(6));
        assertThatPreviewOf(vacancy, request)
                .isReady()
                .deletes("boat", 1)
                .deletes("mooring", 2)
                .deletes("fee", 2)
                .deletes("work_order", 1)
                .unlinks("work_order", 1)
                .leavesOtherTablesAlone();
        Outcome nothing = vacancy.execute(Request.erase("boat")
                .key(998)
                .plus(Request.erase("fee").key(999))
                .withoutConfirmation("a test"));
        Assertions.assertThat(nothing.message()).isEqualTo("Nothing of boat or fee is selected; nothing was changed.");
        Preview preview = vacancy.preview(request);
        Assertions.assertThat(preview.impact().selected()).isEqualTo(3);
        Assertions.assertThat(preview.missing().rows()).isEqualTo(1);
        Outcome outcome = answered(vacancy, preview);
        Assertions.assertThat(outcome.receiptOrThrow().selected().values()).containsExactly(1L, 1L, 1L);
        Assertions.assertThat(count(store, "boat")).isEqualTo(2);
        Outcome back = answered(
                vacancy,
                vacancy.preview(Request.restore(outcome.receiptOrThrow().id())));
        assertThat(back).isDone(Action.RESTORE, 6);
    }

    @Test
    void relatedRowsAreLookedFor() {
        Vacancy vacancy = on(open());
        assertThatPreviewOf(
                        vacancy,
                        Request.erase("mooring")
                                .where(RelatedRows.children("fee.mooring_id")
                                        .notExists(ColumnRef.column("paid").isNot(true))))
                .isReady()
                .deletes("mooring", 2)
                .deletes("fee", 2)
                .leavesOtherTablesAlone();
        Assertions.assertThat(vacancy.preview(Request.erase("yard")
                                .where(RelatedRows.parent("yard.parent_id")
                                        .exists(RelatedRows.parent("yard.parent_id")
                                                .exists())))
                        .records())
                .extracting(row -> row.get("id"))
                .containsExactly(3L);
    }

    @Test
    void aMergedRowGivesItsChildRowsAwayAndComesBack() {
        Store store = open();
        Vacancy vacancy = on(store);
        Outcome merged =
                answered(vacancy, vacancy.preview(Request.merge("boat").key(17).into(18)));
        assertThat(merged).isDone(Action.DELETE, 1).isDone(Action.REASSIGN, 3);
        Assertions.assertThat(
                        vacancy.preview(Request.erase("boat").key(18)).impact().totals())
                .containsEntry(Action.DELETE, 6L);
        assertThat(answered(
                        vacancy,
                        vacancy.preview(Request.restore(merged.receiptOrThrow().id()))))
                .isDone(Action.RESTORE, 1);
        Assertions.assertThatThrownBy(
                        () -> vacancy.preview(Request.merge("boat").key(17).into(20)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("has no row 20 to merge into");
    }

    @Test
    void aPersonIsForgottenByWhatEachTableSays() {
        RuleBook rules = RuleBook.build(book -> book.table("skipper", skipper -> skipper.person()
                        .blank("name", "skipper {id}")
                        .forget(Rule.blank()))
                .table("boat", boat -> boat.forget(Rule.keep("the register of boats"))));
        Store store = open();
        Vacancy vacancy = on(store, builder -> builder.rules(rules));
        Assertions.assertThat(belonging(vacancy)).startsWith("skipper 1").contains("boat 17", "boat 18");
        assertThatPreviewOf(vacancy, Request.forget("skipper").key(1))
                .blanks("skipper", 1)
                .keeps("boat", 2)
                .leavesOtherTablesAlone();
        assertThat(answered(vacancy, vacancy.preview(Request.forget("skipper").key(1))))
                .isDone(Action.BLANK, 1)
                .isDone(Action.KEEP, 2);
        Assertions.assertThat(belonging(vacancy)).contains("boat 17", "boat 18");
    }

    private static List<String> belonging(Vacancy vacancy) {
        try (Stream<Row> rows = vacancy.persons().data("skipper", 1)) {
            return rows.map(row -> row.table().name() + " " + row.get("id")).toList();
        }
    }

    @Test
    void whatIsPersonalIsBlankedAndTheRowStays() {
        RuleBook rules = RuleBook.build(book -> book.table("skipper", skipper -> skipper.blank("name", "skipper {id}"))
                .table("boat", boat -> boat.blank("name", "it's boat {id}."))
                .relation("boat.skipper_id", Rule.blank()));
        Store store = open();
        Vacancy vacancy = on(store, builder -> builder.rules(rules));
        assertThat(answered(vacancy, vacancy.preview(Request.blank("skipper").key(2))))
                .isDone(Action.BLANK, 1);
        assertThat(answered(vacancy, vacancy.preview(Request.erase("skipper").key(1))))
                .isDone(Action.DELETE, 1)
                .isDone(Action.SET_NULL, 2)
                .isDone(Action.BLANK, 2);
        try (Stream<Row> skippers = vacancy.rows(Request.erase("skipper").everyRow());
                Stream<Row> boats = vacancy.rows(Request.erase("boat")
                        .where(ColumnRef.column("skipper_id").isNull()))) {
            Assertions.assertThat(skippers.map(row -> row.text("name"))).containsExactly("skipper 2");
            Assertions.assertThat(boats.map(row -> row.text("name")))
                    .containsExactlyInAnyOrder("it's boat 17.", "it's boat 18.", "Osprey");
        }
    }

    @Test
    void whatWasShownIsDeleted() {
        Store store = open();
        Vacancy vacancy = on(store);
        assertThat(answered(vacancy, vacancy.preview(Request.erase("boat").key(17))))
                .isDone(Action.DELETE, 5)
                .isDone(Action.SET_NULL, 1);
        Assertions.assertThat(List.of(
                        count(store, "boat"), count(store, "mooring"), count(store, "fee"), count(store, "work_order")))
                .containsExactly(2L, 1L, 1L, 2L);
    }

    @Test
    void theFirstRuleThatIsTrueHoldsAndUnknownIsNotTrue() {
        Store store = open();
        Vacancy vacancy = on(store);
        assertThatPreviewOf(vacancy, Request.erase("boat").key(18)).isBlockedBy("fee.mooring_id", 1);
        assertThat(vacancy.execute(Request.erase("boat").key(18).expect(1))).is(Outcome.State.BLOCKED);
        Assertions.assertThat(count(store, "boat")).isEqualTo(3);
    }

    @Test
    void blockedRowsAreSkippedWhereThatIsAskedFor() {
        Store store = open();
        Vacancy vacancy = on(store);
        Request request = Request.erase("boat")
                .where(ColumnRef.column("skipper_id").equalTo(1))
                .onBlocked(OnBlocked.SKIP);
        assertThatPreviewOf(vacancy, request).isReady().deletes("boat", 1).skips(1);
        try (Stream<?> skipped = vacancy.skipped(request)) {
            Assertions.assertThat(skipped).hasSize(1);
        }
    }

    @Test
    void missingKeysAreToldApart() {
        Vacancy vacancy = on(open());
        assertThatPreviewOf(vacancy, Request.erase("boat").keys(List.of(17, 99, 99)))
                .deletes("boat", 1)
                .misses(1);
        assertThatPreviewOf(vacancy, Request.erase("boat").key(99)).isNothing();
        assertThat(vacancy.execute(Request.erase("boat").key(99).expect(1))).is(Outcome.State.NOTHING);
    }

    @Test
    void rowsThatReferToOneAnotherAreFollowedToTheLast() {
        Vacancy vacancy = on(open());
        assertThatPreviewOf(vacancy, Request.erase("yard").key(1).rule("work_order.yard_id", "reassign:4"))
                .isReady()
                .deletes("yard", 3)
                .reassigns("work_order", 1);
        assertThatPreviewOf(vacancy, Request.erase("yard").key(1).rule("work_order.yard_id", "reassign:2"))
                .isBlockedBy("work_order.yard_id", 1);
    }

    @Test
    void anExpectedCountIsHeldTo() {
        Store store = open();
        Vacancy vacancy = on(store);
        Request osprey = Request.erase("boat").where(ColumnRef.column("name").equalTo("Osprey"));
        assertThat(vacancy.execute(osprey.expect(1))).is(Outcome.State.REFUSED);
        assertThat(vacancy.execute(osprey.expect(2))).isDone(Action.DELETE, 6);
        assertThatThrownBy(() -> vacancy.execute(Request.erase("boat").key(17))).isInstanceOf(MisuseException.class);
    }

    @Test
    void whatChangedSinceThePreviewChangesNothing() {
        Store store = open();
        Vacancy vacancy = on(store);
        Preview preview = vacancy.preview(Request.erase("boat").keys(List.of(17, 19)));
        assertThat(vacancy.execute(Request.erase("boat").key(19).expect(1))).isDone();
        assertThat(answered(vacancy, preview)).is(Outcome.State.CHANGED);
        Assertions.assertThat(count(store, "boat")).isEqualTo(2);
    }

    @Test
    void aWrongAnswerDeclines() {
        Store store = open();
        Vacancy vacancy = on(store);
        Preview preview = vacancy.preview(Request.erase("boat").key(17));
        assertThat(vacancy.execute(preview, preview.question().answer("no"))).is(Outcome.State.DECLINED);
        Assertions.assertThat(count(store, "boat")).isEqualTo(3);
    }

    @Test
    void softDeletedRowsStayAndComeBack() {
        Store store = open();
        Vacancy vacancy = on(
                store,
                builder -> builder.rules(
                        RuleBook.build(book -> book.table("boat", table -> table.marker(Marker.date("left_on")))
                                .whenSoftDeleted("mooring.boat_id", Rule.leave())
                                .whenSoftDeleted("work_order.boat_id", Rule.leave()))));
        assertThat(vacancy.execute(Request.softDelete("boat").key(19).expect(1)))
                .isDone(Action.SOFT_DELETE, 1);
        Assertions.assertThat(count(store, "boat")).isEqualTo(3);
        assertThatPreviewOf(vacancy, Request.softDelete("boat").key(19)).isNothing();
        assertThat(vacancy.execute(Request.restore("boat").key(19).expect(1))).isDone(Action.RESTORE, 1);
        assertThatPreviewOf(vacancy, Request.softDelete("boat").key(19)).isReady();
    }

    @Test
    void removedRowsComeBackByTheirReceiptOnce() {
        Store store = open();
        Vacancy vacancy = on(store);
        Receipt receipt =
                vacancy.execute(Request.erase("boat").key(19).expect(1)).receiptOrThrow();
        Preview back = vacancy.preview(Request.restore(receipt.id()));
        assertThat(answered(vacancy, back)).isDone(Action.RESTORE, 1);
        Assertions.assertThat(count(store, "boat")).isEqualTo(3);
        assertThatThrownBy(() -> vacancy.preview(Request.restore(receipt.id()))).isInstanceOf(MisuseException.class);
    }

    @Test
    void theTrailHasWhatWasDoneAndWhatWasNot() {
        Vacancy vacancy = on(open());
        vacancy.execute(Request.erase("boat").key(19).because("sold").expect(1)).receiptOrThrow();
        vacancy.execute(Request.erase("boat").key(18).expect(1));
        try (Stream<String> told = vacancy.history()
                .open()
                .map(entry -> entry.kind().word() + " " + entry.ending().word())) {
            Assertions.assertThat(told).containsExactly("erase blocked", "erase done");
        }
        vacancy.trail().seal();
        Assertions.assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @Test
    void aRequestWithAnIdentityIsDoneOnce() {
        Store store = open();
        Vacancy vacancy = on(store);
        Request request = Request.erase("boat").key(19).id("sale-4711").expect(1);
        Receipt first = vacancy.execute(request).receiptOrThrow();
        Assertions.assertThat(vacancy.execute(request).receiptOrThrow().id()).isEqualTo(first.id());
        Assertions.assertThat(count(store, "boat")).isEqualTo(2);
    }

    /** The boat and its work orders are marked, its moorings are erased. */
    private static Vacancy marking(Store store, Rule workOrdersOfMoorings) {
        RuleBook rules = RuleBook.build(book -> book.table("boat", table -> table.marker(Marker.date("left_on")))
                .table("work_order", table -> table.marker(Marker.date("ended_on")))
                .whenSoftDeleted("mooring.boat_id", Rule.erase())
                .whenSoftDeleted("work_order.boat_id", Rule.cascade())
                .relation("fee.mooring_id", Rule.cascade())
                .relation("work_order.mooring_id", workOrdersOfMoorings));
        return on(store, builder -> builder.rules(rules));
    }

    @Test
    void whatIsOnlyMarkedStillRefersToWhatIsErased() {
        Store store = open();
        Request request = Request.softDelete("boat").key(18).expect(1);
        Vacancy blocking = marking(store, Rule.block("still ordered there"));
        assertThatPreviewOf(blocking, request).isBlockedBy("work_order.mooring_id", 1);
        assertThat(blocking.execute(request)).is(Outcome.State.BLOCKED);

        assertThat(marking(store, Rule.setNull()).execute(request))
                .isDone(Action.SOFT_DELETE, 2)
                .isDone(Action.DELETE, 2)
                .isDone(Action.SET_NULL, 1);
        Assertions.assertThat(List.of(count(store, "mooring"), count(store, "work_order")))
                .containsExactly(2L, 2L);
    }
}
