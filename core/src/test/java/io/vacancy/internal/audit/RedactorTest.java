// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.audit;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.SchemaBuilder;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.condition.RelatedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.resolve.Narrowing;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.PlannedOperation;
import io.vacancy.trail.MacKey;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;
import java.util.Map;
import javax.crypto.Mac;
import javax.crypto.spec.SecretKeySpec;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

/** What is personal is told nowhere, and found again by who knows it and has the secret. */
class RedactorTest {

    private static final byte[] SECRET = "a secret of the harbour office".getBytes(StandardCharsets.UTF_8);

    /** A skipper's number is personal; a pass refers to it, and a gate to the pass. */
    private static final Schema SCHEMA = new SchemaBuilder()
            .table("skipper", "id", "berth")
            .table("pass", "id", "colour")
            .table("gate", "id", "pass_id", "width")
            .relation("pass", "id", "skipper", OnDelete.CASCADE)
            .relation("gate", "pass_id", "pass", OnDelete.CASCADE)
            .build();

    private static final ResolvedRules RULES =
            ResolvedRules.fit(RuleBook.build(book -> book.table("pass", t -> t.personal("ID"))), SCHEMA);

    private static final Redactor DISCRETION = new Redactor(RULES, MacKey.of(SECRET));

    private static String digest(long value) throws Exception {
        Mac mac = Mac.getInstance("HmacSHA256");
        mac.init(new SecretKeySpec(SECRET, "HmacSHA256"));
        return "digest:"
                + HexFormat.of().formatHex(mac.doFinal(("pass.id\0" + value).getBytes(StandardCharsets.UTF_8)), 0, 16);
    }

    private static Table table(String name) {
        return SCHEMA.table(name);
    }

    @Test
    void columnsThatReferToAPersonalOneArePersonal() throws Exception {
        assertThat(RULES.personal().none()).isFalse();
        for (String[] personal : new String[][] {{"skipper", "id"}, {"pass", "id"}, {"gate", "pass_id"}}) {
            // All of them by one name, so that one value has one digest wherever it stands.
            assertThat(RULES.personal().origin(TableName.of(personal[0]), personal[1]))
                    .isEqualTo("pass.id");
            assertThat(DISCRETION.of(TableName.of(personal[0]), personal[1], 17L))
                    .isEqualTo(digest(17));
        }
        assertThat(RULES.personal().origin(TableName.of("gate"), "id")).isNull();
        assertThat(DISCRETION.of(TableName.of("gate"), "id", 17L)).isEqualTo(17L);
        assertThat(ResolvedRules.fit(RuleBook.empty(), SCHEMA).personal().none())
                .isTrue();
        assertThatThrownBy(() ->
                        ResolvedRules.fit(RuleBook.build(book -> book.table("pass", t -> t.personal("shape"))), SCHEMA))
                .hasMessageContaining("shape");
    }

    @Test
    void keysArePersonalWhereTheirColumnsAre() throws Exception {
        assertThat(KeyText.of(table("skipper"), List.of(3L), DISCRETION)).isEqualTo(digest(3));
        assertThat(KeyText.of(table("gate"), List.of(3L), DISCRETION)).isEqualTo("3");
        assertThat(KeyText.text(new BigDecimal("1.500"))).isEqualTo("1.5");
        assertThat(new Redactor(RULES, null).of(TableName.of("pass"), "id", 3L)).isEqualTo("(personal)");
    }

    private static String told(Condition condition) {
        return ConditionText.of(DISCRETION.of(condition, table("pass"), new RedactionTerms()));
    }

    @Test
    void conditionsTellColumnsAndNotValues() throws Exception {
        assertThat(told(column("id").equalTo(3).and(column("colour").equalTo(4))))
                .contains(digest(3))
                .contains("colour = 4");
        assertThat(told(column("id").in(3, 4).or(column("id").between(5, 6)).not()))
                .contains(digest(3), digest(4), digest(5), digest(6));
        assertThat(told(column("id").isNull())).isEqualTo("id IS NULL");
        assertThat(told(RelatedRows.parent("pass.id")
                        .exists(column("id").equalTo(3).and(column("berth").equalTo(7)))))
                .contains("id = '" + digest(3))
                .contains("berth = 7");
        assertThat(told(RelatedRows.children("gate.pass_id").exists())).doesNotContain("digest");
        String like = told(new Condition.Like("id", "Osp%"));
        assertThat(like).contains("digest:").doesNotContain("Osp");
        String cased = told(new Condition.CaseFolded(
                Condition.LetterCase.LOWER, new Condition.Compare("id", Condition.Comparison.EQUAL, "osprey")));
        assertThat(cased).contains("digest:").doesNotContain("osprey");
        assertThat(told(new Condition.IsTrue(column("id").notEqualTo(9)))).doesNotContain("9 ");
    }

