// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rulebook;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.junit.jupiter.api.Assertions.assertTimeoutPreemptively;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.failure.VacancyException;
import io.vacancy.rulebook.sql.SearchCondition;
import java.time.Duration;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** Conditions and rule books that are made to take long, to fill the memory, or to be taken for something else. */
class HostileTextTest {

    @Test
    void noConditionTakesLong() {
        List<String> hostile = List.of(
                "a" + ".a".repeat(9_000) + " = 1",
                "NOT ".repeat(4_000) + "a = 1",
                "a = 'x'" + " || 'x'".repeat(2_500),
                "a = 1" + "::int".repeat(3_500),
                "a = " + "CAST(".repeat(90) + "1" + " AS INT)".repeat(90),
                "CASE WHEN ".repeat(1_500) + "a = 1" + " THEN 1 END".repeat(100),
                "a = " + "-".repeat(15_000) + "1",
                "a = " + "- ".repeat(8_000) + "1",
                "a = " + "+1".repeat(8_000),
                "(".repeat(101) + "a = 1" + ")".repeat(101),
                "a = 1" + " AND a = 1".repeat(1_990) + " AND",
                "a IN (" + "(".repeat(99) + "1" + ")".repeat(99) + ")",
                "a = 1 AND b" + " BETWEEN 1 AND b".repeat(1_200),
                "a = 'x" + "''".repeat(9_000),
                "a = " + "~".repeat(12_000) + "1",
                "EXISTS ".repeat(2_000) + "a");
        for (String text : hostile) {
            assertTimeoutPreemptively(Duration.ofSeconds(15), () -> assertThatThrownBy(() -> SearchCondition.read(text))
                    .as(text.substring(0, 30))
                    .isInstanceOf(MisuseException.class));
        }
    }

    @Test
    void longConditionsThatPeopleWriteAreStillRead() {
        assertThat(SearchCondition.read("a IN (1" + ", 1".repeat(4_000) + ")")).isInstanceOf(Condition.OneOf.class);
        assertThat(SearchCondition.read("a = 1" + " OR a = 2".repeat(500))).isInstanceOf(Condition.Any.class);
        assertThat(SearchCondition.read("NOT (NOT (a = 1 AND NOT b = 2))")).isInstanceOf(Condition.Not.class);
    }

    @Test
    void noRuleBookTakesLong() {
        StringBuilder aliases = new StringBuilder("version: 1\ntables: &a0 {}\n");
        for (int i = 1; i < 40; i++) {
            aliases.append("x" + i + ": &a" + i + " [*a" + (i - 1) + ", *a" + (i - 1) + "]\n");
        }
        List<String> hostile = List.of(
                "version: 1\ntables: " + "[".repeat(50_000),
                "version: 1\ntables: " + "{a: ".repeat(50_000),
                "version: 1\n" + "- ".repeat(50_000),
                "x".repeat(3_000_000),
                aliases.toString());
        for (String text : hostile) {
            assertTimeoutPreemptively(
                    Duration.ofSeconds(15), () -> assertThatThrownBy(() -> RuleBookFile.read(text, "rules.yaml"))
                            .as(text.substring(0, 30))
                            .isInstanceOf(RuleBookException.class));
        }
        StringBuilder wrong = new StringBuilder("version: 1\ntables:\n");
        for (int i = 0; i < 20_000; i++) {
            wrong.append("  t" + i + ": {at-mots: 5, mode: gone}\n");
        }
        assertTimeoutPreemptively(Duration.ofSeconds(15), () -> assertThat(
                        RuleBookFile.reading(wrong.toString(), "rules.yaml").problems())
                .hasSize(1_000));
        StringBuilder many = new StringBuilder("version: 1\ntables:\n");
        for (int i = 0; i < 20_000; i++) {
            many.append("  t" + i + ": {at-most: 5}\n");
        }
        assertTimeoutPreemptively(Duration.ofSeconds(15), () -> assertThat(
                        RuleBookFile.read(many.toString(), "rules.yaml").tables())
                .hasSize(20_000));
    }

    @Test
    void whateverIsChangedEndsInAConditionOrAReason() {
        Random random = new Random(20261126);
        String text = "left_on < DATE '2020-01-01' AND status IN ('sold', 'sunk') OR NOT (name LIKE 'a%' ESCAPE '!')";
        for (int i = 0; i < 20 * Integer.getInteger("vacancy.cases", 80); i++) {
            StringBuilder forged = new StringBuilder(text);
            for (int change = 0; change <= random.nextInt(3); change++) {
                int at = random.nextInt(forged.length());
                switch (random.nextInt(3)) {
                    case 0 -> forged.deleteCharAt(at);
                    case 1 -> forged.setCharAt(at, (char) (1 + random.nextInt(0x250)));
                    default -> forged.insert(at, "()'\";-/*|:.=<>!".charAt(random.nextInt(15)));
                }
            }
            try {
                SearchCondition.read(forged.toString());
            } catch (VacancyException reason) {
                assertThat(reason.getMessage()).isNotBlank();
            }
        }
    }
}
