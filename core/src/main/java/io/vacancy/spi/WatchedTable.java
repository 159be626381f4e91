// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.schema.Table;
import java.util.List;

/**
 * A table whose rows nobody should delete or mark but through Vacancy.
 *
 * @param key the columns by which a row is written down; none where that would tell something personal
 * @param marker the columns that say that a row is deleted
 */
public record WatchedTable(Table table, List<String> key, List<String> marker) {

    public WatchedTable {
        key = List.copyOf(key);
        marker = List.copyOf(marker);
    }
}
