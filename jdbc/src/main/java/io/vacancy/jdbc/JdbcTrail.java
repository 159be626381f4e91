package io.vacancy.jdbc;

import io.vacancy.jdbc.own.OwnTables;
import io.vacancy.jdbc.trail.Entries;
import io.vacancy.jdbc.trail.Events;
import io.vacancy.jdbc.trail.Links;
import io.vacancy.jdbc.trail.Recorder;
import io.vacancy.jdbc.trail.Sealing;
import io.vacancy.store.TrailStore;
import io.vacancy.trail.Chain;
import io.vacancy.trail.Head;
import io.vacancy.trail.HistoryQuery;
import io.vacancy.trail.Link;
import io.vacancy.trail.OutboxEvent;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.Verification;
import java.time.Instant;
import java.util.List;
import java.util.function.BiFunction;
import java.util.stream.Stream;

/** The audit history in the user's own database. */
final class JdbcTrail implements TrailStore {

    private final OwnTables tables;
    private final OwnWork work;

    JdbcTrail(OwnTables tables, OwnWork work) {
        this.tables = tables;
        this.work = work;
    }

    @Override
    public void write(TrailEntry entry) {
        work.writing(session -> {
            new Recorder(session, tables).write(entry, null);
            return entry;
        });
    }

    @Override
    public Stream<TrailEntry> entries(HistoryQuery query) {
        return work.streaming(session -> new Entries(session, tables).stream(query));
    }

    @Override
    public Head seal(Chain chain, Instant now) {
        Sealing.Step step = new Sealing.Step(Head.NONE, true);
        while (step.more()) {
            step = work.writing(session -> new Sealing(session, tables).seal(chain, now));
        }
        return step.head();
    }

    @Override
    public Verification verify(BiFunction<Stream<Link>, Verification.Ends, Verification> looking) {
        return work.looking(session -> {
            Links links = new Links(session, tables);
            return looking.apply(links.stream(), links.ends());
        });
    }

    @Override
    public List<OutboxEvent> waiting(int most) {
        return work.looking(session -> new Events(session, tables).waiting(most));
    }

    @Override
    public void passed(List<OutboxEvent> events, Instant now) {
        if (!events.isEmpty()) {
            work.writing(session -> {
                new Events(session, tables).passed(events, now);
                return events;
            });
        }
    }
}
