// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.access.ScopeMarks;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.ExecutionTime;
import io.vacancy.spi.plan.ArchivePolicy;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Receipts, and the rows that can be restored, in memory. For one thread at a time. */
final class MemoryArchive implements ArchiveStore {

    private final List<Receipt> receipts = new ArrayList<>();
    private final List<Image> images = new ArrayList<>();
    private final Map<ReceiptId, ScopeMarks> scopes = new HashMap<>();
    private final Map<String, UsedKey> used = new HashMap<>();
    private final List<Hold> holds = new ArrayList<>();
    private final MemoryTrail trail;

    MemoryArchive(MemoryTrail trail) {
        this.trail = trail;
    }

    /** Rows of one table that were removed under a receipt. */
    private static final class Image {

        private final ArchivePolicy policy;
        private final int line;
        private final TableName table;
        private final @Nullable String relation;
        private final List<Row> rows;
        private boolean purged;
        private boolean restored;

        Image(ArchivePolicy policy, int line, TableName table, @Nullable String relation, List<Row> rows) {
            this.policy = policy;
            this.line = line;
            this.table = table;
            this.relation = relation;
            this.rows = rows;
        }

        ArchivedRows told() {
            long there = purged ? 0 : rows.size();
            return ArchivedRows.of(new ArchivedRows.Data(
                    policy.receipt(),
                    1,
                    line,
                    table,
                    ArchivedRows.Kind.ROWS,
                    relation,
                    rows.size(),
                    there,
                    restored ? 0 : there,
                    policy.actor(),
                    policy.at(),
                    policy.because(),
                    policy.until(table),
                    false,
                    List.of(),
                    policy.scopes().of(table)));
        }
    }

    void keep(ArchivePolicy policy, List<MemoryTraversal.Line> lines) {
        scopes.putIfAbsent(policy.receipt(), policy.scopes());
        int line = 0;
        for (MemoryTraversal.Line each : lines) {
            boolean whole = each.action() == Action.DELETE;
            if (whole && policy.keeps(each.table())) {
                String relation =
                        each.step() == null ? null : each.step().relation().name();
                images.add(new Image(policy, line, each.table(), relation, each.rows()));
                line++;
            }
        }
    }

    void keep(Receipt receipt) {
        receipts.add(receipt);
    }

    /** Notes the identity of a request; false if it was used before. */
    boolean claim(@Nullable RequestKey key, ReceiptId receipt) {
        return key == null || used.putIfAbsent(key.id(), new UsedKey(key, receipt)) == null;
    }

    void forget(@Nullable RequestKey key) {
        if (key != null) {
            used.remove(key.id());
        }
    }

    /** The rows of these receipts that can be restored, the selected ones first; of any receipt if empty. */
    List<Row> restorable(List<ReceiptId> of, Map<TableName, Condition> scopes) {
        return meant(of, scopes)
                .filter(image -> !image.restored)
                .flatMap(image -> image.rows.stream())
                .toList();
    }

    /** The rows of these receipts that are still there. */
    List<Row> there(List<ReceiptId> of, Map<TableName, Condition> scopes) {
        return meant(of, scopes).flatMap(image -> image.rows.stream()).toList();
    }

    private Stream<Image> meant(List<ReceiptId> of, Map<TableName, Condition> in) {
        return images.stream()
                .filter(image -> !image.purged && (of.isEmpty() || of.contains(image.policy.receipt())))
                .filter(image -> ScopeMarks.covers(image.policy.scopes().of(image.table), in.get(image.table)));
    }

    void restored(List<ReceiptId> of, Map<TableName, Condition> scopes) {
        meant(of, scopes).forEach(image -> image.restored = true);
    }

    void purged(List<ReceiptId> of, Map<TableName, Condition> scopes) {
        meant(of, scopes).toList().forEach(image -> image.purged = true);
    }

    @Override
    public boolean ready() {
        return true;
    }

    @Override
    public List<String> setUp() {
        return List.of();
    }

    @Override
    public List<String> script() {
        return List.of();
    }

    @Override
    public synchronized Stream<ArchivedRows> archived(ArchiveQuery query) {
        List<ArchivedRows> found = new ArrayList<>();
        for (int i = images.size() - 1; i >= 0; i--) {
            ArchivedRows rows = images.get(i).told();
            Instant until = rows.until();
            boolean meant =
                    (query.table() == null || query.table().equals(rows.table().toString()))
                            && (query.receipts().isEmpty() || query.receipts().contains(rows.receipt()))
                            && (query.by() == null || query.by().equals(rows.by()))
                            && (query.since() == null || !rows.at().isBefore(query.since()))
                            && (query.before() == null || rows.at().isBefore(query.before()))
                            && (query.dueAt() == null || (until != null && !until.isAfter(query.dueAt())))
                            && (query.used() || rows.left() > 0);
            if (meant) {
                found.add(rows);
            }
        }
        return found.stream();
    }

    @Override
    public synchronized List<String> documents(ReceiptId id) {
        return receiptParts(id).stream().map(Receipt::toString).toList();
    }

    @Override
    public synchronized List<Receipt> receiptParts(ReceiptId id) {
        return receipts.stream().filter(receipt -> receipt.id().equals(id)).toList();
    }

    /** What is done in memory is done at once. */
    @Override
    public List<ExecutionTime> executionTimes(TableName table, OperationKind operation, int most) {
        return List.of();
    }

    @Override
    public synchronized ScopeMarks scopes(ReceiptId id) {
        return scopes.getOrDefault(id, ScopeMarks.NONE);
    }

    @Override
    public synchronized @Nullable UsedKey used(String requestId) {
        return used.get(requestId);
    }

    @Override
    public synchronized List<Hold> holds() {
        return List.copyOf(holds);
    }

    @Override
    public synchronized Hold place(Hold hold, Instant now, TrailEntry entry) {
        Hold placed = new Hold(
                holds.stream().mapToLong(Hold::number).max().orElse(0) + 1,
                hold.receipt(),
                hold.table(),
                hold.key(),
                hold.by(),
                hold.because(),
                now);
        holds.add(placed);
        trail.write(entry);
        return placed;
    }

    @Override
    public synchronized boolean release(long number, String by, Instant now, TrailEntry entry) {
        boolean released = holds.removeIf(hold -> hold.number() == number);
        if (released) {
            trail.write(entry);
        }
        return released;
    }
}
