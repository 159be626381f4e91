// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Harbour;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Effect;
import io.vacancy.request.Request;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.Arguments;
import org.junit.jupiter.params.provider.MethodSource;

class ConditionTest {

    private final Harbour harbour = new Harbour();

    static Stream<Arguments> written() {
        return Stream.of(
                Arguments.of(column("a").equalTo(1).and(column("b").isNull()), "a = 1 AND b IS NULL"),
                Arguments.of(
                        column("a").equalTo("it's").or(column("b").in(1, 2)).not(), "NOT (a = 'it''s' OR b IN (1, 2))"),
                Arguments.of(
                        column("d").before(RelativeTime.today().minus(30, ChronoUnit.DAYS)),
                        "d < CURRENT_DATE - INTERVAL '30' DAY"),
                Arguments.of(column("a").between(1, 2), "a >= 1 AND a <= 2"),
                Arguments.of(column("n").like("a%").and(column("x").isNot(true)), "n LIKE 'a%' AND NOT (x IS TRUE)"),
                Arguments.of(column("n").equalToInAnyCase("Tern"), "LOWER(n) = 'tern'"),
                Arguments.of(column("t").is(false), "t IS FALSE"),
                Arguments.of(
                        column("a")
                                .notEqualTo(3)
                                .and(column("c").isNotNull())
                                .or(column("e").greaterThan(new BigDecimal("1.50"))),
                        "(a <> 3 AND c IS NOT NULL) OR e > 1.50"),
                Arguments.of(column("d").equalTo(LocalDate.of(2026, 1, 2)), "d = DATE '2026-01-02'"));
    }

    @ParameterizedTest
    @MethodSource
    void written(Condition condition, String text) {
        assertThat(ConditionText.of(condition)).isEqualTo(text);
    }

    private List<String> selected(String table, Condition condition) {
        return harbour.preview(Request.erase(table).where(condition)).impact().effects().stream()
                .filter(effect -> effect.relation() == null)
                .map(Effect::sample)
                .flatMap(List::stream)
                .map(row -> row.text("id"))
                .toList();
    }

    @Test
    void unknownIsNotTrueAndNotFalse() {
        assertThat(selected("fee", column("paid").equalTo(true))).containsExactly("1700", "1710");
        assertThat(selected("fee", column("paid").notEqualTo(true))).isEmpty();
        assertThat(selected("fee", column("paid").equalTo(true).not())).isEmpty();
        assertThat(selected("fee", column("paid").isNot(true))).containsExactly("1800");
        assertThat(selected("fee", column("paid").isNull().or(column("amount").atMost("8"))))
                .containsExactly("1710", "1800");
        assertThat(selected("fee", column("amount").between("8.5", "9.00"))).containsExactly("1800");
        assertThat(selected("boat", column("name").like("_e%"))).containsExactly("14", "18");
        assertThat(selected("boat", column("name").in("Tern", "Heron"))).containsExactly("14", "18");
        assertThat(selected("boat", column("name").equalToInAnyCase("tern"))).containsExactly("18");
    }

    @Test
    void aNameOrAValueThatCannotBeIsTold() {
        assertThatThrownBy(() -> selected("boat", column("nam").equalTo("x")))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Column nam is not in table boat; did you mean name?");
        assertThatThrownBy(() -> selected("boat", column("left_on").equalTo("x")))
                .hasMessage("\"x\" cannot be a value of boat.left_on, which holds DATE: a date, such as 2026-05-01.");
        assertThatThrownBy(() -> selected("fee", column("amount").like("x")))
                .hasMessage("Column amount of fee holds DECIMAL, and LIKE is for text.");
        assertThatThrownBy(() -> selected("fee", column("amount").is(true)))
                .hasMessage("Column amount of fee holds DECIMAL, no truth value, so it is neither TRUE nor FALSE.");
        assertThatThrownBy(() -> selected("boat", column("name").equalTo(Parameter.parameter("p"))))
                .hasMessage("The condition requires a value for its parameter p, and none is given.");
        assertThatThrownBy(() -> harbour.preview(Request.erase("boat").key("seventeen")))
                .hasMessageContaining("\"seventeen\" cannot be a value of boat.id");
        assertThatThrownBy(
                        () -> harbour.preview(Request.erase("boat").everyRow().orderBy("name")))
                .hasMessage("An order of rows is given, and no number of rows to take in it.");
        assertThatThrownBy(() -> Request.erase("boat").everyRow().limit(0))
                .hasMessage("A limit must be 1 or more, not 0.");
    }

    @Test
    void theFirstOfAnOrderAreTaken() {
        assertThat(harbour.preview(Request.erase("boat")
                                .where(column("id").greaterThan(15))
                                .orderByDescending("id")
                                .limit(1))
                        .impact()
                        .records())
                .singleElement()
                .satisfies(row -> assertThat(row.getLong("id")).isEqualTo(19));
        assertThat(harbour.preview(Request.erase("boat")
                                .where(column("id").greaterThan(15))
                                .filter(row -> row.text("name").equals("Tern")))
                        .impact()
                        .records())
                .singleElement()
                .satisfies(row -> assertThat(row.getLong("id")).isEqualTo(18));
    }
}
