// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.execute;

import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.archive.ArchiveRestoreOperation;
import io.vacancy.jdbc.internal.archive.ArchiveTables;
import io.vacancy.jdbc.internal.archive.ArchiveWriter;
import io.vacancy.jdbc.internal.archive.PurgeOperation;
import io.vacancy.jdbc.internal.archive.StagedMarks;
import io.vacancy.jdbc.internal.operation.CascadeOperation;
import io.vacancy.jdbc.internal.operation.CompositeOperation;
import io.vacancy.jdbc.internal.operation.DropOperation;
import io.vacancy.jdbc.internal.operation.SetNullOperation;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.operation.TruncateOperation;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.ArchivedMarks;
import io.vacancy.jdbc.internal.traversal.Finding;
import io.vacancy.schema.Relation;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Makes what a plan's operation is done by; the only place that tells operations apart.
 *
 * @param finding what is to hold of the rows that are found
 * @param writer by which the archive is written; null where nothing is
 */
public record OperationFactory(
        Session session,
        ArchiveTables place,
        ExecutionPlan plan,
        Finding finding,
        @Nullable ArchiveWriter writer) implements PlannedOperation.Handler<StoreOperation> {

    public StoreOperation operation() {
        return plan.operation().handledBy(this);
    }

    @Override
    public StoreOperation cascade() {
        return new CascadeOperation(session, plan, finding, ArchivedMarks.NONE);
    }

    @Override
    public StoreOperation truncate() {
        return new TruncateOperation(session, plan, finding.locks());
    }

    @Override
    public StoreOperation drop(PlannedOperation.Drop what) {
        return new DropOperation(session, plan, what, finding.locks(), this::archivedOfRoot);
    }

    private long archivedOfRoot() {
        if (!place.ready()) {
            return 0;
        }
        ArchiveQuery ofRoot = ArchiveQuery.all().of(plan.program().root().toString());
        try (Stream<ArchivedRows> lines = place.archived(session, plan.program().schema(), ofRoot)) {
            return lines.filter(line -> line.kind() == ArchivedRows.Kind.ROWS)
                    .mapToLong(ArchivedRows::left)
                    .sum();
        }
    }

    @Override
    public StoreOperation unlink(Relation relation) {
        return new SetNullOperation(session, plan, relation, finding);
    }

    @Override
    public StoreOperation restoreArchived(ArchiveSelection from) {
        return restore(from, false);
    }

    @Override
    public StoreOperation restoreMarked(@Nullable ReceiptId under, @Nullable ArchiveSelection archived) {
        ArchivedMarks marks =
                place.ready() ? new StagedMarks(session, tables(), plan, under, this::receiptNo) : ArchivedMarks.NONE;
        StoreOperation marked = new CascadeOperation(session, plan, finding, marks);
        return archived == null ? marked : new CompositeOperation(marked, restore(archived, true));
    }

    private long receiptNo() {
        return writer == null ? 0 : writer.receiptNo();
    }

    private StoreOperation restore(ArchiveSelection from, boolean everything) {
        if (from.saved() == null) {
            wantsOwnTables();
        }
        return new ArchiveRestoreOperation(session, tables(), plan, from, everything, finding.locks(), this::receiptNo);
    }

    @Override
    public StoreOperation purge(ArchiveSelection which) {
        wantsOwnTables();
        return new PurgeOperation(session, tables(), plan, which);
    }

    private OwnTables tables() {
        return place.tables();
    }

    private void wantsOwnTables() {
        if (!place.ready()) {
            throw new NotSetUpException();
        }
    }
}
