// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.archive.ReceiptId;
import io.vacancy.schema.Relation;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** What a store has to do; it dispatches on this once, by {@link #handledBy}. */
public sealed interface PlannedOperation {

    /** Does one thing for each operation, so that the compiler knows that none is forgotten. */
    interface Handler<T> {
        T cascade();

        T truncate();

        T drop(Drop what);

        T unlink(Relation relation);

        T restoreArchived(ArchiveSelection from);

        T restoreMarked(@Nullable ReceiptId under, @Nullable ArchiveSelection archived);

        T purge(ArchiveSelection which);
    }

    <T> T handledBy(Handler<T> handler);

    /** The archived rows that it is about, or null where it is about rows that are there. */
    default @Nullable ArchiveSelection archived() {
        return null;
    }

    /** Whether the selected rows are archived ones, and not rows that are there. */
    default boolean selectsArchived() {
        return false;
    }

    /** Rows are found along relations; how those of each table are treated, the program says. */
    record Cascade() implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.cascade();
        }
    }

    /** A table is emptied as a whole. */
    record Truncate() implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.truncate();
        }
    }

    /**
     * A table, or a column of it, is removed from the database itself.
     *
     * @param column null for the whole table
     * @param unfit what of the rule book would not fit the database any more, a sentence each
     */
    record Drop(@Nullable String column, List<String> unfit) implements PlannedOperation {

        public Drop {
            unfit = List.copyOf(unfit);
        }

        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.drop(this);
        }
    }

    /** Rows whose parent by a relation is missing lose that link. */
    record Unlink(Relation relation) implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.unlink(relation);
        }
    }

    /** Archived rows come back. */
    record RestoreArchived(ArchiveSelection from) implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.restoreArchived(from);
        }

        @Override
        public ArchiveSelection archived() {
            return from;
        }

        @Override
        public boolean selectsArchived() {
            return true;
        }
    }

    /**
     * Marked rows, which are the selected ones, are active again.
     *
     * @param under the receipt that they were marked under, as the archive has it; null for whichever
     * @param archived archived rows that come back beside them; null for none
     */
    record RestoreMarked(
            @Nullable ReceiptId under, @Nullable ArchiveSelection archived) implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.restoreMarked(under, archived);
        }
    }

    /** Archived rows are removed for good. */
    record Purge(ArchiveSelection which) implements PlannedOperation {
        @Override
        public <T> T handledBy(Handler<T> handler) {
            return handler.purge(which);
        }

        @Override
        public ArchiveSelection archived() {
            return which;
        }

        @Override
        public boolean selectsArchived() {
            return true;
        }
    }
}
