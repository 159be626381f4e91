// SPDX-License-Identifier: Apache-2.0
package io.vacancy.examples;

import static io.vacancy.condition.ColumnRef.column;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.MacKey;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Period;
import java.util.stream.Stream;
import javax.sql.DataSource;

/** What is erased leaves images for some days: listed, brought back, held, and gone for good. */
public class KeptAndBack {

    public static void main(String[] args) throws Exception {
        DataSource dataSource = Harbour.fresh();
        RuleBook rules = RuleBook.build(book -> book.retention(Retention.UNLIMITED.images(Period.ofDays(30)))
                .table("power_reading", t -> t.retention(Retention.UNLIMITED.withoutImages())));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(dataSource))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
        // Once for a database; the statements for a migration tool are archive().script().
        vacancy.archive().setUp();

        Receipt gone = vacancy.execute(
                        Request.delete("boat").key(17).because("sold").expect(1))
                .receiptOrThrow();
        try (Stream<ArchivedRows> kept =
                vacancy.archive().rows(ArchiveQuery.all().of("boat"))) {
            kept.forEach(line -> System.out.println(
                    line.left() + " " + line.table() + " by " + line.by() + ", because: " + line.because()));
        }

        Preview back = vacancy.preview(Request.restore(gone.id()));
        System.out.println(back.question().title() + " " + back.impact().going() + " rows");
        vacancy.execute(back, back.question().answer("yes")).receiptOrThrow();

        // Only a part of what went, and only what nothing stands in the way of.
        Receipt again =
                vacancy.execute(Request.delete("boat").key(17).expect(1)).receiptOrThrow();
        Request part = Request.restore(again.id(), "boat").keys(17).onBlocked(OnBlocked.SKIP);
        vacancy.execute(part.expect(1)).receiptOrThrow();

        // Held, it goes neither by itself nor by hand.
        Hold hold = vacancy.archive().holdRow("boat", 17, "case 7");
        System.out.println(vacancy.execute(Request.delete("boat").key(17).expect(1))
                .state()
                .word());
        vacancy.archive().release(hold.number());

        // What a scheduler runs every night.
        for (Request due : vacancy.archive().due()) {
            vacancy.execute(due.withoutConfirmation("their retention has expired"));
        }
        // Somebody asks for what is kept of one boat to go at once.
        Request boat = Request.purge("boat").where(column("name").equalTo("Osprey"));
        System.out.println(vacancy.preview(boat).question().title());

        // Outside the database: flushed to disk before the commit, sealed with a secret, and restored from there.
        Path file = Files.createTempDirectory("harbour").resolve("boat-17.jsonl");
        MacKey key = MacKey.of("a secret of the harbour office".getBytes(StandardCharsets.UTF_8));
        try (SavedFileWriter writer = new SavedFileWriter(file, key)) {
            vacancy.saveTo(writer)
                    .execute(Request.delete("boat").key(17).withoutArchive().expect(1))
                    .receiptOrThrow();
        }
        Request fromFile = Request.restore(SavedFile.open(file, key));
        System.out.println(vacancy.execute(fromFile.expect(1)).state().word());
    }
}
