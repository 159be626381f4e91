// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.tables.OwnTableState;
import io.vacancy.jdbc.internal.tables.OwnTableTransactions;
import io.vacancy.spi.HashChain;
import io.vacancy.spi.SealedEntry;
import io.vacancy.spi.TrailEnds;
import io.vacancy.spi.TrailStore;
import io.vacancy.spi.WatchedTable;
import io.vacancy.trail.Bypass;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Stream;

/** The audit history in the user's own database. */
public final class JdbcTrail implements TrailStore {

    private final OwnTables tables;
    private final BypassTable bypass;
    private final OwnTableTransactions work;

    public JdbcTrail(OwnTableState state, OwnTableTransactions work) {
        this.tables = state.tables();
        this.bypass = new BypassTable(state);
        this.work = work;
    }

    @Override
    public void write(TrailEntry entry) {
        work.writing(session -> {
            new TrailWriter(session, tables).write(entry, null);
            return entry;
        });
    }

    @Override
    public Stream<TrailEntry> entries(HistoryQuery query) {
        return work.streaming(session -> new TrailReader(session, tables).stream(query));
    }

    @Override
    public ChainHead seal(HashChain chain, Instant now, ChainHead lowest) {
        TrailSealer.Step step = new TrailSealer.Step(ChainHead.NONE, true);
        while (step.more()) {
            step = work.writing(session -> new TrailSealer(session, tables).seal(chain, now, lowest));
        }
        return step.head();
    }

    @Override
    public <T> T chain(BiFunction<Stream<SealedEntry>, TrailEnds, T> looking) {
        return work.looking(session -> {
            ChainReader links = new ChainReader(session, tables);
            return looking.apply(links.stream(), links.ends());
        });
    }

    @Override
    public List<String> bypassTriggers(List<WatchedTable> watched, boolean refusing) {
        return bypass.script(watched, refusing);
    }

    @Override
    public List<Bypass> bypasses(int most) {
        return work.looking(session -> bypass.recorded(session, most));
    }

    @Override
    public List<OutboxEvent> waiting(int most) {
        return work.looking(session -> new OutboxTable(session, tables).waiting(most));
    }

    @Override
    public void passed(List<OutboxEvent> events, Instant now) {
        if (!events.isEmpty()) {
            work.writing(session -> {
                new OutboxTable(session, tables).passed(events, now);
                return events;
            });
        }
    }
}
