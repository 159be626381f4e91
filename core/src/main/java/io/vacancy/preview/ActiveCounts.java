// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.TableName;

/**
 * What people who look at a table see, and what is stored, before and after; only of tables that have a marker.
 *
 * @param activeBefore rows that are active now
 * @param storedBefore all rows there are now
 * @param activeAfter rows that would be active
 * @param storedAfter all rows there would be
 * @param leftOut rows that the selection means and that are left out, because they are marked as deleted or, where
 *     rows are to come back, because they are not
 */
public record ActiveCounts(long activeBefore, long storedBefore, long activeAfter, long storedAfter, long leftOut) {

    /** "61 of 64 rows of boat are active now, 58 of 64 afterwards." */
    public String message(TableName table) {
        return CountText.grouped(activeBefore) + " of " + CountText.rows(storedBefore) + " of " + table
                + " are active now, " + CountText.grouped(activeAfter) + " of " + CountText.grouped(storedAfter)
                + " afterwards.";
    }
}
