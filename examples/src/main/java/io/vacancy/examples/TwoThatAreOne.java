// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;

/** A skipper who is in the list twice: one is merged into the other, and comes back by the receipt. */
public class TwoThatAreOne {

    public static void main(String[] args) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();

        Request merge = Request.merge("skipper").key(2).into(1).because("the same person");
        Preview preview = vacancy.preview(merge);
        System.out.println(preview.question().title());
        preview.effects()
                .forEach(effect -> System.out.println("  " + effect.rows() + " of " + effect.table()
                        + (effect.becomes() == null
                                ? " deleted"
                                : ": " + effect.relation() + " becomes " + effect.becomes())));
        Receipt merged =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();

        // What would collide is shown, and deleted only where somebody says so.
        Preview piers = vacancy.preview(Request.merge("pier").key(2).into(1));
        piers.blockers().forEach(blocker -> System.out.println(blocker.relation() + ": " + blocker.reason()));

        Outcome back = vacancy.execute(Request.restore(merged.id()).withoutConfirmation("they are two after all"));
        System.out.println("back: " + back.state().word());
    }
}
