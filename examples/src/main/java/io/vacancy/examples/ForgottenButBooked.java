// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.util.stream.Stream;

/** A skipper who asks to be forgotten, and whose fees stay in the books: the row stays without what is personal. */
public class ForgottenButBooked {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.table("skipper", t -> t.personal("name", "email", "phone")
                .blank("name", "skipper {id}")
                .blank("email", "skipper-{id}@blank.invalid")));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();

        Request blank = Request.blank("skipper").key(1).because("asked to be forgotten");
        Preview preview = vacancy.preview(blank);
        System.out.println(preview.question().title());
        preview.question().consequences().forEach(consequence -> System.out.println("  " + consequence));
        Receipt receipt =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();
        show(vacancy);

        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("it was somebody else who asked"));
        show(vacancy);
    }

    private static void show(Vacancy vacancy) {
        try (Stream<Row> rows = vacancy.rows(Request.erase("skipper").key(1))) {
            rows.forEach(row -> System.out.println(row.text("name") + ", " + row.text("email")));
        }
    }
}
