package io.vacancy.examples;

import static io.vacancy.condition.ColumnTerm.column;

import io.vacancy.Vacancy;
import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Images;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.request.Restore;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleBook;
import io.vacancy.text.rows.SavedFile;
import io.vacancy.text.rows.SavedFileWriter;
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

        Receipt gone = vacancy.carryOut(
                        Request.from("boat").key(17).because("sold").expect(1))
                .receiptOrThrow();
        try (Stream<Kept> kept = vacancy.archive().kept(KeptQuery.all().of("boat"))) {
            kept.forEach(line -> System.out.println(
                    line.left() + " " + line.table() + " by " + line.by() + ", because: " + line.because()));
        }

        Preview back = vacancy.previewRestore(Restore.of(gone.id()));
        System.out.println(back.question().title() + " " + back.findings().going() + " rows");
        vacancy.carryOut(back, back.question().answer("yes")).receiptOrThrow();

        // Only a part of what went, and only what nothing stands in the way of.
        Receipt again = vacancy.carryOut(Request.from("boat").key(17).expect(1)).receiptOrThrow();
        Request part = vacancy.request(Restore.of(again.id()).only("boat", 17)).onBlocked(OnBlocked.SPARE);
        vacancy.carryOut(part.expect(1)).receiptOrThrow();

        // Held, it goes neither by itself nor by hand.
        Hold hold = vacancy.archive().holdRow("boat", 17, "case 7");
        System.out.println(
                vacancy.carryOut(Request.from("boat").key(17).expect(1)).state());
        vacancy.archive().release(hold.number());

        // What a scheduler runs every night.
        for (Request due : vacancy.archive().due()) {
            vacancy.carryOut(due.unasked("its time is over"));
        }
        // Somebody asks for what is kept of one boat to go at once.
        Request boat =
                Request.from("boat").where(column("name").equalTo("Osprey")).purging();
        System.out.println(vacancy.preview(boat).question().title());

        // Outside the database: flushed to disk before the commit, and brought back from there.
        Path file = Files.createTempDirectory("harbour").resolve("boat-17.jsonl");
        try (SavedFileWriter writer = new SavedFileWriter(file)) {
            vacancy.savingTo(writer)
                    .carryOut(Request.from("boat").key(17).withoutArchive().expect(1))
                    .receiptOrThrow();
            writer.keep();
        }
        Request fromFile = Request.from("boat").everyRow().fromArchive(Images.of(SavedFile.open(file)));
        System.out.println(vacancy.carryOut(fromFile.expect(1)).state());
    }
}
