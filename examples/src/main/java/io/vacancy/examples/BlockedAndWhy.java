// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Blocker;
import io.vacancy.request.Request;

/** A boat whose inspections the schema protects: nothing goes, and the outcome says what stands in the way. */
public class BlockedAndWhy {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .open();

        Outcome outcome = vacancy.execute(Request.delete("boat").key(14).withoutConfirmation("nightly clean-up"));

        if (outcome instanceof Outcome.Blocked blocked) {
            for (Blocker blocker : blocked.preview().blockers()) {
                System.out.println(blocker.rows() + " of " + blocker.table() + " through " + blocker.relation() + ": "
                        + blocker.reason());
                blocker.sample()
                        .forEach(row -> System.out.println("  " + row.text("inspected_on") + " " + row.text("result")));
            }
        }
        System.out.println(outcome.message());
    }
}
