// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.crash;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.UrlDataSource;
import io.vacancy.jdbc.CountingSource;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import javax.sql.DataSource;

/**
 * A process of its own that deletes, restores or purges, to be killed while it does: {@code URL delete|restore|purge
 * [STEP]}. Before the statement or commit of that number it stops and waits for its end; else it says how many there were.
 */
final class Victim {

    private Victim() {}

    public static void main(String[] words) {
        int stop = words.length > 2 ? Integer.parseInt(words[2]) : 0;
        AtomicInteger steps = new AtomicInteger();
        DataSource source = new CountingSource(source(words[0]), step -> {
            steps.set(step);
            if (step == stop) {
                System.out.println("stopped");
                waitForTheEnd();
            }
        });
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source).withKeysInMemory(10))
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
        System.out.println("steps " + steps.get());
        System.out.println("done");
    }

    private static void waitForTheEnd() {
        try {
            Thread.sleep(Long.MAX_VALUE);
        } catch (InterruptedException never) {
            throw new IllegalStateException(never);
        }
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
