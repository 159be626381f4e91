// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.Condition;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Fingerprint;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** Archived rows that come back, or are removed for good; all that their receipts have. */
final class ImagesInMemory implements MemoryOperation {

    private static final int SAMPLE = 3;

    private final MemoryRows rows;
    private final MemoryArchive archive;
    private final List<ReceiptId> receipts;
    private final Map<TableName, Condition> scopes;
    private final Action action;
    private final Map<TableName, List<Row>> images = new LinkedHashMap<>();

    ImagesInMemory(
            MemoryRows rows,
            MemoryArchive archive,
            List<ReceiptId> receipts,
            Map<TableName, Condition> scopes,
            Action action) {
        this.scopes = scopes;
        this.rows = rows;
        this.archive = archive;
        this.receipts = receipts;
        this.action = action;
        List<Row> all =
                action == Action.RESTORE ? archive.restorable(receipts, scopes) : archive.there(receipts, scopes);
        all.forEach(row ->
                images.computeIfAbsent(row.table(), table -> new ArrayList<>()).add(row));
    }

    @Override
    public Impact impact() {
        List<Effect> effects = new ArrayList<>();
        OperationKind kind = action == Action.RESTORE ? OperationKind.RESTORE : OperationKind.PURGE;
        Fingerprint fingerprint = new Fingerprint(kind, false);
        images.forEach((table, of) -> {
            effects.add(
                    new Effect(table, action, via(table), null, of.size(), of.subList(0, Math.min(SAMPLE, of.size()))));
            of.forEach(row -> fingerprint.effect(action, table, rows.key(row), null));
        });
        long all = effects.stream().mapToLong(Effect::rows).sum();
        return Impact.builder()
                .records(rows())
                .effects(effects, Map.of(action, all))
                .blockers(action == Action.RESTORE ? blockers() : List.of())
                .fingerprint(fingerprint.shown())
                .build();
    }

    /** The relation through which rows of a table went with those of the tables before it; null for the first. */
    private @Nullable String via(TableName table) {
        if (action == Action.PURGE) {
            return null;
        }
        List<TableName> tables = List.copyOf(images.keySet());
        List<TableName> before = tables.subList(0, tables.indexOf(table));
        return rows.schema().relationsFrom(table).stream()
                .filter(relation -> before.contains(relation.parent()))
                .map(Relation::name)
                .findFirst()
                .orElse(null);
    }

    private List<Blocker> blockers() {
        List<Blocker> blockers = new ArrayList<>();
        images.forEach((table, of) -> {
            List<Row> there = of.stream().filter(rows::has).toList();
            if (!there.isEmpty()) {
                blockers.add(new Blocker(
                        table, null, there.size(), "a row that is there has the same key", there, List.of()));
            }
            for (Relation relation : rows.schema().relationsFrom(table)) {
                List<Row> lost =
                        of.stream().filter(row -> lostParent(row, relation)).toList();
                if (relation.enforced() && !lost.isEmpty()) {
                    String reason = "the " + relation.parent() + " they refer to is gone";
                    blockers.add(new Blocker(table, relation.name(), lost.size(), reason, lost, List.of()));
                }
            }
        });
        return blockers;
    }

    private boolean lostParent(Row row, Relation relation) {
        return MemoryRows.refers(row, relation)
                && rows.parent(row, relation) == null
                && images.getOrDefault(relation.parent(), List.of()).stream()
                        .noneMatch(parent -> MemoryRows.joined(parent, row, relation));
    }

    @Override
    public List<Row> rows() {
        return images.values().stream().findFirst().orElse(List.of());
    }

    @Override
    public List<AffectedKeys> affected(int most) {
        List<AffectedKeys> affected = new ArrayList<>();
        images.forEach((table, of) -> affected.add(new AffectedKeys(
                table,
                action,
                via(table),
                of.stream().limit(most).map(rows::key).toList())));
        return affected;
    }

    @Override
    public void run() {
        if (action == Action.RESTORE) {
            images.values().forEach(of -> of.forEach(rows::put));
            archive.restored(receipts, scopes);
        } else {
            archive.purged(receipts, scopes);
        }
    }
}
