package io.vacancy;

import io.vacancy.condition.ColumnTerm;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Request;
import io.vacancy.request.Restore;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Rules;
import io.vacancy.schema.TableName;
import io.vacancy.store.Store;
import io.vacancy.store.Watch;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Finds what was marked under a receipt. */
record Restoring(Rules rules, Store store, Watch watch) {

    /**
     * The rows that were selected once, in the table that nothing else of the receipt leads to.
     *
     * @throws MisuseException if no row is marked under it
     */
    Request request(Restore restore) {
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
        throw new MisuseException(
                "No row is marked as deleted by receipt " + restore.receipt() + ".",
                marked.isEmpty()
                        ? "No marker of the rule book keeps receipts; restore rows by their key."
                        : "It may have been brought back, or removed for good.");
    }
}
