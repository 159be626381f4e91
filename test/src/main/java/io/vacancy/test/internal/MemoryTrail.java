// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

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
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.function.BiFunction;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** The trail in memory. */
final class MemoryTrail implements TrailStore {

    private final List<TrailEntry> entries = new ArrayList<>();
    private final List<SealedEntry> seals = new ArrayList<>();
    private ChainHead head = ChainHead.NONE;

    @Override
    public synchronized void write(TrailEntry entry) {
        entries.add(entry);
    }

    @Override
    public synchronized Stream<TrailEntry> entries(HistoryQuery query) {
        List<TrailEntry> found = new ArrayList<>();
        boolean begun = query.after() == null;
        for (int i = entries.size() - 1; i >= 0; i--) {
            TrailEntry entry = entries.get(i);
            if (begun && meant(entry, query)) {
                found.add(entry);
            }
            begun |= entry.id().equals(query.after());
        }
        return found.stream();
    }

    private static boolean meant(TrailEntry entry, HistoryQuery query) {
        return (query.table() == null || about(entry, query.table(), query.key()))
                && (query.by() == null || query.by().equals(entry.by()))
                && (query.receipt() == null
                        || query.receipt().equals(String.valueOf(entry.receipt()))
                        || entry.receipts().stream().anyMatch(id -> id.value().equals(query.receipt())))
                && (query.kind() == null || query.kind() == entry.kind())
                && (query.ending() == null || query.ending() == entry.ending())
                && (query.since() == null || !entry.at().isBefore(query.since()))
                && (query.before() == null || entry.at().isBefore(query.before()));
    }

    private static boolean about(TrailEntry entry, String table, @Nullable String key) {
        return entry.affected().stream()
                .anyMatch(rows -> rows.table().equals(table)
                        && (key == null || rows.keys().contains(key)));
    }

    @Override
    public synchronized ChainHead seal(HashChain chain, Instant now, ChainHead lowest) {
        int place = Math.toIntExact(lowest.position());
        HashChain.wantsContinuation(
                lowest,
                head,
                place == 0 || place > seals.size()
                        ? null
                        : seals.get(place - 1).seal().digest());
        for (TrailEntry entry : entries.subList(seals.size(), entries.size())) {
            head = chain.after(head, entry.toString());
            seals.add(new SealedEntry(head, entry.id(), entry.toString(), null));
        }
        return head;
    }

    @Override
    public synchronized <T> T chain(BiFunction<Stream<SealedEntry>, TrailEnds, T> looking) {
        int unsealed = entries.size() - seals.size();
        Instant oldest = unsealed == 0
                ? null
                : Objects.requireNonNull(entries.get(seals.size()).at());
        return looking.apply(seals.stream(), new TrailEnds(head, unsealed, oldest, null, null));
    }

    @Override
    public List<String> bypassTriggers(List<WatchedTable> tables, boolean refusing) {
        return List.of();
    }

    @Override
    public List<Bypass> bypasses(int most) {
        return List.of();
    }

    /** Events are for other systems, of which there are none here. */
    @Override
    public List<OutboxEvent> waiting(int most) {
        return List.of();
    }

    @Override
    public void passed(List<OutboxEvent> events, Instant now) {}
}
