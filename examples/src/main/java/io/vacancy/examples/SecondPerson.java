// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.OpenQuestion;
import io.vacancy.request.Request;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import javax.sql.DataSource;

/** A deletion that the office asks for, and the harbour master approves. */
public class SecondPerson {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.relation("power_reading.mooring_id", Rule.cascade())
                .relation("fee.mooring_id", Rule.cascade())
                .approval(ApprovalEntry.ANY.table("mooring").above(2)));
        DataSource harbour = Harbour.fresh();
        Vacancy office = Vacancy.on(JdbcStore.of(harbour))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        office.archive().setUp();
        Vacancy master = Vacancy.on(JdbcStore.of(harbour))
                .rules(rules)
                .actor(() -> "Tavi Orn")
                .open();
        Request request = Request.erase("mooring").keys(502, 504, 506).because("old stays");

        OpenQuestion question = office.questions().open(office.preview(request));
        Outcome waiting = office.questions().answer(question.id(), "yes").orElseThrow();
        System.out.println(waiting.state().word() + ": " + ((Outcome.Waiting) waiting).reason());

        for (OpenQuestion each : master.questions().waiting()) {
            Preview same = master.preview(each.request().withoutId());
            System.out.println(each.by() + " asks: " + same.question().title());
            Outcome done = master.questions().approve(each.id(), "yes").orElseThrow();
            System.out.println(done.state().word() + ", on the account of "
                    + done.receiptOrThrow().by());
        }
    }
}
