// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.archive;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveReader.Line;
import io.vacancy.jdbc.internal.operation.RowsToArchive;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.ConditionCompiler;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.List;

/** Of soft-deleted rows that are erased, the archive no longer says that they can be made active. */
public final class ErasedMarks {

    private final Session session;
    private final OwnTables tables;
    private final ExecutionPlan plan;
    private final ConditionCompiler conditions;

    public ErasedMarks(Session session, OwnTables tables, ExecutionPlan plan) {
        this.session = session;
        this.tables = tables;
        this.plan = plan;
        this.conditions = new ConditionCompiler(session, plan.program().schema(), plan.scopes(), plan.now());
    }

    /**
     * Notes it of their marks, which stay, since the trail may have a digest of them. To be called before the rows go.
     *
     * @param receiptNo the number of the receipt under which they go
     */
    public void note(List<RowsToArchive> going, long receiptNo) {
        if (plan.operation() instanceof PlannedOperation.Drop) {
            // Its rows come back with their marks, or not at all.
            return;
        }
        for (RowsToArchive rows : going) {
            MarkerPredicates marker = plan.marked().get(rows.table().name());
            if (rows.kind() == ArchivedRows.Kind.ROWS
                    && marker != null
                    && rows.table().identity().lasts()) {
                note(rows, marker, receiptNo);
            }
        }
    }

    private void note(RowsToArchive rows, MarkerPredicates marker, long receiptNo) {
        TableName table = rows.table().name();
        Sql which = new Sql().add(rows.which()).add(" AND ").add(conditions.condition(table, marker.deleted(), "t"));
        KeySet marked =
                KeySet.of(session, rows.table(), which, StatementContext.of("looking for soft-deleted rows of", table));
        List<Line> lines = marked.size() == 0
                ? List.of()
                : new ArchiveReader(session, tables, plan.program().schema())
                        .list(ArchiveQuery.all().of(table.toString())).stream()
                                .filter(line -> line.archived().kind() == ArchivedRows.Kind.MARKS)
                                .toList();
        if (!lines.isEmpty()) {
            StagingTable stage = StagingTable.ofMarks(session, tables, rows.table(), marker.columns());
            stage.fill(lines, 0, stage.rowsIn(marked));
            new RestoredImages(session, tables, lines).note(stage, receiptNo);
        }
    }
}
