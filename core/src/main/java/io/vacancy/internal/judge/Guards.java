// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.Limits;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What refuses a request by number, whatever the answer. */
record Guards(Limits limits, ResolvedRules rules) {

    /** Which guard refuses it and why, or null. */
    @Nullable
    String refusal(Table table, Impact found) {
        long selected = found.selected();
        Long expected = limits.expect();
        if (expected != null && expected != selected) {
            return CountText.rows(expected) + " of " + table + (expected == 1 ? " was" : " were")
                    + " expected, but the selection has " + CountText.rows(selected) + ".";
        }
        Long most = limits.atMost();
        if (most != null && selected > most) {
            return "The selection has " + CountText.rows(selected) + " of " + table + ", and at most "
                    + CountText.grouped(most) + " may be deleted at once.";
        }
        Long mostInAll = limits.atMostInAll();
        if (mostInAll != null && found.going() > mostInAll) {
            return CountText.rows(found.going()) + " would be deleted in total, and at most "
                    + CountText.grouped(mostInAll) + " may be deleted at once.";
        }
        Long there = found.present().get(table.name());
        Double percent = limits.atMostPercent();
        if (percent != null && there != null && selected > Limits.rowsOf(percent, there)) {
            return "The selection has " + CountText.grouped(selected) + " of the " + CountText.rows(there) + " of "
                    + table
                    + ", and at most " + CountText.percent(percent) + " may be deleted at once: "
                    + CountText.rows(Limits.rowsOf(percent, there)) + ".";
        }
        return emptied(found);
    }

    private @Nullable String emptied(Impact found) {
        Map<TableName, Long> going = new LinkedHashMap<>();
        for (Effect effect : found.effects()) {
            if (effect.goes()) {
                going.merge(effect.table(), effect.rows(), Long::sum);
            }
        }
        for (Map.Entry<TableName, Long> table : going.entrySet()) {
            Long there = found.present().get(table.getKey());
            if (there != null && there.equals(table.getValue()) && rules.neverEmptied(table.getKey())) {
                return "Every one of the " + CountText.rows(there) + " of " + table.getKey()
                        + " would be deleted, and the table is never to be emptied.";
            }
        }
        return null;
    }
}
