// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.schema.SchemaCache;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.OwnTableState;
import io.vacancy.jdbc.internal.tables.StoredScopes;
import io.vacancy.jdbc.internal.trail.TrailWriter;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore.UsedKey;
import io.vacancy.spi.ExecutionTime;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.TrailEntry;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The place for receipts and images in one database. */
public record ArchiveTables(OwnTableState state) {

    /** Among how many receipts those of one table are looked for. */
    private static final int LATEST = 10_000;

    /** As the database has it now. */
    public static ArchiveTables of(SchemaCache schema) {
        return new ArchiveTables(schema.ownTables());
    }

    /** Whether it is there, of the version that this program works with. */
    public boolean ready() {
        return state.ready();
    }

    /** What its tables are called. */
    public OwnTables tables() {
        return state.tables();
    }

    private Dialect dialect() {
        return state.dialect();
    }

    public Stream<ArchivedRows> archived(Session session, Schema schema, ArchiveQuery query) {
        return new ArchiveReader(session, tables(), schema).stream(query).map(ArchiveReader.Line::archived);
    }

    /** The JSON documents of a receipt's parts. */
    public List<String> documents(Session session, ReceiptId id) {
        Sql select = Sql.of("SELECT p.content FROM " + dialect().syntax().table(tables().table("part")) + " p JOIN "
                        + dialect().syntax().table(tables().table("receipt"))
                        + " r ON r.receipt_no = p.receipt_no WHERE r.id = ")
                .bind(id.value(), OwnTables.TEXT)
                .add(" ORDER BY p.part");
        return session.query(select, new StatementContext("reading a receipt", null, null), row -> row.getString(1));
    }

    /** How long what was done of a table took, newest first, among the last receipts of all. */
    List<ExecutionTime> executionTimes(Session session, TableName table, OperationKind operation, int most) {
        String receipt = dialect().syntax().table(tables().table("receipt"));
        Sql select = Sql.of("SELECT p.rows_affected, p.took_ms FROM "
                        + dialect().syntax().table(tables().table("part")) + " p JOIN " + receipt
                        + " r ON r.receipt_no = p.receipt_no WHERE r.receipt_no > (SELECT MAX(receipt_no) - "
                        + LATEST + " FROM " + receipt + ") AND p.rows_affected > 0 AND r.table_name = ")
                .bind(table.toString(), OwnTables.TEXT)
                .add(" AND r.mode = ")
                .bind(operation.word(), OwnTables.TEXT)
                .add(" ORDER BY p.receipt_no DESC, p.part DESC"
                        + dialect().syntax().firstRows(most));
        return session.query(
                select,
                new StatementContext("reading receipts", null, null),
                row -> new ExecutionTime(row.getLong(1), Duration.ofMillis(row.getLong(2))));
    }

    /** Under which scope a receipt was made; that of no scope for an unknown one. */
    public ScopeMarks scopes(Session session, ReceiptId id) {
        Sql select = Sql.of(
                        "SELECT scopes FROM " + dialect().syntax().table(tables().table("receipt")) + " WHERE id = ")
                .bind(id.value(), OwnTables.TEXT);
        return session
                .query(
                        select,
                        new StatementContext("reading a receipt", null, null),
                        row -> StoredScopes.read(row.getString(1)))
                .stream()
                .findFirst()
                .orElse(ScopeMarks.NONE);
    }

    /** By whom and for what the identity of a request was used, or null if it was not. */
    public @Nullable UsedKey used(Session session, String requestId) {
        Sql select = Sql.of("SELECT actor, digest, receipt_id FROM "
                        + dialect().syntax().table(tables().table("request")) + " WHERE request_id = ")
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
        return new Holds(session, tables()).inForce();
    }

    public Hold place(Session session, Hold hold, Instant now, TrailEntry entry) {
        Hold placed = new Holds(session, tables()).place(hold, now);
        new TrailWriter(session, tables()).write(entry, null);
        return placed;
    }

    public boolean release(Session session, long number, String by, Instant now, TrailEntry entry) {
        boolean released = new Holds(session, tables()).release(number, by, now);
        if (released) {
            new TrailWriter(session, tables()).write(entry, null);
        }
        return released;
    }
}
