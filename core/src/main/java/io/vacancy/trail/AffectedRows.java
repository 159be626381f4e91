// SPDX-License-Identifier: Apache-2.0
package io.vacancy.trail;

import io.vacancy.internal.audit.KeyText;
import io.vacancy.preview.Action;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What happened to some rows of one table.
 *
 * @param action null where nothing did, because it did not come about
 * @param relation through which they were reached, or null for the selected rows
 * @param becomes what the columns of a link became, or null
 * @param keys the keys of the rows, as {@link KeyText} writes them; of many only the first
 */
public record AffectedRows(
        String table,
        @Nullable Action action,
        @Nullable String relation,
        @Nullable String becomes,
        long rows,
        List<String> keys) {

    public AffectedRows {
        keys = List.copyOf(keys);
    }

    /** Whether every row has its key here. */
    public boolean whole() {
        return keys.size() == rows;
    }
}
