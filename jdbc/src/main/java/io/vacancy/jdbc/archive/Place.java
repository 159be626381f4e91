package io.vacancy.jdbc.archive;

import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.own.OwnTables;
import io.vacancy.jdbc.own.Setup;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.jdbc.trail.Recorder;
import io.vacancy.schema.Schema;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;

/**
 * The place for receipts and images in one database.
 *
 * @param version of the tables that are there; 0 where there are none
 */
public record Place(OwnTables tables, Dialect dialect, int version) {

    /**
     * Whether it is there.
     *
     * @throws MisuseException if it is of another version than this program works with, since going on without it
     *     would keep nothing of what goes
     */
    public boolean ready() {
        if (version > 0 && version < Setup.VERSION) {
            throw new MisuseException(
                    "Vacancy's own tables are of version " + version + ", and this program works with version "
                            + Setup.VERSION + ".",
                    "Run `vacancy setup` once, or call archive().setUp(); what they keep stays.");
        }
        if (version > Setup.VERSION) {
            throw new MisuseException(
                    "Vacancy's own tables are of version " + version + ", and this program knows versions up to "
                            + Setup.VERSION + ".",
                    "Use the newer program.");
        }
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
                .bind(id, OwnTables.TEXT)
                .add(" ORDER BY p.part");
        return session.query(select, new Context("reading a receipt", null, null), row -> row.getString(1));
    }

    public List<Hold> holds(Session session) {
        return new Holds(session, tables).inForce();
    }

    public Hold place(Session session, Hold hold, Instant now, TrailEntry entry) {
        Hold placed = new Holds(session, tables).place(hold, now);
        new Recorder(session, tables).write(entry, null);
        return placed;
    }

    public boolean release(Session session, long number, String by, Instant now, TrailEntry entry) {
        boolean released = new Holds(session, tables).release(number, by, now);
        if (released) {
            new Recorder(session, tables).write(entry, null);
        }
        return released;
    }
}
