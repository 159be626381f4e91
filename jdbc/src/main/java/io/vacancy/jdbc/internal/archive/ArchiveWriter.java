// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.access.ScopeMarks;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.StoredScopes;
import io.vacancy.jdbc.internal.tables.TextDigest;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchivePolicy;
import io.vacancy.spi.plan.EncryptedColumns;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.ArchiveDigests;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/** Keeps the receipt of what a transaction does, and the images of what it takes away. */
public final class ArchiveWriter {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    /** How many lines a part has room for that the caller numbers; a line is a table, by one relation. */
    private static final int LINES = 20_000;

    private final ArchivePolicy archivePolicy;
    private long receiptNo;
    private int part = 1;
    private int line;
    private long rows;
    private @Nullable List<String> onePerson;
    private final long began = System.nanoTime();
    private final List<ImageDigests.Line> written = new ArrayList<>();

    public ArchiveWriter(Session session, OwnTables tables, ArchivePolicy archivePolicy) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.archivePolicy = archivePolicy;
    }

    /**
     * Takes the identity of a request, which waits for whoever may just be using it.
     *
     * @param key null where the request has none
     * @return whether it was free
     */
    public boolean claim(@Nullable RequestKey key) {
        if (key == null) {
            return true;
        }
        Sql insert = Sql.of(
                        "INSERT INTO " + name("request") + " (request_id, actor, digest, receipt_id, made_at) VALUES (")
                .bind(key.id(), OwnTables.TEXT)
                .add(", ")
                .bind(key.actor(), OwnTables.TEXT)
                .add(", ")
                .bind(key.digest(), OwnTables.TEXT)
                .add(", ")
                .bind(archivePolicy.receipt().value(), OwnTables.TEXT)
                .add(", ")
                .bind(Times.written(archivePolicy.at()), OwnTables.TEXT)
                .add(")");
        return session.insertUnique(insert, new StatementContext("taking the identity of the request", null, null));
    }

    /**
     * Whether a part of the receipt is committed; if not, no transaction that is still open will commit it. To be
     * rolled back after this.
     *
     * @param most from 1
     */
    public boolean provesCommitted(TableName table, int most) {
        if (archivePolicy.part() > 1) {
            // Whoever adds the same part has inserted it, or is just doing so.
            List<long[]> known = numbers("SELECT receipt_no, parts");
            return !known.isEmpty()
                    && !session.insertUnique(
                            insertPart(known.get(0)[0], archivePolicy.part(), archivePolicy.at(), "probe", 0, 0),
                            new StatementContext("looking for a receipt", null, null));
        }
        if (most > 1) {
            // The row of the receipt is locked by whoever adds a part.
            Sql lock = Sql.of("UPDATE " + name("receipt") + " SET parts = parts WHERE id = ")
                    .bind(archivePolicy.receipt().value(), OwnTables.TEXT);
            session.update(lock, new StatementContext("looking for a receipt", null, null));
            List<long[]> known = numbers("SELECT receipt_no, parts");
            return !known.isEmpty() && known.get(0)[1] >= most;
        }
        return !session.insertUnique(
                insertReceipt(table, "probe", null), new StatementContext("looking for a receipt", null, null));
    }

    /**
     * Begins the receipt, or a further part of one.
     *
     * @param receipt as far as it is known by now
     */
    public void begin(Receipt receipt) {
        StatementContext keeping = context("keeping the receipt of", receipt.table());
        if (archivePolicy.part() > 0) {
            part = archivePolicy.part();
            line = (part - 1) * LINES;
        }
        if (archivePolicy.continued() && goOn()) {
            return;
        }
        Sql insert = insertReceipt(receipt.table(), receipt.operation().word(), receipt.because());
        if (archivePolicy.part() == 0) {
            session.ahead(insert, keeping);
        } else if (session.attempt(insert, keeping) != null) {
            // Somebody else has begun it with another part.
            goOn();
            return;
        }
        receiptNo = numbers("SELECT receipt_no, parts").get(0)[0];
    }

    private Sql insertReceipt(TableName table, String operation, @Nullable String because) {
        Sql insert = Sql.of("INSERT INTO " + name("receipt")
                        + " (id, table_name, mode, actor, because, made_at, scopes, parts) VALUES (")
                .bind(archivePolicy.receipt().value(), OwnTables.TEXT)
                .add(", ")
                .bind(table.toString(), OwnTables.TEXT)
                .add(", ")
                .bind(operation, OwnTables.TEXT)
                .add(", ")
                .bind(archivePolicy.actor(), OwnTables.TEXT)
                .add(", ");
        Sql whole = optional(insert, because)
                .add(", ")
                .bind(Times.written(archivePolicy.at()), OwnTables.TEXT)
                .add(", ");
        return optional(whole, StoredScopes.written(archivePolicy.scopes())).add(", 1)");
    }

    /** Whether there is such a receipt already; if so, this is its next part. */
    private boolean goOn() {
        List<long[]> known = numbers("SELECT receipt_no, parts");
        if (known.isEmpty()) {
            return false;
        }
        receiptNo = known.get(0)[0];
        Sql scopes = Sql.of("SELECT scopes FROM " + name("receipt") + " WHERE receipt_no = " + receiptNo);
        ScopeMarks before = session.query(
                        scopes,
                        new StatementContext("reading a receipt", null, null),
                        row -> StoredScopes.read(row.getString(1)))
                .get(0);
        if (!before.equals(archivePolicy.scopes())) {
            throw new MisuseException(
                    "The receipt " + archivePolicy.receipt() + " cannot be continued from here.",
                    "Go on as the one who began it, on the same tables and in the same scope.");
        }
        if (archivePolicy.part() > 0) {
            return true;
        }
        Sql more = Sql.of("UPDATE " + name("receipt") + " SET parts = parts + 1 WHERE receipt_no = " + receiptNo);
        session.update(more, new StatementContext("continuing a receipt", null, null));
        part = (int) numbers("SELECT receipt_no, parts").get(0)[1];
        line = (int) session.number(
                Sql.of("SELECT COALESCE(MAX(line) + 1, 0) FROM " + name("line") + " WHERE receipt_no = " + receiptNo),
                new StatementContext("continuing a receipt", null, null));
        return true;
    }

    private List<long[]> numbers(String select) {
        return session.query(
                Sql.of(select + " FROM " + name("receipt") + " WHERE id = ")
                        .bind(archivePolicy.receipt().value(), OwnTables.TEXT),
                new StatementContext("reading a receipt", null, null),
                row -> new long[] {row.getLong(1), row.getLong(2)});
    }

    /** All rows belong to one person, who has this key. */
    public void belongingTo(List<String> person) {
        onePerson = person;
    }

    /** How many images were made. */
    public long rows() {
        return rows;
    }

    /** Goes on with the next part of the receipt, once the one before is committed. */
    public void next() {
        session.update(
                Sql.of("UPDATE " + name("receipt") + " SET parts = parts + 1 WHERE receipt_no = " + receiptNo),
                new StatementContext("continuing a receipt", null, null));
        part++;
        written.clear();
    }

    /** Takes back all images of the receipt, of rows that are still there. */
    public void withdraw() {
        StatementContext context = new StatementContext("taking back images", null, null);
        session.update(Sql.of("DELETE FROM " + name("image") + " WHERE receipt_no = " + receiptNo), context);
        session.update(
                Sql.of("UPDATE " + name("line") + " SET rows_there = 0, rows_left = 0 WHERE receipt_no = " + receiptNo),
                context);
    }

    /** Which part of the receipt it is, from 1. */
    public int part() {
        return part;
    }

    /** The receipt's number in the database. */
    public long receiptNo() {
        return receiptNo;
    }

    /** Keeps images of rows before they go, and what links hold before they change. */
    public void archive(List<RowsToArchive> takes) {
        for (RowsToArchive taken : takes) {
            if (!taken.copies() || archivePolicy.keeps(taken.table().name())) {
                keep(taken);
            }
        }
    }

    private void keep(RowsToArchive taken) {
        TableName table = taken.table().name();
        EncryptedColumns encrypted = archivePolicy.encrypted().get(table);
        Image image = Image.of(taken, dialect, RowEncryption.of(session, taken, encrypted, onePerson));
        if (image.columns().size() > dialect.images().encoding().width()) {
            throw new MisuseException(
                    "Table " + table + " has " + image.columns().size() + " columns, and an image on " + dialect.name()
                            + " holds " + dialect.images().encoding().width() + ".",
                    "Have the rule book archive none of its rows, or delete without an archive.");
        }
        LongConsumer gone = taken.gone();
        boolean atOnce = gone != null && dialect.images().keepsWhileDeleting();
        long archived = session.update(
                atOnce ? removal(taken, image) : insertion(taken, image), context("keeping images of", table));
        if (gone != null && atOnce) {
            gone.accept(archived);
        }
        rows += archived;
        Long expected = taken.rows();
        if (expected != null && expected != archived) {
            throw new ConcurrentChangeException("Of " + expected + " rows found in " + table + ", " + archived
                    + " were still the same when images of them were made.");
        }
        // What is marked stays until it is erased, and so long it can come back.
        Instant until = taken.copies() ? archivePolicy.until(table) : null;
        Sql insertLine = Sql.of("INSERT INTO " + name("line")
                        + " (receipt_no, line, part, table_name, kind, relation, archived_columns, rows_archived, rows_there,"
                        + " rows_left, until_at) VALUES (")
                .bind(receiptNo, OwnTables.NUMBER)
                .add(", " + line + ", " + part + ", ")
                .bind(table.toString(), OwnTables.TEXT)
                .add(", " + ArchivedColumns.number(taken.kind()) + ", ");
        optional(insertLine, taken.relation())
                .add(", ")
                .bind(ArchivedColumns.written(image.columns()), OwnTables.TEXT)
                .add(", ");
        for (int count = 0; count < 3; count++) {
            insertLine.bind(archived, OwnTables.NUMBER).add(", ");
        }
        optional(insertLine, until == null ? null : Times.written(until)).add(")");
        session.ahead(insertLine, context("keeping images of", table));
        written.add(new ImageDigests.Line(receiptNo, line, table.toString(), image.columns()));
        line++;
    }

    /** Nobody may change a row between its image and its removal; what was looked at before is locked already. */
    private Sql insertion(RowsToArchive taken, Image image) {
        return into(image)
                .add("SELECT ")
                .add(selectedReceiptNo())
                .add(", " + line)
                .add(image.packed(dialect))
                .add(" FROM " + dialect.syntax().table(taken.table().name()) + " t WHERE ")
                .add(taken.which())
                .add(taken.rows() == null ? dialect.locking().forUpdate() : "");
    }

    /** The image is of just the row that goes, since one statement does both. */
    private Sql removal(RowsToArchive taken, Image image) {
        List<String> names = dialect.images().encoding().columns(image.columns().size());
        return Sql.of("WITH gone (receipt_no, line, " + String.join(", ", names) + ") AS ("
                        + dialect.syntax()
                                .deleteFrom(dialect.syntax().table(taken.table().name())) + " WHERE ")
                .add(taken.which())
                .add(" RETURNING ")
                .add(selectedReceiptNo())
                .add(", " + line)
                .add(image.packed(dialect))
                .add(") ")
                .add(into(image))
                .add("SELECT * FROM gone");
    }

    /** As a value beside the statement, so that the statement for a table is always the same. */
    private Sql selectedReceiptNo() {
        return dialect.syntax().typed(new Sql().bind(receiptNo, OwnTables.NUMBER), OwnTables.NUMBER);
    }

    private Sql into(Image image) {
        return Sql.of("INSERT INTO " + name("image") + " (receipt_no, line, "
                + String.join(
                        ", ",
                        dialect.images().encoding().columns(image.columns().size())) + ") ");
    }

    private static Sql optional(Sql sql, @Nullable String text) {
        return text == null ? sql.add("NULL") : sql.bind(text, OwnTables.TEXT);
    }

    /**
     * Keeps what was done, as the receipt tells it.
     *
     * @return the document that is kept
     */
    public String end(Receipt receipt) {
        String document = new JsonWriter().write(new Outcome.Done(receipt));
        session.ahead(
                insertPart(receiptNo, part, receipt, document), context("keeping the receipt of", receipt.table()));
        return document;
    }

    /** With the number of its rows and how long it took, by which it is told how long others will take. */
    private Sql insertPart(long number, int ofPart, Receipt receipt, String document) {
        long rows =
                receipt.totals().values().stream().mapToLong(Long::longValue).sum();
        long took = Duration.ofNanos(System.nanoTime() - began).toMillis();
        return insertPart(number, ofPart, receipt.at(), document, rows, took);
    }

    private Sql insertPart(long number, int ofPart, Instant madeAt, String document, long rows, long took) {
        return Sql.of("INSERT INTO " + name("part")
                        + " (receipt_no, part, made_at, content, rows_affected, took_ms) VALUES (")
                .bind(number, OwnTables.NUMBER)
                .add(", " + ofPart + ", ")
                .bind(Times.written(madeAt), OwnTables.TEXT)
                .add(", ")
                .bind(document, OwnTables.TEXT)
                .add(", ")
                .bind(rows, OwnTables.NUMBER)
                .add(", ")
                .bind(took, OwnTables.NUMBER)
                .add(")");
    }

    /** By what is found that somebody changes what is kept here. */
    public ArchiveDigests digests(String document) {
        return new ArchiveDigests(
                TextDigest.of(document),
                archivePolicy.digests() ? new ImageDigests(session, tables).of(written) : List.of());
    }

    private String name(String table) {
        return dialect.syntax().table(tables.table(table));
    }

    private static StatementContext context(String step, TableName table) {
        return StatementContext.of(step, table);
    }
}
