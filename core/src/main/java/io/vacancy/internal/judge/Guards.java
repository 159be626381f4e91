// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.judge;

import io.vacancy.preview.CountText;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.request.Limits;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.TableName;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What refuses a request by number, whatever the answer.
 *
 * @param tables of which rows are selected, as they are named
 */
record Guards(Limits limits, String tables) {

    /** Which guard refuses so many selected rows and why, or null. */
    @Nullable
    String refusal(long selected, Impact found) {
        Long expected = limits.expect();
        if (expected != null && expected != selected) {
            return CountText.rows(expected) + " of " + tables + (expected == 1 ? " was" : " were")
                    + " expected, but the selection has " + CountText.rows(selected) + ".";
        }
        Long most = limits.atMost();
        if (most != null && selected > most) {
            return "The selection has " + CountText.rows(selected) + " of " + tables + ", and at most "
                    + CountText.grouped(most) + " may be deleted at once.";
        }
        Long mostInAll = limits.atMostInAll();
        if (mostInAll != null && found.going() > mostInAll) {
            return CountText.rows(found.going()) + " would be deleted in total, and at most "
                    + CountText.grouped(mostInAll) + " may be deleted at once.";
        }
        return null;
    }

    /** The same of a part of a table's rows. */
    @Nullable
    String refusalOfPart(TableName table, Impact found) {
        long selected = found.selectedOf(table);
        Long there = found.present().get(table);
        Double percent = limits.atMostPercent();
        return percent != null && there != null && selected > Limits.rowsOf(percent, there)
                ? "The selection has " + CountText.grouped(selected) + " of the " + CountText.rows(there) + " of "
                        + table
                        + ", and at most " + CountText.percent(percent) + " may be deleted at once: "
                        + CountText.rows(Limits.rowsOf(percent, there)) + "."
                : null;
    }

    /** Which table would be left without a row though it must not be, or null. */
    static @Nullable String emptied(ResolvedRules rules, Impact found) {
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
