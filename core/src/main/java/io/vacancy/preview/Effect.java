// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One line of a preview: rows of one table to which the same happens for the same reason.
 *
 * @param relation the relation it came through, or null for the selected rows themselves
 * @param becomes what the columns of the relation become, such as {@code NULL} or {@code 3}; the column that is dropped;
 *     null where the rows go
 * @param rows how many; a row that several relations reach counts where it was reached first
 * @param sample a few of the rows, in key order
 */
public record Effect(
        TableName table,
        Action action,
        @Nullable String relation,
        @Nullable String becomes,
        long rows,
        List<Row> sample) {

    public Effect {
        sample = List.copyOf(sample);
    }

    /** Whether the rows go, are marked as gone, or come back; else they stay and something in them is changed. */
    public boolean goes() {
        return switch (action) {
            case DELETE, SOFT_DELETE, RESTORE, REPLACE, PURGE -> true;
            // With a column, something in them goes.
            case DROP -> becomes == null;
            case SET_NULL, REASSIGN, RELINK, BLANK, KEEP, PUT_BACK -> false;
        };
    }
}
