package io.vacancy.trail;

import static io.vacancy.condition.ColumnTerm.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.SchemaBuilder;
import io.vacancy.condition.Condition;
import io.vacancy.condition.Written;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Portion;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.rules.RuleBook;
import io.vacancy.rules.Rules;
import io.vacancy.schema.OnDelete;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
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
class DiscretionTest {

    private static final byte[] SECRET = "a secret of the harbour office".getBytes(StandardCharsets.UTF_8);

    /** A skipper's number is personal; a pass refers to it, and a gate to the pass. */
    private static final Schema SCHEMA = new SchemaBuilder()
            .table("skipper", "id", "berth")
            .table("pass", "id", "colour")
            .table("gate", "id", "pass_id", "width")
            .relation("pass", "id", "skipper", OnDelete.CASCADE)
            .relation("gate", "pass_id", "pass", OnDelete.CASCADE)
            .build();

    private static final Rules RULES =
            Rules.fit(RuleBook.build(book -> book.table("pass", t -> t.personal("ID"))), SCHEMA);

    private static final Discretion DISCRETION = new Discretion(RULES, MacKey.of(SECRET));

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
        assertThat(Rules.fit(RuleBook.empty(), SCHEMA).personal().none()).isTrue();
        assertThatThrownBy(
                        () -> Rules.fit(RuleBook.build(book -> book.table("pass", t -> t.personal("shape"))), SCHEMA))
                .hasMessageContaining("shape");
    }

    @Test
    void keysArePersonalWhereTheirColumnsAre() throws Exception {
        assertThat(KeyText.of(table("skipper"), List.of(3L), DISCRETION)).isEqualTo(digest(3));
        assertThat(KeyText.of(table("gate"), List.of(3L), DISCRETION)).isEqualTo("3");
        assertThat(KeyText.text(new BigDecimal("1.500"))).isEqualTo("1.5");
        assertThat(new Discretion(RULES, null).of(TableName.of("pass"), "id", 3L))
                .isEqualTo("(personal)");
    }

    private static String told(Condition condition) {
        return Written.of(DISCRETION.of(condition, table("pass"), new Words()));
    }

    @Test
    void conditionsTellColumnsAndNotValues() throws Exception {
        assertThat(told(column("id").equalTo(3).and(column("colour").equalTo(4))))
                .contains(digest(3))
                .contains("colour = 4");
        assertThat(told(column("id").in(3, 4).or(column("id").between(5, 6)).not()))
                .contains(digest(3), digest(4), digest(5), digest(6));
        assertThat(told(column("id").isNull())).isEqualTo("id IS NULL");
        String like = told(new Condition.Like("id", "Osp%"));
        assertThat(like).contains("digest:").doesNotContain("Osp");
        String cased = told(new Condition.Cased(
                Condition.LetterCase.LOWER, new Condition.Compare("id", Condition.Comparison.EQUAL, "osprey")));
        assertThat(cased).contains("digest:").doesNotContain("osprey");
        assertThat(told(new Condition.Certain(column("id").notEqualTo(9)))).doesNotContain("9 ");
    }

    private static Findings found(Row... rows) {
        List<Row> records = List.of(rows);
        return new Findings(
                records,
                List.of(new Effect(TableName.of("pass"), Action.DELETE, null, null, records.size(), records)),
                List.of(),
                Portion.NONE,
                List.of(),
                Portion.NONE,
                Map.of(Action.DELETE, (long) records.size()),
                Map.of(),
                List.of("Pass 12345 has a trigger."),
                "");
    }

    @Test
    void reasonsLoseTheValuesOfWhatWasSelected() throws Exception {
        Row row = new Row(TableName.of("pass"), Map.of("id", 12345L, "colour", 7L));
        Request request = Request.from("pass")
                .where(column("id").equalTo(678).and(column("colour").equalTo(7)))
                .because("12345 and 678 and 7")
                .unasked("nightly 12345");
        Discreet told = new Discreet(DISCRETION, request, table("pass"), found(row));

        assertThat(told.request().because()).isEqualTo(digest(12345) + " and " + digest(678) + " and 7");
        assertThat(told.request().unasked()).isEqualTo("nightly " + digest(12345));
        assertThat(told.findings().records().get(0).get("id")).isEqualTo(digest(12345));
        assertThat(told.findings().effects().get(0).sample().get(0).get("colour"))
                .isEqualTo(7L);
        assertThat(told.findings().warnings()).containsExactly("Pass " + digest(12345) + " has a trigger.");
        assertThat(Written.of(((Selection.ByCondition) told.request().selection()).condition()))
                .doesNotContain("678");
    }

    @Test
    void aKeyOrANewParentIsNotTold() throws Exception {
        Request byKey = Request.from("pass").key(4711).because("4711 left");
        Discreet one = new Discreet(DISCRETION, byKey, table("pass"), Findings.withheld());
        assertThat(one.request().because()).isEqualTo(digest(4711) + " left");

        Request moving = Request.from("pass").key(4711).reassign("gate.pass_id", 9876);
        Discreet other = new Discreet(DISCRETION, moving, table("pass"), Findings.withheld());
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
        Words words = new Words();
        words.add(value, "X");
        assertThat(words.without(written)).isEqualTo(left);
        assertThat(words.without(null)).isNull();
    }

    @Test
    void theLongestValueGoesFirst() {
        Words words = new Words();
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
}
