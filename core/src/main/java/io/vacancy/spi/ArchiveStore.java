// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What the core asks of the place where a store keeps receipts and images. Every call but {@link #ready},
 * {@link #setUp} and {@link #script} wants that place to be set up.
 */
public interface ArchiveStore {

    /** Whether there is such a place, of the version that is wanted now. */
    boolean ready();

    /**
     * Makes the place, or brings it up to date; does nothing where it is. Runs statements that commit.
     *
     * @return the statements that were run
     */
    List<String> setUp();

    /** The statements that would make the place or bring it up to date, each without a semicolon. */
    List<String> script();

    /** What is kept, newest first. The caller closes the stream; until then it holds a connection. */
    Stream<ArchivedRows> archived(ArchiveQuery query);

    /** The JSON documents that were written of a receipt's parts, in order; empty for an unknown one. */
    List<String> documents(ReceiptId id);

    /** The parts of a receipt, in order; empty for an unknown one. */
    List<Receipt> receiptParts(ReceiptId id);

    /**
     * How long what was done took, newest first; only where rows were affected.
     *
     * @param most how many are wanted
     */
    List<ExecutionTime> executionTimes(TableName table, OperationKind operation, int most);

    /** Under which scope a receipt was made; that of no scope for an unknown one. */
    ScopeMarks scopes(ReceiptId id);

    /** By whom and for what the identity of a request was used, or null if it was not. */
    @Nullable
    UsedKey used(String requestId);

    /** The identity of a request that was carried out, and its receipt. */
    record UsedKey(RequestKey key, ReceiptId receipt) {}

    /** The holds that are in force, oldest first. */
    List<Hold> holds();

    /**
     * Places a hold.
     *
     * @param entry what the trail is told of it
     * @return it, with its number
     */
    Hold place(Hold hold, Instant now, TrailEntry entry);

    /**
     * Ends a hold.
     *
     * @param entry what the trail is told of it, if it was in force
     * @return whether it was in force
     */
    boolean release(long number, String by, Instant now, TrailEntry entry);
}
