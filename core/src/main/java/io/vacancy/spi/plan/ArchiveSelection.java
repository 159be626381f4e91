// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which archived rows are meant.
 *
 * @param receipts of these receipts; of any if empty
 * @param dueAt only those whose retention has expired by then, or null for all
 * @param saved a copy outside the database that they come from, or null; nothing else narrows them then
 */
public record ArchiveSelection(
        List<ReceiptId> receipts,
        @Nullable Instant dueAt,
        @Nullable SavedSource saved) {

    public ArchiveSelection {
        receipts = List.copyOf(receipts);
    }

    /** Those of every receipt. */
    public static ArchiveSelection any() {
        return new ArchiveSelection(List.of(), null, null);
    }

    /** Those of this receipt. */
    public static ArchiveSelection of(ReceiptId receipt) {
        return new ArchiveSelection(List.of(receipt), null, null);
    }

    /** Those whose retention has expired. */
    public static ArchiveSelection due(Instant at) {
        return new ArchiveSelection(List.of(), at, null);
    }

    /** Those of a copy outside the database. */
    public static ArchiveSelection of(SavedSource copy) {
        return new ArchiveSelection(List.of(), null, copy);
    }
}
