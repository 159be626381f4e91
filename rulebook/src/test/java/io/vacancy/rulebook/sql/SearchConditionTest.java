// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook.sql;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Condition.Comparison;
import io.vacancy.condition.ConditionText;
import io.vacancy.condition.RelatedRows;
import io.vacancy.condition.RelatedRows.ColumnPair;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class SearchConditionTest {

    @Test
    void readsWhatTheJavaBuilderSays() {
        Map<String, Condition> same = Map.ofEntries(
                Map.entry("left_on < DATE '2020-01-01'", column("left_on").before(LocalDate.of(2020, 1, 1))),
                Map.entry("DATE '2020-01-01' > left_on", column("left_on").before(LocalDate.of(2020, 1, 1))),
                Map.entry(
                        "read_at >= TIMESTAMP '2026-05-01 08:00:00'",
                        column("read_at").atLeast(LocalDateTime.of(2026, 5, 1, 8, 0))),
                Map.entry("status IN ('sold', 'it''s')", column("status").in("sold", "it's")),
                Map.entry("amount BETWEEN 1 AND 2.50", column("amount").between(1L, new BigDecimal("2.50"))),
                Map.entry(
                        "amount NOT IN (-1)",
                        column("amount").in(java.math.BigInteger.valueOf(-1)).not()),
                Map.entry("name LIKE 'O%'", column("name").like("O%")),
                Map.entry("left_on IS NULL", column("left_on").isNull()),
                Map.entry("left_on IS NOT NULL", column("left_on").isNotNull()),
                Map.entry("paid IS NOT TRUE", column("paid").isNot(true)),
                Map.entry("paid IS FALSE", column("paid").is(false)),
                Map.entry("paid = TRUE", column("paid").equalTo(true)),
                Map.entry("paid", column("paid").equalTo(true)),
                Map.entry("NOT paid", column("paid").equalTo(true).not()),
                Map.entry("a < b", new Condition.CompareColumns("a", Comparison.LESS, "b")),
                Map.entry(
                        "a <> 1 AND b = 2 OR c = 3",
                        column("a")
                                .notEqualTo(1L)
                                .and(column("b").equalTo(2L))
                                .or(column("c").equalTo(3L))),
                Map.entry(
                        "a = 1 AND (b = 2 OR c = 3)",
                        column("a")
                                .equalTo(1L)
                                .and(column("b").equalTo(2L).or(column("c").equalTo(3L)))),
                Map.entry("\"Odd \"\"name\" = 'x'", column("Odd \"name").equalTo("x")));

        same.forEach((text, condition) ->
                assertThat(SearchCondition.read(text)).as(text).isEqualTo(condition));
    }

    @Test
    void existsFollowsTheColumnsOfARelation() {
        Condition related = new RelatedRows.ByColumns("fee", List.of(new ColumnPair("boat_id", "id")), "boat").exists();
        Condition paid = new RelatedRows.ByColumns("town.fee", List.of(new ColumnPair("boat_id", "id")), "boat")
                .exists(column("paid").isNot(true).and(column("id").greaterThan(3L)));

        for (String text : List.of(
                "EXISTS (SELECT 1 FROM fee WHERE fee.boat_id = boat.id)",
                "exists (select * from fee where (boat.id = boat_id))",
                "EXISTS (SELECT 1 FROM fee AS f WHERE f.boat_id = boat.id)",
                "EXISTS (SELECT 1 FROM \"fee\" \"F\" WHERE \"f\".\"boat_id\" = boat.id)")) {
            assertThat(SearchCondition.read(text)).as(text).isEqualTo(related);
            assertThat(SearchCondition.read("NOT " + text)).isEqualTo(related.not());
        }
        assertThat(
                        SearchCondition.read(
                                "EXISTS (SELECT 1 FROM town.fee WHERE paid IS NOT TRUE AND boat.id = town.fee.boat_id AND town.fee.id > 3)"))
                .isEqualTo(paid);
        assertThat(SearchCondition.read(ConditionText.of(paid))).isEqualTo(paid);
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "id IN (SELECT id FROM boat)",
                "EXISTS (SELECT 1)",
                "EXISTS (SELECT 1 FROM b)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = 1)",
                "EXISTS (SELECT 1 FROM b WHERE b.x = b.y)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id <> a.id)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id OR b.x = 1)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id AND b.c_id = c.id)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id AND b.x > a.x)",
                "EXISTS (SELECT DISTINCT 1 FROM b WHERE b.a_id = a.id)",
                "EXISTS (SELECT COUNT(*) FROM b WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1, 2 FROM b WHERE b.a_id = a.id)",
                "EXISTS (SELECT x FROM b WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1 FROM b, c WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1 FROM b JOIN c ON b.id = c.b_id WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id GROUP BY x)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id HAVING COUNT(*) > 1)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id ORDER BY x)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id LIMIT 1 OFFSET 1)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id FETCH FIRST 1 ROWS ONLY)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id FOR UPDATE)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id UNION SELECT 1 FROM c)",
                "EXISTS (SELECT 1 INTO x FROM b WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1 FROM (SELECT * FROM b) b WHERE b.a_id = a.id)",
                "EXISTS (SELECT 1 FROM b TABLESAMPLE (10) WHERE b.a_id = a.id)",
                "EXISTS (WITH c AS (SELECT 1) SELECT 1 FROM b WHERE b.a_id = a.id)",
                "EXISTS (VALUES (1))",
                "EXISTS (DELETE FROM b WHERE b.a_id = a.id RETURNING 1)",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id AND EXISTS (SELECT 1 FROM c WHERE c.a_id = a.id))",
                "EXISTS (SELECT 1 FROM b WHERE b.a_id = a.id AND x IN (SELECT 1))",
                "length(name) = 3",
                "lower(name, b) = 'x'",
                "lower(upper(name)) = 'x'",
                "lower(name) IS NULL",
                "now() > a",
                "a < CURRENT_DATE + 3",
                "a < CURRENT_DATE - INTERVAL '1' CENTURY",
                "a < CURRENT_TIME",
                "a = 1; DROP TABLE boat",
                "a = 1 -- all",
                "a = 1 /* all */",
                "a = 1 # all",
                "boat.a = 1",
                "a + 1 = 2",
                "1 = 1",
                "a = ?",
                "a = 'open",
                "a = \u0000",
                "a LIKE b",
                "a LIKE 'x!y' ESCAPE '!'",
                "a LIKE 'x' ESCAPE '!!'",
                "a ILIKE 'x'",
                "a IN (b)",
                "a IN ()",
                "CASE WHEN a = 1 THEN TRUE END",
                "a = 1 AND",
                "DELETE FROM boat",
                "a = DATE '2020-02-30'",
                "   "
            })
    void refusesWhatIsNotAConditionOnTheTablesOwnColumns(String text) {
        assertThatThrownBy(() -> SearchCondition.read(text)).isInstanceOf(MisuseException.class);
    }

    @ParameterizedTest
    @CsvSource(
            delimiter = '|',
            value = {
                "a = 1; b = 2 | position 6 | second statement",
                "a = 1 AND b = NULL | position 11 | use IS NULL",
                "a = 1 AND length(b) = 3 | position 11 | known are LOWER and UPPER",
                "a = = 2 | position 5 | not understood",
                "a = 1 OR | position 9 | ends before it is complete",
                "a IN (SELECT b FROM c) | position 6 | sub-select",
                "a = 1 AND EXISTS (SELECT x FROM b WHERE b.a_id = a.id) | position 11 | SELECT 1 FROM one table",
                "EXISTS (SELECT 1 FROM b WHERE b.x = 1) | position 1 | b.column = table.column"
            })
    void saysWhereAndWhy(String text, String position, String reason) {
        assertThatThrownBy(() -> SearchCondition.read(text))
                .hasMessageContaining(position)
                .hasMessageContaining(reason);
    }

    @Test
    void aThousandParenthesesAreRefusedAndFiftyAreRead() {
        assertThatThrownBy(() -> SearchCondition.read("(".repeat(1000) + "a = 1" + ")".repeat(1000)))
                .hasMessageContaining("nested deeper");
        assertThat(SearchCondition.read("(".repeat(50) + "a = 1" + ")".repeat(50)))
                .isEqualTo(column("a").equalTo(1L));
    }

    @Test
    void readsTheFewFunctionsThatAreKnown() {
        assertThat(SearchCondition.read("LOWER(email) = 'mira@example.org'"))
                .isEqualTo(column("email").equalToInAnyCase("Mira@example.org"));
        assertThat(SearchCondition.read("left_on < CURRENT_DATE - INTERVAL '30' DAY"))
                .isEqualTo(column("left_on").before(RelativeTime.today().minus(30, ChronoUnit.DAYS)));
        assertThat(SearchCondition.read("read_at >= CURRENT_TIMESTAMP"))
                .isEqualTo(column("read_at").atLeast(RelativeTime.now()));
        assertThat(SearchCondition.read("name LIKE '10!%%' ESCAPE '!'"))
                .isEqualTo(column("name").like("10\\%%"));
        assertThat(SearchCondition.read("left_on < :before").parameters()).containsExactly("before");
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "a = 1 AND b <> 'it''s' AND (c IS NULL OR d IS NOT NULL)",
                "NOT (a < 1 OR b IN (1, 2)) AND c LIKE 'x%'",
                "\"select\" = TRUE AND \"two words\" IS NOT FALSE",
                "a >= DATE '2020-01-01' AND b < TIMESTAMP '2020-01-01 12:30:00'",
                "UPPER(a) LIKE 'X!%%' ESCAPE '!' OR a < CURRENT_DATE + INTERVAL '2' MONTH",
                "a = -1.50 OR a < b OR c = :p",
                "day IS NOT NULL AND number = 3 AND year < 2020 AND \"date\" < DATE '2020-01-01'",
                "user = 'day' AND value LIKE 'from%' AND date IS NULL"
            })
    void whatPeopleAreShownReadsBackAsTheSameCondition(String text) {
        Condition condition = SearchCondition.read(text);

        assertThat(SearchCondition.read(ConditionText.of(condition))).isEqualTo(condition);
        if (condition.parameters().isEmpty()) {
            assertThat(JsonReader.condition(new JsonWriter().write(condition))).isEqualTo(condition);
        }
    }

    @Test
    void aThousandTermsAreNoDeeperThanTwo() {
        String text = IntStream.range(0, 1_000).mapToObj(i -> "a = " + i).collect(Collectors.joining(" OR "));

        assertThat(((Condition.Any) SearchCondition.read(text)).parts()).hasSize(1_000);
    }

    @Test
    void aColumnMayBeCalledByAnyWord() {
        for (String word : List.of("end", "exists", "union", "any", "order", "date", "lower", "number", "Over")) {
            Condition condition = column(word).equalTo(1L).and(column(word).isNotNull());

            assertThat(SearchCondition.read(ConditionText.of(condition))).isEqualTo(condition);
        }
    }
}
