package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.OwnTableRegistry;
import io.vacancy.jdbc.internal.trail.TrailWriter;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Schema;
import io.vacancy.spi.ArchiveStore.UsedKey;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * The place for receipts and images in one database.
 *
 * @param versions of the modules whose tables are there; none where there are none
 * @param registered whether the database itself has a version for each module
 */
public record ArchiveTables(OwnTables tables, Dialect dialect, Map<String, Integer> versions, boolean registered) {

    /**
     * Whether it is there.
     *
     * @throws MisuseException if it is of another version than this program works with, since going on without it
     *     would archive nothing of what is deleted
     */
    public boolean ready() {
        if (versions.isEmpty()) {
            return false;
        }
        for (OwnTableModule module : OwnTableRegistry.modules()) {
            int there = versions.getOrDefault(module.name(), 0);
            if (there < module.version()) {
                throw new NotSetUpException(
                        "Vacancy's own tables of " + module.name() + " are of version " + there
                                + ", and this program works with version " + module.version() + ".",
                        "Bring them up to date, by archive().setUp(); what they keep stays.");
            }
            if (there > module.version()) {
                throw new MisuseException(
                        "Vacancy's own tables of " + module.name() + " are of version " + there
                                + ", and this program knows versions up to " + module.version() + ".",
                        "Use the newer program.");
            }
        }
        return true;
    }

    /** What makes it, or brings it up to date. */
    public List<String> script() {
        return OwnTableRegistry.script(tables, dialect, versions, registered);
    }

    public Stream<ArchivedRows> archived(Session session, Schema schema, ArchiveQuery query) {
        return new ArchiveReader(session, tables, schema).stream(query).map(ArchiveReader.Line::kept);
    }

    /** The JSON documents of a receipt's parts. */
    public List<String> documents(Session session, ReceiptId id) {
        Sql select = Sql.of("SELECT p.content FROM " + dialect.syntax().table(tables.table("part")) + " p JOIN "
                        + dialect.syntax().table(tables.table("receipt"))
                        + " r ON r.receipt_no = p.receipt_no WHERE r.id = ")
                .bind(id.value(), OwnTables.TEXT)
                .add(" ORDER BY p.part");
        return session.query(select, new StatementContext("reading a receipt", null, null), row -> row.getString(1));
    }

    /** By whom and for what the identity of a request was used, or null if it was not. */
    public @Nullable UsedKey used(Session session, String requestId) {
        Sql select = Sql.of("SELECT actor, digest, receipt_id FROM "
                        + dialect.syntax().table(tables.table("request")) + " WHERE request_id = ")
                .bind(requestId, OwnTables.TEXT);
        return session
                .query(
                        select,
                        new StatementContext("looking for the identity of a request", null, null),
                        row -> new UsedKey(
                                new RequestKey(requestId, row.getString(1), row.getString(2)),
                                ReceiptId.of(row.getString(3))))
                .stream()
                .findFirst()
                .orElse(null);
    }

    /** A plan as it is in this database: with what is held here, and with an archive or without one. */
    public ExecutionPlan placed(ExecutionPlan plan, Session session) {
        return ready() ? plan.under(holds(session)) : plan.keepingNothing();
    }

    public List<Hold> holds(Session session) {
        return new Holds(session, tables).inForce();
    }

    public Hold place(Session session, Hold hold, Instant now, TrailEntry entry) {
        Hold placed = new Holds(session, tables).place(hold, now);
        new TrailWriter(session, tables).write(entry, null);
        return placed;
    }

    public boolean release(Session session, long number, String by, Instant now, TrailEntry entry) {
        boolean released = new Holds(session, tables).release(number, by, now);
        if (released) {
            new TrailWriter(session, tables).write(entry, null);
        }
        return released;
    }
}
