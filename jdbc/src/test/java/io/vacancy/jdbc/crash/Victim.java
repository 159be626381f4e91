// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.crash;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.UrlDataSource;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.util.stream.Stream;
import javax.sql.DataSource;

/** A process of its own that deletes, restores or purges, to be killed while it does: {@code URL delete|restore|purge}. */
final class Victim {

    private Victim() {}

    public static void main(String[] words) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source(words[0])).withKeysInMemory(10))
                .actor(() -> "Mira Holm")
                .open();
        System.out.println("ready");
        switch (words[1]) {
            case "delete" -> vacancy.execute(Request.delete("boat").everyRow().withoutConfirmation("a test"));
            case "restore" -> {
                Preview back = vacancy.preview(Request.restore(receipt(vacancy)));
                vacancy.execute(back, back.question().answer(back.question().awaited()));
            }
            default -> vacancy.execute(Request.purge(receipt(vacancy)).withoutConfirmation("a test"));
        }
        System.out.println("done");
    }

    static ReceiptId receipt(Vacancy vacancy) {
        try (Stream<ArchivedRows> kept = vacancy.archive().rows(ArchiveQuery.all())) {
            return kept.findFirst().orElseThrow().receipt();
        }
    }

    static DataSource source(String url) {
        return new UrlDataSource(url);
    }
}
