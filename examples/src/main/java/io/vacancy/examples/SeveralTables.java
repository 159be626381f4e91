// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;

/** A boat is struck off with a fee that would keep it, and with the orders of a yard: all of it or nothing. */
public class SeveralTables {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.relation(
                "fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade()));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();

        Request boat = Request.delete("boat").key(17);
        System.out.println("alone: " + vacancy.preview(boat).state().word());

        Request together = boat.plus(Request.delete("fee").key(708))
                .plus(Request.delete("work_order").where(column("yard_id").equalTo(1)))
                .because("struck off");
        Preview preview = vacancy.preview(together);
        System.out.println(preview.question().title());
        Receipt receipt =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();
        receipt.selected().forEach((table, rows) -> System.out.println(table + ": " + rows));

        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("it was the wrong boat"))
                .receiptOrThrow();
        System.out.println("back:  " + vacancy.preview(boat).state().word());
    }
}
