package io.vacancy.jdbc.archive;

import io.vacancy.archive.KeptColumn;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.own.OwnTables;
import io.vacancy.jdbc.own.Times;
import io.vacancy.jdbc.removal.Taken;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.session.Slipped;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.program.Keeping;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TableName;
import io.vacancy.text.json.JsonWriter;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/** Keeps the receipt of what a transaction does, and the images of what it takes away. */
public final class Keeper {

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final Keeping keeping;
    private long receiptNo;
    private int part = 1;
    private int line;

    public Keeper(Session session, OwnTables tables, Keeping keeping) {
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.keeping = keeping;
    }

    /**
     * Begins the receipt, or a further part of one.
     *
     * @param receipt as far as it is known by now
     */
    public void begin(Receipt receipt) {
        if (keeping.continued() && goOn()) {
            return;
        }
        Sql insert = Sql.of("INSERT INTO " + name("receipt")
                        + " (id, table_name, mode, actor, because, made_at, parts) VALUES (")
                .bind(keeping.receipt(), OwnTables.TEXT)
                .add(", ")
                .bind(receipt.table().toString(), OwnTables.TEXT)
                .add(", ")
                .bind(receipt.mode().word(), OwnTables.TEXT)
                .add(", ")
                .bind(keeping.actor(), OwnTables.TEXT)
                .add(", ");
        String because = receipt.because();
        (because == null ? insert.add("NULL") : insert.bind(because, OwnTables.TEXT))
                .add(", ")
                .bind(Times.written(keeping.at()), OwnTables.TEXT)
                .add(", 1)");
        session.update(insert, context("keeping the receipt of", receipt.table()));
        receiptNo = numbers("SELECT receipt_no, parts").get(0)[0];
    }

    /** Whether there is such a receipt already; if so, this is its next part. */
    private boolean goOn() {
        List<long[]> known = numbers("SELECT receipt_no, parts");
        if (known.isEmpty()) {
            return false;
        }
        receiptNo = known.get(0)[0];
        Sql more = Sql.of("UPDATE " + name("receipt") + " SET parts = parts + 1 WHERE receipt_no = " + receiptNo);
        session.update(more, new Context("continuing a receipt", null, null));
        part = (int) numbers("SELECT receipt_no, parts").get(0)[1];
        line = (int) session.number(
                Sql.of("SELECT COALESCE(MAX(line) + 1, 0) FROM " + name("line") + " WHERE receipt_no = " + receiptNo),
                new Context("continuing a receipt", null, null));
        return true;
    }

