// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.Parameter.parameter;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.question.Question.Strength;
import io.vacancy.request.Limits;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.ValueKind;
import java.util.Map;

/** A deletion with a name and a parameter, limits that the rule book sets, and questions that grow with the number. */
public class NamedAndGuarded {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.table(
                        "mooring", t -> t.limits(Limits.NONE.atMost(500).atMostPercent(50)))
                .table("skipper", t -> t.neverEmpty())
                .question(5, Strength.COUNT)
                .deletion("old-moorings", d -> d.from("mooring")
                        .where(column("left_on").before(parameter("before")))
                        .parameter("before", ValueKind.DATE)
                        .because("kept until the books are closed")));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();

        Request old = vacancy.request("old-moorings", Map.of("before", "2025-12-31"));
        Preview preview = vacancy.preview(old);
        System.out.println(preview.question().title());
        System.out.println("type " + preview.question().awaited() + " ("
                + preview.question().strength().word() + ")");
    }
}
