package io.vacancy.jdbc;

import io.vacancy.jdbc.own.OwnTables;
import io.vacancy.jdbc.trail.ChainReader;
import io.vacancy.jdbc.trail.OutboxTable;
import io.vacancy.jdbc.trail.TrailReader;
import io.vacancy.jdbc.trail.TrailSealer;
import io.vacancy.jdbc.trail.TrailWriter;
import io.vacancy.store.TrailStore;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.HashChain;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.SealedEntry;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.Verification;
import java.time.Instant;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Stream;

/** The audit history in the user's own database. */
final class JdbcTrail implements TrailStore {

    private final OwnTables tables;
    private final OwnTableTransactions work;

    JdbcTrail(OwnTables tables, OwnTableTransactions work) {
        this.tables = tables;
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
    public ChainHead seal(HashChain chain, Instant now) {
        TrailSealer.Step step = new TrailSealer.Step(ChainHead.NONE, true);
        while (step.more()) {
            step = work.writing(session -> new TrailSealer(session, tables).seal(chain, now));
        }
        return step.head();
    }

    @Override
    public Verification verify(BiFunction<Stream<SealedEntry>, Verification.Ends, Verification> looking) {
        return work.looking(session -> {
            ChainReader links = new ChainReader(session, tables);
            return looking.apply(links.stream(), links.ends());
        });
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
