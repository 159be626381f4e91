// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.archive.FilePersonKeys;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import javax.sql.DataSource;

/** What is archived of a person is encrypted, and can be read by nobody once the person's key is destroyed. */
public class KeyForEachPerson {

    public static void main(String[] args) throws IOException {
        Path keys = Files.createTempDirectory("keys");
        DataSource source = Harbour.fresh();
        RuleBook rules = RuleBook.build(book -> book.table("skipper", t -> t.person()
                        .personal("name", "email", "phone")
                        .blank("name", "skipper {id}")
                        .blank("email", "skipper-{id}@blank.invalid")
                        .forget(Rule.blank()))
                .table("boat", t -> t.forget(Rule.keep("the register of boats")))
                .table("berth_contract", t -> t.forget(Rule.keep("bookkeeping"))));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .personKeys(new FilePersonKeys(keys))
                .open();
        vacancy.archive().setUp();

        Receipt receipt = vacancy.execute(Request.forget("skipper").key(2).withoutConfirmation("asked to be forgotten"))
                .receiptOrThrow();
        System.out.println("to be restored: "
                + vacancy.preview(Request.restore(receipt.id())).state().word());
        vacancy.persons().destroyKey("skipper", 2);
        System.out.println("without the key: "
                + vacancy.preview(Request.restore(receipt.id())).state().word());
        Files.delete(keys);
    }
}
