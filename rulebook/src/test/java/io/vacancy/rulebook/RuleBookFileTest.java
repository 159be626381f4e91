// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.failure.RuleBookException;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Limits;
import io.vacancy.request.Mode;
import io.vacancy.request.NamedDeletion;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RuleBookFileTest {

    @Test
    void readsNewParentsPermissionsQuestionsAndNamedDeletions() {
        RuleBook book = RuleBookFile.read("""
                version: 1
                tables:
                  boat: {never-emptied: true, at-most: 500, at-most-percent: 12.5}
                relations:
                  work_order.yard_id: reassign
                  berth.pier_id: {reassign: 3}
                  note.answers: {reassign: {to-parents: answers}}
                  fee.mooring_id:
                    rules: [{block: unpaid, when: "paid IS NOT TRUE"}, cascade]
                    permit: [cascade, set-null]
                questions:
                  - {above: 100, type: count}
                  - {every-row: true, type: table}
                deletions:
                  old-moorings:
                    table: mooring
                    where: "left_on < :before"
                    parameters: {before: date}
                    order-by: [left_on desc, id]
                    limit: 10
                    at-most: 10000
                """, "rules.yaml");

        assertThat(book.relations())
                .extracting(entry -> entry.rules().get(0))
                .startsWith(Rule.reassign(), Rule.reassignTo("3"), Rule.reassignToParents("answers"));
        assertThat(book.relations().get(3).permits()).containsExactly("cascade", "set-null");
        assertThat(book.relations().get(3).rules()).hasSize(2);
        assertThat(book.tables().get(0).limits())
                .isEqualTo(Limits.NONE.atMost(500).atMostPercent(12.5));
        assertThat(book.tables().get(0).neverEmptied()).isTrue();
        assertThat(book.questions()).extracting("strength").containsExactly(Strength.COUNT, Strength.TABLE);
        NamedDeletion old = book.deletions().get(0);
        assertThat(old.where()).isEqualTo(column("left_on").before(parameter("before")));
        assertThat(old.first()).isEqualTo(10);
        assertThat(old.order()).extracting(Object::toString).containsExactly("left_on desc", "id");
    }

    @Test
    void saysTheSameAsTheBuilder() {
        RuleBook file = RuleBookFile.read("""
                version: 1
                tables:
                  boat:
                    label: "{name} ({registration})"
                    mode: erase
                  inspection: {never-deleted: true}
                  skipper:
                    audit-columns: {changed-by: changed_by, version: version, parents: [skipper.boat_id]}
                relations:
                  mooring.boat_id: cascade
                  fee.mooring_id:
                    - {block: "unpaid", when: "paid IS NOT TRUE"}
                    - cascade
                  pier.head_berth_id: set-null
                  slip(a,b): {set-null: [a]}
                  "radio_message.call_sign -> boat.call_sign": leave
                """, "vacancy.yaml");

        RuleBook built = RuleBook.build(book -> book.table(
                        "boat", t -> t.label("{name} ({registration})").mode(Mode.ERASE))
                .table("inspection", t -> t.neverDeleted())
                .table("skipper", t -> t.auditColumns("changed_by", null)
                        .version("version")
                        .stampsParent("skipper.boat_id"))
                .relation("mooring.boat_id", Rule.cascade())
                .relation(
                        "fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade())
                .relation("pier.head_berth_id", Rule.setNull())
                .relation("slip(a,b)", Rule.setNull("a"))
                .relation("radio_message.call_sign -> boat.call_sign", Rule.leave()));
        assertThat(file.tables().stream().map(entry -> entry.at(null))).isEqualTo(built.tables());
        assertThat(file.relations().stream()
                        .map(entry -> new RuleBook.RelationEntry(
                                entry.relation(),
                                entry.rules(),
                                entry.whenSoftDeleted(),
                                entry.whenForgotten(),
                                entry.permits(),
                                null)))
                .isEqualTo(built.relations());
        assertThat(file.relations().get(1).place()).hasToString("vacancy.yaml, line 11");
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "version: 2 | line 1: The rule book says no version that is known",
                "tables: {} | says no version",
                "version: 1\\nrelation: {} | line 2: There is no key relation; did you mean relations?",
                "version: 1\\ntables:\\n  boat: {lable: x} | line 3: There is no key lable; did you mean label?",
                "version: 1\\ntables:\\n  boat: {mode: gone} | line 3: \"gone\" is not a mode",
                "version: 1\\ntables:\\n  boat: {}\\n  boat: {} | line 4: \"boat\" stands here twice",
                "version: 1\\nrelations:\\n  a.b: casacde | line 3: There is no rule casacde; did you mean cascade?",
                "version: 1\\nrelations:\\n  a.b: block | line 3: block requires a reason",
                "version: 1\\nrelations:\\n  a.b: {when: 'x = 1'} | this says none",
                "version: 1\\nrelations:\\n  a.b:\\n    - {cascade: , when: 'x = NULL'} | line 4: The condition is refused at position 1",
                "version: 1\\nrelations: [ | line 2: This is not YAML",
                "version: 1\\ntables:\\n  boat: {never-deleted: maybe} | line 3: Here true or false is wanted"
            })
    void tellsWhatIsWrongAndWhere(String text, String message) {
        assertThatThrownBy(() -> RuleBookFile.read(text.replace("\\n", "\n"), "vacancy.yaml"))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining(message);
    }
}