    private List<long[]> numbers(String select) {
        return session.query(
                Sql.of(select + " FROM " + name("receipt") + " WHERE id = ").bind(keeping.receipt(), OwnTables.TEXT),
                new Context("reading a receipt", null, null),
                row -> new long[] {row.getLong(1), row.getLong(2)});
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
    public void keep(List<Taken> takes) {
        for (Taken taken : takes) {
            if (keeping.keeps(taken.table().name())) {
                keep(taken);
            }
        }
    }

    private void keep(Taken taken) {
        Image image = Image.of(taken, dialect);
        TableName table = taken.table().name();
        if (image.columns().size() > dialect.cells().width()) {
            throw new MisuseException(
                    "Table " + table + " has " + image.columns().size() + " columns, and an image on " + dialect.name()
                            + " holds " + dialect.cells().width() + ".",
                    "Have the rule book keep no images of it, or say --no-archive.");
        }
        LongConsumer gone = taken.gone();
        boolean atOnce = gone != null && dialect.keepsWhileDeleting();
        long kept = session.update(
                atOnce ? removal(taken, image) : insertion(taken, image), context("keeping images of", table));
        if (gone != null && atOnce) {
            gone.accept(kept);
        }
        Long expected = taken.rows();
        if (expected != null && expected != kept) {
            throw new Slipped("Of " + expected + " rows found in " + table + ", " + kept
                    + " were still the same when images of them were made.");
        }
        Instant until = keeping.until(table);
        Sql insertLine = Sql.of("INSERT INTO " + name("line")
                        + " (receipt_no, line, part, table_name, links, relation, columns_kept, rows_kept, rows_there,"
                        + " rows_left, until_at) VALUES (" + receiptNo + ", " + line + ", " + part + ", ")
                .bind(table.toString(), OwnTables.TEXT)
                .add(", " + (taken.written().isEmpty() ? 0 : 1) + ", ");
        optional(insertLine, taken.relation())
                .add(", ")
                .bind(KeptColumns.written(image.columns()), OwnTables.TEXT)
                .add(", " + kept + ", " + kept + ", " + kept + ", ");
        optional(insertLine, until == null ? null : Times.written(until)).add(")");
        session.update(insertLine, context("keeping images of", table));
        line++;
    }

    /** Nobody may change a row between its image and its removal; what was looked at before is locked already. */
    private Sql insertion(Taken taken, Image image) {
        return into(image)
                .add("SELECT " + receiptNo + ", " + line)
                .add(image.packed(dialect))
                .add(" FROM " + dialect.table(taken.table().name()) + " t WHERE ")
                .add(taken.which())
                .add(taken.rows() == null ? dialect.forUpdate() : "");
    }

    /** The image is of just the row that goes, since one statement does both. */
    private Sql removal(Taken taken, Image image) {
        List<String> names = dialect.cells().columns(image.columns().size());
        return Sql.of("WITH gone (receipt_no, line, " + String.join(", ", names) + ") AS ("
                        + dialect.deleteFrom(dialect.table(taken.table().name())) + " WHERE ")
                .add(taken.which())
                .add(" RETURNING " + receiptNo + ", " + line)
                .add(image.packed(dialect))
                .add(") ")
                .add(into(image))
                .add("SELECT * FROM gone");
    }

    private Sql into(Image image) {
        return Sql.of("INSERT INTO " + name("image") + " (receipt_no, line, "
                + String.join(", ", dialect.cells().columns(image.columns().size())) + ") ");
    }

    private static Sql optional(Sql sql, @Nullable String text) {
        return text == null ? sql.add("NULL") : sql.bind(text, OwnTables.TEXT);
    }

    /** Keeps what was done, as the receipt tells it. */
    public void end(Receipt receipt) {
        Sql insert = Sql.of("INSERT INTO " + name("part") + " (receipt_no, part, made_at, content) VALUES (" + receiptNo
                        + ", " + part + ", ")
                .bind(Times.written(receipt.at()), OwnTables.TEXT)
                .add(", ")
                .bind(new JsonWriter().write(new Outcome.Done(receipt)), OwnTables.TEXT)
                .add(")");
        session.update(insert, context("keeping the receipt of", receipt.table()));
    }

    private String name(String table) {
        return dialect.table(tables.table(table));
    }

    private static Context context(String step, TableName table) {
        return Context.of(step, table);
    }

    /** What an image of a row has: its columns, and the cells they go into. */
    record Image(List<KeptColumn> columns, List<Sql> cells, List<ColumnType> types) {

        /** In cells, for the table of images. */
        static Image of(Taken taken, Dialect dialect) {
            return of(taken, dialect, dialect::toCell);
        }

        /** As it is read from the database, for a copy outside of it. */
        static Image copied(Taken taken, Dialect dialect) {
            return of(taken, dialect, dialect::toCopy);
        }

        private interface Form {
            String of(String value, ColumnType type);
        }

        private static Image of(Taken taken, Dialect dialect, Form form) {
            Image image = new Image(new ArrayList<>(), new ArrayList<>(), new ArrayList<>());
            if (taken.written().isEmpty()) {
                taken.table().columns().forEach(column -> image.add(column, "", stored(column, dialect), form));
                return image;
            }
            // By its key the row is found again; the link is put back only while it holds what was written.
            for (String key : taken.table().identity().columns()) {
                image.add(taken.table().column(key), "", stored(taken.table().column(key), dialect), form);
            }
            for (Map.Entry<String, Sql> written : taken.written().entrySet()) {
                Column column = taken.table().column(written.getKey());
                image.add(column, KeptColumn.OLD, stored(column, dialect), form);
                image.add(column, KeptColumn.WRITTEN, written.getValue(), form);
            }
            return image;
        }

        private static Sql stored(Column column, Dialect dialect) {
            return Sql.of("t." + dialect.quote(column.name()));
        }

        private void add(Column column, String before, Sql value, Form form) {
            columns.add(new KeptColumn(before + column.name(), column.type().declared()));
            types.add(column.type());
            String[] around = form.of("\0", column.type()).split("\0", -1);
            Sql cell = Sql.of(around[0]);
            for (int i = 1; i < around.length; i++) {
                cell.add(value).add(around[i]);
            }
            cells.add(cell);
        }

        /** The values of the columns that hold cells, each with a comma before it. */
        Sql packed(Dialect dialect) {
            List<String> places = new ArrayList<>();
            for (int i = 0; i < cells.size(); i++) {
                places.add("\0" + i + "\0");
            }
            Sql packed = new Sql();
            for (String part : dialect.cells().packed(places, types)) {
                packed.add(", ");
                String[] pieces = part.split("\0", -1);
                for (int i = 0; i < pieces.length; i++) {
                    if (i % 2 == 0) {
                        packed.add(pieces[i]);
                    } else {
                        packed.add(cells.get(Integer.parseInt(pieces[i])));
                    }
                }
            }
            return packed;
        }
    }
}
