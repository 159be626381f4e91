// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;

/** Deletes one record whose number is sure, and gets the record, the counts and the receipt back. */
public class DeleteOneAndPrintIt {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .open();

        // Nobody is asked, so the request says how many rows are meant: one, or nothing happens at all.
        Receipt receipt = vacancy.execute(
                        Request.delete("boat").key(17).because("sold").expect(1))
                .receiptOrThrow();

        System.out.println("gone:    " + receipt.record().text("name") + ", "
                + receipt.record().text("registration"));
        System.out.println("rows:    " + receipt.rows());
        receipt.effects()
                .forEach(effect -> System.out.println(
                        "         " + effect.rows() + " " + effect.action().word() + " " + effect.table()));
        System.out.println("by:      " + receipt.by() + ", because " + receipt.because());

        // Looking for it again finds nothing, which is an ending and no error.
        Outcome again = vacancy.execute(Request.delete("boat").key(17).expect(1));
        System.out.println("again:   " + again.state().word() + " - " + again.message());
    }
}
