// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;

/** Rules of the application's own: fees go with their mooring, except unpaid ones, which block. */
public class RulesOfTheHarbour {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.table("boat", t -> t.label("{name} ({registration})"))
                .table("inspection", t -> t.neverDeleted())
                .relation(
                        "fee.mooring_id", Rule.when(column("paid").isNot(true)).block("unpaid"), Rule.cascade())
                .relation("radio_message.call_sign -> boat.call_sign", Rule.leave()));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();

        for (int boat : new int[] {17, 12}) {
            Preview preview = vacancy.preview(Request.delete("boat").key(boat));
            System.out.println(vacancy.rules().label(preview.records().get(0)) + ": "
                    + preview.state().word());
            preview.blockers()
                    .forEach(blocker -> System.out.println(
                            "  " + blocker.rows() + " of " + blocker.table() + ": " + blocker.reason()));
        }
    }
}
