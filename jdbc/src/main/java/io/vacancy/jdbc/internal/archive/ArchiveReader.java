// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.StoredScopes;
import io.vacancy.jdbc.internal.tables.Times;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Reads what is kept, line by line. */
final class ArchiveReader {

    private static final StatementContext READING = new StatementContext("reading what is kept", null, null);

    private final Session session;
    private final Dialect dialect;
    private final OwnTables tables;
    private final Schema schema;
    private final Map<TableName, Condition> scopes;

    /** For those to whom everything is open, or who leave out themselves what is not. */
    ArchiveReader(Session session, OwnTables tables, Schema schema) {
        this(session, tables, schema, Map.of());
    }

    /** @param scopes what is there for who asks, by table */
    ArchiveReader(Session session, OwnTables tables, Schema schema, Map<TableName, Condition> scopes) {
        this.scopes = scopes;
        this.session = session;
        this.dialect = session.dialect();
        this.tables = tables;
        this.schema = schema;
    }

    /** A line with the number of its receipt in the database. */
    record Line(long receiptNo, ArchivedRows archived) {}

    /** Newest first, and within a receipt in the order of its lines. */
    Stream<Line> stream(ArchiveQuery query) {
        return session.stream(select(query), READING, this::line).filter(this::inside);
    }

    List<Line> list(ArchiveQuery query) {
        return session.query(select(query), READING, this::line).stream()
                .filter(this::inside)
                .toList();
    }

    private boolean inside(Line line) {
        return ScopeMarks.covers(
                line.archived().scopeMark(), scopes.get(line.archived().table()));
    }

    private Sql select(ArchiveQuery query) {
        String line = dialect.syntax().table(tables.table("line"));
        String receipt = dialect.syntax().table(tables.table("receipt"));
        String hold = dialect.syntax().table(tables.table("hold"));
        Sql sql = Sql.of("SELECT l.receipt_no, r.id, l.part, l.line, l.table_name, l.kind, l.relation, l.rows_archived,"
                + " l.rows_there, l.rows_left, r.actor, r.made_at, r.because, l.until_at,"
                + " CASE WHEN EXISTS (SELECT 1 FROM " + hold
                + " h WHERE h.released_at IS NULL AND (h.receipt_id = r.id"
                + " OR (h.table_name = l.table_name AND h.row_key IS NULL))) THEN 1 ELSE 0 END, l.archived_columns, r.scopes FROM "
                + line + " l JOIN " + receipt + " r ON r.receipt_no = l.receipt_no WHERE "
                + (query.used() ? "1 = 1" : "l.rows_left > 0"));
        text(sql, "l.table_name = ", query.table());
        text(sql, "r.actor = ", query.by());
        time(sql, "r.made_at >= ", query.since());
        time(sql, "r.made_at < ", query.before());
        time(sql, "l.rows_there > 0 AND l.until_at <= ", query.dueAt());
        if (!query.receipts().isEmpty()) {
            sql.add(" AND r.id IN (");
            for (int i = 0; i < query.receipts().size(); i++) {
                sql.add(i == 0 ? "" : ", ").bind(query.receipts().get(i).value(), OwnTables.TEXT);
            }
            sql.add(")");
        }
        return sql.add(" ORDER BY l.receipt_no DESC, l.line");
    }

    private static void text(Sql sql, String which, @Nullable String value) {
        if (value != null) {
            sql.add(" AND " + which).bind(value, OwnTables.TEXT);
        }
    }

    private static void time(Sql sql, String which, @Nullable Instant value) {
        text(sql, which, value == null ? null : Times.written(value));
    }

    private Line line(ResultSet row) throws SQLException {
        return new Line(
                row.getLong(1),
                ArchivedRows.of(new ArchivedRows.Data(
                        ReceiptId.of(row.getString(2)),
                        row.getInt(3),
                        row.getInt(4),
                        name(row.getString(5)),
                        ArchivedColumns.kind(row.getInt(6)),
                        row.getString(7),
                        row.getLong(8),
                        row.getLong(9),
                        row.getLong(10),
                        row.getString(11),
                        Objects.requireNonNull(Times.read(row.getString(12))),
                        row.getString(13),
                        Times.read(row.getString(14)),
                        row.getInt(15) == 1,
                        ArchivedColumns.read(row.getString(16)),
                        StoredScopes.read(row.getString(17)).digests().get(row.getString(5)))));
    }

    /** A table that is no longer there keeps the name it was written with. */
    private TableName name(String written) {
        List<TableName> known = schema.tables().stream()
                .map(table -> table.name())
                .filter(table -> table.toString().equals(written))
                .collect(Collectors.toList());
        return known.isEmpty() ? TableName.of(written) : known.get(0);
    }
}
