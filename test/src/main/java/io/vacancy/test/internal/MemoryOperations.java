// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.preview.Action;
import io.vacancy.schema.Relation;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** The operation of a plan, where there is one in memory. */
record MemoryOperations(MemoryRows rows, ExecutionPlan plan, MemoryArchive archive)
        implements PlannedOperation.Handler<MemoryOperation> {

    static MemoryOperation of(MemoryRows rows, ExecutionPlan plan, MemoryArchive archive) {
        if (plan.replacement() != null) {
            throw notHere("replace rows");
        }
        return plan.operation().handledBy(new MemoryOperations(rows, plan, archive));
    }

    private static MisuseException notHere(String what) {
        return new MisuseException(
                "The store in memory cannot " + what + ".", "Test this on a database, with a store over JDBC.");
    }

    @Override
    public MemoryOperation cascade() {
        return new CascadeInMemory(rows, plan, archive);
    }

    @Override
    public MemoryOperation truncate() {
        return new CascadeInMemory(rows, plan, archive);
    }

    @Override
    public MemoryOperation drop(PlannedOperation.Drop what) {
        throw notHere("drop a table or a column");
    }

    @Override
    public MemoryOperation unlink(Relation relation) {
        throw notHere("unlink orphans, since it has none");
    }

    @Override
    public MemoryOperation restoreArchived(ArchiveSelection from) {
        return new ImagesInMemory(rows, archive, receipts(from), plan.scopes(), Action.RESTORE);
    }

    @Override
    public MemoryOperation restoreMarked(@Nullable ReceiptId under, @Nullable ArchiveSelection archived) {
        if (under != null || archived != null) {
            throw notHere("restore what was partly marked and partly removed");
        }
        return cascade();
    }

    @Override
    public MemoryOperation purge(ArchiveSelection which) {
        return new ImagesInMemory(rows, archive, receipts(which), plan.scopes(), Action.PURGE);
    }

    private static List<ReceiptId> receipts(ArchiveSelection from) {
        if (from.saved() != null || from.dueAt() != null || from.receipts().isEmpty()) {
            throw notHere("restore or purge but by receipt");
        }
        return from.receipts();
    }
}