    private static ResolvedRequest resolved(Request request) {
        return new ResolvedRequest(
                request,
                OperationKind.ERASE,
                table("pass"),
                request.selection(),
                Narrowing.of(request),
                new PlannedOperation.Cascade(),
                request.rules(),
                null,
                List.of());
    }

    private static Impact found(Row... rows) {
        List<Row> records = List.of(rows);
        Effect effect = new Effect(TableName.of("pass"), Action.DELETE, null, null, records.size(), records);
        return Impact.builder()
                .records(records)
                .effects(List.of(effect), Map.of(Action.DELETE, (long) records.size()))
                .warnings(List.of("Pass 12345 has a trigger."))
                .build();
    }

    @Test
    void reasonsLoseTheValuesOfWhatWasSelected() throws Exception {
        Row row = new Row(TableName.of("pass"), Map.of("id", 12345L, "colour", 7L));
        Request request = Request.delete("pass")
                .where(column("id").equalTo(678).and(column("colour").equalTo(7)))
                .because("12345 and 678 and 7")
                .withoutConfirmation("nightly 12345");
        RedactedRequest told = new RedactedRequest(DISCRETION, resolved(request), found(row));

        assertThat(told.text(request.reason())).isEqualTo(digest(12345) + " and " + digest(678) + " and 7");
        assertThat(told.text(request.withoutConfirmation())).isEqualTo("nightly " + digest(12345));
        assertThat(told.impact().records().get(0).get("id")).isEqualTo(digest(12345));
        assertThat(told.impact().effects().get(0).sample().get(0).get("colour")).isEqualTo(7L);
        assertThat(told.impact().warnings()).containsExactly("Pass " + digest(12345) + " has a trigger.");
        assertThat(ConditionText.of(((Selection.ByCondition) told.request().selection()).condition()))
                .doesNotContain("678");
    }

    @Test
    void aKeyOrANewParentIsNotTold() throws Exception {
        Request byKey = Request.delete("pass").key(4711).because("4711 left");
        RedactedRequest one = new RedactedRequest(DISCRETION, resolved(byKey), Impact.nothing());
        assertThat(one.text(byKey.reason())).isEqualTo(digest(4711) + " left");

        Request moving = Request.delete("pass").key(4711).reassign("gate.pass_id", 9876);
        RedactedRequest other = new RedactedRequest(DISCRETION, resolved(moving), Impact.nothing());
        assertThat(other.request().rules()).containsEntry("gate.pass_id", "reassign:" + digest(9876));
    }

    @ParameterizedTest
    @CsvSource({
        // a value, what somebody wrote, what is left of it with X for the digest
        "Osprey, Osprey was sold, X was sold",
        "Osprey, the OSPREYs of old, the Xs of old",
        "Ann, Ann and Annette, X and Annette",
        "Ann, ann., X.",
        "a.b, a.b and aXb, X and aXb",
        "Jürgen, JÜRGEN asked, X asked",
        "17, 17 of 170, X of 170"
    })
    void shortValuesAreWordsOfTheirOwn(String value, String written, String left) {
        RedactionTerms words = new RedactionTerms();
        words.add(value, "X");
        assertThat(words.without(written)).isEqualTo(left);
        assertThat(words.without(null)).isNull();
    }

    @Test
    void theLongestValueGoesFirst() {
        RedactionTerms words = new RedactionTerms();
        words.add("Holm", "A");
        words.add("Mira Holm", "B");
        words.add("  ", "C");
        assertThat(words.whole("Mira Holm and Jonas Holm")).isEqualTo("B and Jonas A");
    }

    @Test
    void aSecretIsNotTooShort() {
        assertThatThrownBy(() -> MacKey.of(new byte[15]))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("15 bytes");
    }

    @Test
    void whereSomeRowsWereNotLookedAtFreeTextIsWithheld() throws Exception {
        Request request = Request.delete("pass")
                .everyRow()
                .because("Annette asked for it")
                .withoutConfirmation("Annette");
        Effect many = new Effect(TableName.of("pass"), Action.DELETE, null, null, 21, List.of());
        Impact found = Impact.builder()
                .effects(List.of(many), Map.of(Action.DELETE, 21L))
                .build();
        RedactedRequest told = new RedactedRequest(DISCRETION, resolved(request), found);
        assertThat(told.text("Annette asked for it")).isEqualTo("(withheld)");
        assertThat(told.text(null)).isNull();

        Row row = new Row(TableName.of("pass"), Map.of("id", 12345L, "colour", 7L));
        assertThat(new RedactedRequest(DISCRETION, resolved(request), found(row)).text("sold"))
                .isEqualTo("sold");
    }
}
