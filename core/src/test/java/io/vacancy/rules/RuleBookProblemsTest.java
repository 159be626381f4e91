// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import java.time.Period;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

/** A rule book that cannot mean what it says is told so when it is loaded. */
class RuleBookProblemsTest {

    private static Arguments wrong(String message, Consumer<RuleBook.Builder> book) {
        return Arguments.of(message, book);
    }

    static Stream<Arguments> wrongBooks() {
        Marker left = Marker.date("left_on");
        return Stream.of(
                wrong(
                        "Table bota is not in the database; did you mean boat?",
                        b -> b.table("bota", t -> t.neverDeleted())),
                wrong(
                        "Relation mooring.boat is not in the database; did you mean mooring.boat_id?",
                        b -> b.relation("mooring.boat", Rule.cascade())),
                wrong(
                        "set-null on mooring.boat_id is impossible: mooring.boat_id cannot be NULL.",
                        b -> b.relation("mooring.boat_id", Rule.setNull())),
                wrong(
                        "The rules after the unconditional one on mooring.boat_id can never hold. Put the rule without a"
                                + " condition last.",
                        b -> b.relation("mooring.boat_id", Rule.cascade(), Rule.block("x"))),
                wrong(
                        "The condition of block on fee.mooring_id is unknown where fee.paid is NULL, so such rows would slip"
                                + " past it. Say what NULL means, as in paid IS NOT TRUE or paid IS NULL OR ….",
                        b -> b.relation(
                                "fee.mooring_id",
                                Rule.when(column("paid").equalTo(false)).block("unpaid"),
                                Rule.cascade())),
                wrong(
                        "Column payed is not in table fee; did you mean paid?",
                        b -> b.relation(
                                "fee.mooring_id",
                                Rule.when(column("payed").is(true)).cascade(),
                                Rule.block("unpaid"))),
                wrong(
                        "Rows of mooring.boat_id cannot be left: the database enforces the relation.",
                        b -> b.relation("mooring.boat_id", Rule.leave())),
                wrong(
                        "Column nam is not in table boat; did you mean name?",
                        b -> b.table("boat", t -> t.label("{nam}"))),
                wrong(
                        "Column name of boat holds TEXT, which is neither a date nor a time. If it keeps them as texts, say how in the"
                                + " rule book: times: {name: iso-date}.",
                        b -> b.table("boat", t -> t.marker(Marker.date("name")))),
                wrong(
                        "Column passed_on of inspection cannot be NULL, so a date in it cannot say that a row is active. Use"
                                + " an end date with a far-future value, or let the column be NULL.",
                        b -> b.table("inspection", t -> t.marker(Marker.date("passed_on")))),
                wrong(
                        "Table boat cannot usually be soft-deleted: nothing says how its rows would be marked.",
                        b -> b.table("boat", t -> t.mode(Mode.SOFT_DELETE))),
                wrong(
                        "Rows of mooring go with a soft-deleted row of boat through mooring.boat_id, and mooring has no"
                                + " marker. Say what becomes of them when it is soft-deleted: erase, leave or block.",
                        b -> b.table("boat", t -> t.marker(left)).relation("mooring.boat_id", Rule.cascade())),
                wrong(
                        "erase on mooring.boat_id is for parents that are soft-deleted. Write cascade here.",
                        b -> b.relation("mooring.boat_id", Rule.erase())),
                wrong("Relation mooring.boat_id appears twice in the rule book.", b -> b.relation(
                                "mooring.boat_id", Rule.cascade())
                        .relation("mooring.boat_id", Rule.block("x"))),
                wrong("A question cannot hold above -1 rows.", b -> b.question(-1, Strength.COUNT)),
                wrong(
                        "It is not known since when rows of boat were marked as deleted, so they cannot be purged after a"
                                + " time. Give the table a marker with a date, or leave soft-deleted out of retention.",
                        b -> b.table("boat", t -> t.retention(Retention.UNLIMITED.softDeleted(Period.ofDays(3))))),
                wrong(
                        "Column changed_by is not in table boat.",
                        b -> b.table("boat", t -> t.auditColumns("changed_by", "changed_at"))),
                wrong(
                        "Column emial is not in table skipper; did you mean email?",
                        b -> b.table("skipper", t -> t.personal("emial"))),
                wrong(
                        "\"x\" cannot be a value of yard.id, which holds INTEGER: a whole number, such as 17.",
                        b -> b.relation("work_order.yard_id", Rule.reassignTo("x"))),
                wrong(
                        "set-null cannot be permitted on mooring.boat_id: none of its columns can be NULL.",
                        b -> b.relation("mooring.boat_id", List.of("set-null"), Rule.block("x"))),
                wrong(
                        "There is no rule explode.",
                        b -> b.relation("mooring.boat_id", List.of("explode"), Rule.block("x"))));
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("wrongBooks")
    void isRefusedWithWhatIsWrongAndWhatToDo(String message, Consumer<RuleBook.Builder> writing) {
        RuleBook book = RuleBook.build(writing);
        assertThat(ResolvedRules.check(book, Harbour.SCHEMA).problems())
                .filteredOn(Problem::error)
                .extracting(Problem::toString)
                .contains(message);
        assertThatThrownBy(() -> ResolvedRules.fit(book, Harbour.SCHEMA))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining(message);
    }

    @Test
    void whatNoRuleMentionsFollowsTheSchemaAndIsNoted() {
        assertThat(ResolvedRules.check(RuleBook.empty(), Harbour.SCHEMA).problems())
                .hasSize(6)
                .noneMatch(Problem::error)
                .extracting(Problem::toString)
                .contains("No rule mentions mooring.boat_id; it follows the schema: block.");
        assertThat(ResolvedRules.check(Harbour.rules(book -> {}), Harbour.SCHEMA)
                        .problems())
                .extracting(Problem::toString)
                .containsExactly("No rule mentions boat.skipper_id; it follows the schema: block.");
    }

    @Test
    void aRequestMayOnlyAskForRulesThatAreThere() {
        Harbour harbour = new Harbour(
                Harbour.rules(book -> book.relation("boat.skipper_id", List.of("set-null"), Rule.block("has boats"))));
        assertThat(harbour.preview(Request.erase("skipper").key(2).rule("boat.skipper_id", "set-null"))
                        .state()
                        .word())
                .isEqualTo("ready");
        Request blocked = Request.erase("boat").key(14);
        assertThatThrownBy(() -> harbour.preview(blocked.rule("inspection.boat_id", "cascade")))
                .isInstanceOf(MisuseException.class)
                .hasMessage("The rule book does not permit cascade on inspection.boat_id.");
        assertThatThrownBy(() -> harbour.preview(blocked.rule("inspection.boat", "cascade")))
                .hasMessageEndingWith("did you mean inspection.boat_id?");
        assertThatThrownBy(() -> harbour.preview(blocked.rule("inspection.boat_id", "explode")))
                .hasMessage("\"explode\" is no rule.");
    }
}
