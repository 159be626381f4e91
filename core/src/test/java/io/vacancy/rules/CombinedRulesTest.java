// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.SchemaBuilder;
import io.vacancy.request.Mode;
import io.vacancy.rules.RuleBook.RelationEntry;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Schema;
import java.util.List;
import org.junit.jupiter.api.Test;

class CombinedRulesTest {

    private static final Schema SCHEMA = new SchemaBuilder()
            .table("boat", "id", "name", "left_on", "revision")
            .table("mooring", "id", "boat_id", "paid")
            .relation("mooring", "boat_id", "boat", OnDelete.NO_ACTION)
            .build();

    @Test
    void whatOnlyOneSaysHolds() {
        CombinedRules combined = combined(
                RuleBook.build(
                        book -> book.table("boat", t -> t.label("{name}")).outbox("/office")),
                RuleBook.build(book -> book.table(
                                "BOAT", t -> t.marker(Marker.date("left_on")).version("revision"))
                        .table("mooring", TableEntry::neverEmpty)
                        .relation("mooring.boat_id", Rule.cascade())));

        assertThat(combined.contradictions()).isEmpty();
        assertThat(combined.book().tables()).hasSize(2);
        TableEntry boat = combined.book().tables().get(0);
        assertThat(boat.label()).isEqualTo("{name}");
        assertThat(boat.marker()).isEqualTo(Marker.date("left_on"));
        assertThat(boat.auditColumns()).extracting(AuditColumns::version).isEqualTo("revision");
        assertThat(combined.book().relations()).hasSize(1);
        assertThat(combined.book().outbox()).isEqualTo("/office");
    }

    @Test
    void whereBothSpeakThePrevailingOneHoldsAndItIsTold() {
        CombinedRules combined = combined(
                RuleBook.build(book -> book.table(
                                "boat", t -> t.label("{name}").mode(Mode.ERASE).atMost(5))
                        .relation(
                                "Mooring.Boat_Id",
                                Rule.when(column("paid").isNull()).block("unpaid"),
                                Rule.cascade())),
                RuleBook.build(book -> book.table(
                                "boat",
                                t -> t.label("{id}").mode(Mode.SOFT_DELETE).atMost(5))
                        .relation("mooring.boat_id -> boat.id", Rule.cascade())
                        .whenSoftDeleted("mooring.boat_id -> boat.id", Rule.leave())));

        assertThat(combined.contradictions())
                .containsExactly(
                        "Table boat: the label {name} holds, though {id} is said as well.",
                        "Table boat: the mode erase holds, though soft-delete is said as well.",
                        "Relation Mooring.Boat_Id: block:unpaid when paid IS NULL, cascade holds, though cascade is said as"
                                + " well.");
        RelationEntry relation = combined.book().relations().get(0);
        assertThat(relation.rules()).hasSize(2);
        assertThat(relation.whenSoftDeleted()).containsExactly(Rule.leave());
        assertThat(combined.book().tables().get(0).mode()).isEqualTo(Mode.ERASE);
    }

    /** A file that forgets a protection does not take it away. */
    @Test
    void whatEitherProtectsStaysProtected() {
        CombinedRules combined = combined(
                RuleBook.build(
                        book -> book.table("boat", t -> t.personal("name").uniqueWhileActive("name"))),
                RuleBook.build(book ->
                        book.table("boat", t -> t.neverDeleted().neverEmpty().personal("id", "name"))));

        TableEntry boat = combined.book().tables().get(0);
        assertThat(boat.neverDeletedFrom()).isTrue();
        assertThat(boat.neverEmptied()).isTrue();
        assertThat(boat.personal()).containsExactly("name", "id");
        assertThat(boat.uniqueWhileActive()).containsExactly(List.of("name"));
        assertThat(combined.contradictions()).isEmpty();
    }

    /** What is wrong in one of them is told when the book is fitted, as if it stood alone. */
    @Test
    void mistakesOfOneBookAreNotHidden() {
        RuleBook twice = RuleBook.build(book -> book.table("boat", t -> t.label("{name}"))
                .table("Boat", t -> t.label("{id}"))
                .table("bout", TableEntry::neverEmpty)
                .relation("mooring.boat_id", Rule.cascade())
                .relation("mooring.boat_id", Rule.setNull()));
        CombinedRules combined = combined(twice, RuleBook.build(book -> book.table("boat", TableEntry::neverDeleted)));

        assertThat(ResolvedRules.check(combined.book(), SCHEMA).problems())
                .extracting(problem -> problem.message())
                .anyMatch(text -> text.contains("boat appears twice"))
                .anyMatch(text -> text.contains("bout"))
                .hasSameSizeAs(ResolvedRules.check(twice, SCHEMA).problems());
    }

    private static CombinedRules combined(RuleBook prevailing, RuleBook other) {
        return CombinedRules.of(prevailing, other, SCHEMA);
    }
}
