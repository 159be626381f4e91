// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.schema.Row;
import java.time.LocalDate;
import java.util.stream.Stream;

/** Rows by condition: looked at one by one before they go, with a limit that holds whatever the answer. */
public class ManyWithALimit {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .open();

        Condition left = column("left_on")
                .before(LocalDate.of(2026, 1, 1))
                .and(column("boat_id").in(15, 16, 17));
        Request request = Request.delete("mooring").where(left).atMost(2);
        try (Stream<Row> rows = vacancy.rows(request)) {
            rows.forEach(row -> System.out.println(row.get("id") + " left on " + row.get("left_on")));
        }
        Preview wide = vacancy.preview(request);
        System.out.println(wide.refusal());

        Preview narrow = vacancy.preview(request.and(SearchCondition.read("arrived_on >= DATE '2025-01-01'")));
        Outcome outcome = vacancy.execute(narrow, narrow.question().answer("yes"));
        System.out.println(outcome.receiptOrThrow().rows() + " gone");
    }
}
