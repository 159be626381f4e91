// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.test.VacancyAssertions.assertThat;
import static io.vacancy.test.VacancyAssertions.assertThatPreviewOf;

import io.vacancy.Vacancy;
import io.vacancy.preview.Action;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.test.MemorySchema;
import io.vacancy.test.MemoryStore;
import org.junit.jupiter.api.Test;

/** An application's rules, tested without a database. */
class RulesOfTheHarbourTest {

    private final RuleBook rules = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
            .relation("fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade())
            .relation("work_order.boat_id", Rule.setNull()));

    private final MemoryStore store = MemoryStore.of(new MemorySchema()
                    .table("boat", "id integer key", "name text")
                    .table("mooring", "id integer key", "boat_id integer")
                    .table("fee", "id integer key", "mooring_id integer", "paid boolean null")
                    .table("work_order", "id integer key", "boat_id integer null")
                    .relation("mooring", "boat_id", "boat")
                    .relation("fee", "mooring_id", "mooring")
                    .relation("work_order", "boat_id", "boat")
                    .build())
            .insert("boat", 17, "Osprey")
            .insert("boat", 18, "Tern")
            .insert("mooring", 170, 17)
            .insert("mooring", 180, 18)
            .insert("fee", 1700, 170, true)
            .insert("fee", 1800, 180, null)
            .insert("work_order", 5, 17);

    private final Vacancy vacancy =
            Vacancy.on(store).rules(rules).actor(() -> "a test").open();

    @Test
    void aBoatIsDeletedWithItsMooringsAndTheirPaidFees() {
        assertThatPreviewOf(vacancy, Request.erase("boat").key(17))
                .isReady()
                .deletes("boat", 1)
                .deletes("mooring", 1)
                .deletes("fee", 1)
                .unlinks("work_order", 1)
                .leavesOtherTablesAlone();
    }

    @Test
    void anUnpaidFeeStopsIt() {
        assertThatPreviewOf(vacancy, Request.erase("boat").key(18))
                .isBlockedBy("fee.mooring_id", 1)
                .leavesAlone("work_order");
    }

    @Test
    void whatWasShownIsWhatIsDone() {
        assertThat(vacancy.execute(Request.erase("boat").key(17).expect(1))).isDone(Action.DELETE, 3);
    }

    @Test
    void everyRelationIsDecided() {
        assertThat(vacancy.rules()).decideEveryRelation().haveNoProblems();
    }
}
