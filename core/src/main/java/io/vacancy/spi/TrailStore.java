// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.trail.Bypass;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Stream;

/**
 * What the core asks of the place where a store keeps the trail. Every call wants that place to be set up, as
 * {@link ArchiveStore#ready()} tells.
 */
public interface TrailStore {

    /** Writes an entry in a transaction of its own. */
    void write(TrailEntry entry);

    /** Entries, newest first. The caller closes the stream; until then it holds a connection. */
    Stream<TrailEntry> entries(HistoryQuery query);

    /**
     * Seals what is committed and not yet sealed, in a short transaction of its own, one at a time.
     *
     * @param lowest a head that the chain is known to have had; {@link ChainHead#NONE} where none is
     * @return where the chain ends now
     * @throws io.vacancy.failure.TrailIntegrityException if the chain ends before that head or does not lead through it;
     *     nothing is sealed then
     */
    ChainHead seal(HashChain chain, Instant now, ChainHead lowest);

    /**
     * The chain and its end, as one state of the database has them.
     *
     * @param looking is given the links in the order of their positions, and what else there is
     */
    <T> T chain(BiFunction<Stream<SealedEntry>, TrailEnds, T> looking);

    /**
     * The statements that would make triggers on tables, which record or refuse what no receipt of the same transaction
     * covers, with what they write to. None of them is run.
     *
     * @param refusing whether they refuse it
     * @return none where this store has no such triggers
     */
    List<String> bypassTriggers(List<WatchedTable> tables, boolean refusing);

    /** What such triggers have recorded, newest first; none where there are no triggers. */
    List<Bypass> bypasses(int most);

    /** Events that were not passed on yet, oldest first. */
    List<OutboxEvent> waiting(int most);

    /** Notes that events were passed on. */
    void passed(List<OutboxEvent> events, Instant now);
}
