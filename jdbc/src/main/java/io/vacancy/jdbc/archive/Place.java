package io.vacancy.jdbc.archive;

import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.Schema;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;

/**
 * The place for receipts and images in one database.
 *
 * @param version of the tables that are there; 0 where there are none
 */
public record Place(OwnTables tables, Dialect dialect, int version) {

    /** Whether it is of the version that this program works with. */
    public boolean ready() {
        return version == Setup.VERSION;
    }

    /** What makes it, or brings it up to date. */
    public List<String> script() {
        return new Setup(tables, dialect).from(version, Instant.now());
    }

    public Stream<Kept> kept(Session session, Schema schema, KeptQuery query) {
        return new KeptLines(session, tables, schema).stream(query).map(KeptLines.Line::kept);
    }

    /** The documents of a receipt's parts. */
    public List<String> receipts(Session session, String id) {
        Sql select = Sql.of("SELECT p.content FROM " + dialect.table(tables.table("part")) + " p JOIN "
                        + dialect.table(tables.table("receipt")) + " r ON r.receipt_no = p.receipt_no WHERE r.id = ")
                .bind(id, Keeper.TEXT)
                .add(" ORDER BY p.part");
        return session.query(select, new Context("reading a receipt", null, null), row -> row.getString(1));
    }

    public List<Hold> holds(Session session) {
        return new Holds(session, tables).inForce();
    }

    public Hold place(Session session, Hold hold, Instant now) {
        return new Holds(session, tables).place(hold, now);
    }

    public boolean release(Session session, long number, String by, Instant now) {
        return new Holds(session, tables).release(number, by, now);
    }
}
