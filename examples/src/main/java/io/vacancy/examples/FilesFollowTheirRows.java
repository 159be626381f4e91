// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import io.vacancy.Vacancy;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.json.RowObjects;
import io.vacancy.json.RowObjectsDelivery;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.rules.RuleBook;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Map;

/** The papers of a boat are files: kept while the boat may come back, removed with the last image of it. */
public class FilesFollowTheirRows {

    public static void main(String[] args) throws IOException {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(Harbour.fresh()))
                .rules(RuleBook.build(book -> book.outbox("/harbour/office")))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        Path papers = Files.createTempDirectory("papers");
        Path ofFee = Files.createFile(papers.resolve("fee-702.pdf"));

        RowObjects files = (table, key) -> {
            try {
                Files.deleteIfExists(papers.resolve(table + "-" + key + ".pdf"));
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        };
        RowObjectsDelivery delivery = new RowObjectsDelivery(vacancy, Map.of("fee", files));

        Receipt erased =
                vacancy.execute(Request.erase("fee").key(702).expect(1)).receiptOrThrow();
        delivery.deliver(100);
        System.out.println("erased, and archived: " + (Files.exists(ofFee) ? "kept" : "removed"));
        vacancy.execute(Request.purge(erased.id()).withoutConfirmation("its time has come"));
        delivery.deliver(100);
        System.out.println("purged:               " + (Files.exists(ofFee) ? "kept" : "removed"));
        Files.delete(papers);
    }
}
