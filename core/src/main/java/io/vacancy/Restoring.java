package io.vacancy;

import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.condition.ColumnTerm;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Images;
import io.vacancy.request.Request;
import io.vacancy.request.Restore;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Rules;
import io.vacancy.schema.TableName;
import io.vacancy.store.Store;
import io.vacancy.store.Watch;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds what went, or was marked, under a receipt. */
record Restoring(Rules rules, Store store, Watch watch) {

    /**
     * What is kept under a receipt, what is marked under it, or both.
     *
     * @throws MisuseException if there is nothing
     */
    Request request(Restore restore) {
        List<Kept> kept = kept(restore.receipt());
        String table = restore.table();
        if (table != null) {
            Images images = Images.of(List.of(restore.receipt()));
            Request.From from = Request.from(table);
            return (restore.keys().isEmpty() ? from.everyRow() : from.keys(restore.keys())).fromArchive(images);
        }
        Request marked = marked(restore);
        if (kept.isEmpty() && marked == null) {
            throw new MisuseException(
                    "Nothing can be brought back by receipt " + restore.receipt() + ".",
                    "Nothing was kept or marked under it, or it was brought back, or it is gone for good.");
        }
        if (marked != null) {
            return kept.isEmpty() ? marked : marked.fromArchive(Images.besides(restore.receipt()));
        }
        return Request.from(kept.get(0).table().toString())
                .everyRow()
                .fromArchive(Images.of(List.of(restore.receipt())));
    }

    /** The images of a receipt. */
    Request everythingKept(String receipt) {
        try (Stream<Kept> kept = store.archive().kept(KeptQuery.all().withUsed().receipts(List.of(receipt)))) {
            Kept first = kept.filter(line -> line.there() > 0)
                    .min(Comparator.comparing(Kept::line))
                    .orElseThrow(() -> new MisuseException("Nothing is kept under receipt " + receipt + "."));
            return Request.from(first.table().toString()).everyRow().fromArchive(Images.of(List.of(receipt)));
        }
    }

    /** In the order of its lines: the selected table first. */
    private List<Kept> kept(String receipt) {
        if (!store.archive().ready()) {
            return List.of();
        }
        try (Stream<Kept> kept = store.archive().kept(KeptQuery.all().receipts(List.of(receipt)))) {
            return kept.sorted(Comparator.comparing(Kept::line)).toList();
        }
    }

    /** The rows that were selected once, in the table that nothing else of the receipt leads to; null for none. */
    private @Nullable Request marked(Restore restore) {
        Map<TableName, Condition> kept = new LinkedHashMap<>();
        Map<TableName, Condition> marked = new LinkedHashMap<>();
        for (TableName table : rules.marked()) {
            FittedMarker marker = rules.marker(table);
            String column = marker == null ? null : marker.receiptColumn();
            if (marker != null && column != null) {
                Condition ofReceipt = ColumnTerm.column(column).equalTo(restore.receipt());
                kept.put(table, ofReceipt);
                marked.put(table, ofReceipt.and(marker.deleted()));
            }
        }
        Map<TableName, Long> counts = store.counts(List.copyOf(marked.keySet()), marked, watch);
        List<TableName> found = kept.keySet().stream()
                .filter(table -> counts.getOrDefault(table, 0L) > 0)
                .toList();
        for (TableName table : found) {
            boolean first = rules.schema().relationsFrom(table).stream()
                    .noneMatch(relation -> !relation.toItself() && found.contains(relation.parent()));
            Condition ofReceipt = kept.get(table);
            if (first && ofReceipt != null) {
                return Request.from(table.toString()).where(ofReceipt).restoring();
            }
        }
        return null;
    }
}
