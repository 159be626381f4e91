// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.trail.AffectedRows;
import io.vacancy.trail.TrailEntry;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;

/**
 * By what an entry is found: a table, a row of it, or a receipt.
 *
 * @param table empty for a receipt
 * @param key of the row, or the receipt; null for the table
 */
record TrailRow(String table, @Nullable String key) {

    private static final int LONGEST = 200;
    private static final String RECEIPT = "";

    static Set<TrailRow> of(TrailEntry entry) {
        Set<TrailRow> rows = new LinkedHashSet<>();
        if (entry.table() != null) {
            rows.add(new TrailRow(entry.table(), null));
        }
        for (AffectedRows affectedRows : entry.affected()) {
            rows.add(new TrailRow(affectedRows.table(), null));
            affectedRows.keys().forEach(key -> rows.add(new TrailRow(affectedRows.table(), shortened(key))));
        }
        entry.receipts().forEach(receipt -> rows.add(ofReceipt(receipt.value())));
        return rows;
    }

    static TrailRow ofReceipt(String receipt) {
        return new TrailRow(RECEIPT, shortened(receipt));
    }

    /** A key as the database has it: engines do not index texts of any length. */
    static String shortened(String key) {
        return key.length() <= LONGEST
                ? key
                : key.substring(0, LONGEST - 36) + UUID.nameUUIDFromBytes(key.getBytes(StandardCharsets.UTF_8));
    }
}
