// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.HeldRows;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.internal.traversal.Samples;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/**
 * Truncates a table as a whole. Nothing refers to it, so there is nothing to follow; what is shown and answered
 * is how many rows there are, whichever they may be.
 */
public final class TruncateOperation implements StoreOperation {

    private final Session session;
    private final Dialect dialect;
    private final ExecutionPlan deletion;
    private final Table table;

    /** @param lock whether everybody else is kept out from now on */
    public TruncateOperation(Session session, ExecutionPlan deletion, boolean lock) {
        this.session = session;
        this.dialect = session.dialect();
        this.deletion = deletion;
        this.table = deletion.program().schema().table(deletion.program().root());
        if (lock) {
            lock();
        }
    }

    /** Keeps everybody else out, as far as the engine can. */
    private void lock() {
        String lock = dialect.truncation().lock(table.name());
        if (lock != null) {
            session.update(Sql.of(lock), StatementContext.of("locking", table.name()));
        }
    }

    /** What would go. */
    @Override
    public Impact impact() {
        TableName name = table.name();
        long rows = session.number(
                Sql.of("SELECT COUNT(*) FROM " + dialect.syntax().table(name)),
                StatementContext.of("counting rows of", name));
        Map<TableName, Long> present = Map.of(name, rows);
        if (rows == 0) {
            return Impact.builder().present(present).fingerprint(fingerprint(0)).build();
        }
        StatementContext reading = StatementContext.of("reading", name);
        List<Row> first = new Rows(session, table).first(Samples.RECORDS, Sql.of("1 = 1"), reading);
        List<Row> sample = first.subList(0, Math.min(Samples.ROWS, first.size()));
        Effect effect = new Effect(name, Action.DELETE, null, null, rows, sample);
        return Impact.builder()
                .records(rows <= Samples.RECORDS ? first : List.of())
                .effects(List.of(effect), Map.of(Action.DELETE, rows))
                .present(present)
                .blockers(HeldRows.blockers(session, deletion, table))
                .warnings(warnings())
                .fingerprint(fingerprint(rows))
                .build();
    }

    private String fingerprint(long rows) {
        Fingerprint fingerprint =
                new Fingerprint(OperationKind.TRUNCATE, deletion.archivePolicy().images());
        fingerprint.effect(Action.DELETE, table.name(), List.of("every row at once", rows), null);
        return fingerprint.shown();
    }

    private List<String> warnings() {
        if (table.triggers().isEmpty()) {
            return List.of();
        }
        String triggers = String.join(", ", table.triggers());
        return List.of(
                dialect.truncation().rowByRow()
                        ? "Table " + table + " has triggers, which may change more than is shown here: " + triggers
                                + "."
                        : "Table " + table + " has triggers, and those on rows do not run when it is emptied at once: "
                                + triggers + ".");
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        return List.of(RowsToArchive.whole(table, null, Sql.of("1 = 1"), null, null));
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        return List.of(new AffectedKeys(
                table.name(),
                Action.DELETE,
                null,
                Keys.first(session, table, dialect.syntax().table(table.name()), Sql.of("1 = 1"), most)));
    }

    /** Every row as it stands. */
    @Override
    public Stream<Row> rows() {
        return new Rows(session, table).stream(Sql.of("1 = 1"), StatementContext.of("reading", table.name()));
    }

    /** @throws ConcurrentChangeException if there were other rows than those that were found */
    @Override
    public void run(Impact found) {
        session.pace().begin(Step.REMOVING, found.selected());
        session.pace().at(table.name());
        long removed = session.update(
                Sql.of(dialect.truncation().statement(table.name())), StatementContext.of("emptying", table.name()));
        if (dialect.truncation().rowByRow() && removed != found.selected()) {
            throw new ConcurrentChangeException("Table " + table + " had " + found.selected()
                    + " rows when they were counted, and " + removed + " when it was emptied.");
        }
    }
}
