// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.RuleBookException;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

class RulesTest {

    @OnEveryEngine
    void theFirstRuleThatIsTrueForAChildRowHolds(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(
                bench,
                book -> book.relation(
                        "fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade()));

        // Boat 17 has a fee that is not paid; boat 14 one where nobody knows, which is not paid either.
        Preview unpaid = vacancy.preview(Request.delete("boat").key(17));
        Preview unknown = vacancy.preview(Request.delete("mooring").key(503));

        assertThat(unpaid.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.reason()).isEqualTo("unpaid");
            assertThat(blocker.sample().get(0).get("id")).isEqualTo(708L);
        });
        assertThat(DeletionTest.lines(unpaid.effects())).contains("delete fee 2 fee.mooring_id");
        assertThat(unknown.state()).isEqualTo(Preview.State.BLOCKED);

        bench.database().run("UPDATE fee SET paid = TRUE");
        assertThat(vacancy.execute(Request.delete("boat").key(17).expect(1))).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("fee")).isEqualTo(6);
    }

    @OnEveryEngine
    void aRuleBookGoesBeforeWhatTheSchemaDeclares(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, book -> book.relation("inspection.boat_id", Rule.cascade())
                .relation("work_order.boat_id", Rule.block("work is ordered"))
                .relation(
                        "mooring.boat_id", Rule.when(column("left_on").isNull()).block("still here"), Rule.cascade()));

        assertThat(vacancy.preview(Request.delete("boat").key(14)).blockers())
                .extracting(blocker -> blocker.table() + ": " + blocker.reason())
                .containsExactlyInAnyOrder("work_order: work is ordered", "mooring: still here");
        bench.database().run("DELETE FROM work_order", "UPDATE mooring SET left_on = arrived_on");
        assertThat(vacancy.execute(Request.delete("boat").key(14).expect(1))).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("inspection")).isEqualTo(1);
    }

    @OnEveryEngine
    void aTableThatIsNeverDeletedFromStopsEverything(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, book -> book.table("power_reading", t -> t.neverDeleted()));

        Outcome cascade = vacancy.execute(Request.delete("boat").key(17).expect(1));
        Outcome itself =
                vacancy.execute(Request.delete("power_reading").key(9001).expect(1));

        assertThat(cascade).isInstanceOf(Outcome.Blocked.class);
        assertThat(cascade.message()).contains("rows of power_reading are never deleted");
        assertThat(itself).isInstanceOf(Outcome.Refused.class);
        assertThat(bench.count("power_reading")).isEqualTo(10);
    }

    @OnEveryEngine
    void aDeclaredRelationIsFollowedLikeAForeignKey(Engine engine) {
        Bench bench = Bench.harbour(engine);
        String declared = "radio_message.call_sign -> boat.call_sign";

        assertThat(with(bench, book -> book.relation(declared, Rule.block("was heard")))
                        .preview(Request.delete("boat").key(17))
                        .blockers())
                .singleElement()
                .satisfies(blocker -> assertThat(blocker.rows()).isEqualTo(2));
        assertThat(with(bench, book -> book.relation(declared, Rule.leave()))
                        .preview(Request.delete("boat").key(17))
                        .state())
                .isEqualTo(Preview.State.READY);
        Outcome outcome = with(bench, book -> book.relation(declared, Rule.cascade()))
                .execute(Request.delete("boat").key(17).expect(1));
        if (engine == Engine.MARIADB || engine == Engine.OTHER) {
            // No key and no row id there: equal rows cannot be told apart, so they stop the deletion.
            assertThat(outcome.message()).contains("2 rows of radio_message").contains("no key to tell them apart by");
        } else {
            assertThat(outcome).isInstanceOf(Outcome.Done.class);
            assertThat(bench.count("radio_message")).isEqualTo(2);
        }
    }

    @Test
    void whatIsWrongWithARuleBookIsToldTogetherWithLineAndNearestName() {
        Bench bench = Bench.harbour(Engine.H2);
        RuleBook wrong = RuleBookFile.read("""
                version: 1
                tables:
                  baot: {label: "{name}"}
                  skipper: {label: "{nme}"}
                relations:
                  mooring.boatid: cascade
                  boat.skipper_id: {set-null: []}
                  fee.mooring_id:
                    - {block: "unpaid", when: "paid = FALSE"}
                    - cascade
                  power_reading.mooring_id: [cascade, {block: "never"}]
                  inspection.boat_id: leave
                """, "vacancy.yaml");

        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(bench.database().source()))
                        .rules(wrong)
                        .actor(() -> "Mira Holm")
                        .open())
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("vacancy.yaml, line 3: Table baot is not in the database; did you mean boat?")
                .hasMessageContaining("vacancy.yaml, line 4: Column nme is not in table skipper; did you mean name?")
                .hasMessageContaining(
                        "line 6: Relation mooring.boatid is not in the database; did you mean mooring.boat_id?")
                .hasMessageContaining(
                        "line 7: set-null on boat.skipper_id is impossible: boat.skipper_id cannot be NULL.")
                .hasMessageContaining(
                        "line 8: The condition of block on fee.mooring_id is unknown where fee.paid is NULL")
                .hasMessageContaining("line 11: The rules after the unconditional one")
                .hasMessageContaining("line 12: Rows of inspection.boat_id cannot be left");
    }

    private static Vacancy with(Bench bench, Consumer<RuleBook.Builder> book) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book))
                .actor(() -> "Mira Holm")
                .open();
    }
}
