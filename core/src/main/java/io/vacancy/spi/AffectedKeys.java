// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.preview.Action;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that a store is about to do something to, by their keys.
 *
 * @param relation through which they were reached, or null for the selected rows
 * @param keys the values of the identity's columns, row by row; of many only the first
 */
public record AffectedKeys(
        TableName table, Action action, @Nullable String relation, List<List<Object>> keys) {

    public AffectedKeys {
        keys = List.copyOf(keys);
    }
}
