// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.trail.Certificate;
import java.time.Period;
import java.util.stream.Stream;

/** A skipper is told what is stored, and forgotten; the boats stay in the register, and the contracts for ten years. */
public class PersonForgotten {

    public static void main(String[] args) {
        RuleBook rules = RuleBook.build(book -> book.table("skipper", t -> t.person()
                        .personal("name", "email", "phone")
                        .blank("name", "skipper {id}")
                        .blank("email", "skipper-{id}@blank.invalid")
                        .forget(Rule.blank()))
                .table("boat", t -> t.forget(Rule.keep("the register of boats")))
                .table(
                        "berth_contract",
                        t -> t.forget(Rule.keep("bookkeeping", "valid_until", Period.ofYears(10)), Rule.erase())));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();

        Request forget = Request.forget("skipper").key(2).because("asked to be forgotten");
        try (Stream<Row> rows = vacancy.persons().data(forget)) {
            rows.forEach(row -> System.out.println(row.table() + " " + row.get("id")));
        }
        Preview preview = vacancy.preview(forget);
        System.out.println(preview.question().title());
        preview.question().consequences().forEach(consequence -> System.out.println("  " + consequence));
        Receipt receipt =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();

        vacancy.execute(Request.purge(receipt.id()).withoutConfirmation("nothing of it is to be kept"));
        Certificate certificate = vacancy.persons().certificate(receipt.id()).orElseThrow();
        System.out.println(new JsonWriter().write(certificate));
    }
}
