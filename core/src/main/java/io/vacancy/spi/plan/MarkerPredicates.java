// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.condition.Condition;
import java.util.List;

/**
 * What is to be known of a table whose rows can be soft-deleted.
 *
 * @param active what holds for the rows that an application shows
 * @param deleted what holds for the rows that are soft-deleted
 * @param unique columns in which no two active rows may be the same
 * @param columns those that say whether a row is soft-deleted, and hold again what they held when it comes back
 */
public record MarkerPredicates(Condition active, Condition deleted, List<List<String>> unique, List<String> columns) {

    public MarkerPredicates {
        columns = List.copyOf(columns);
        unique = List.copyOf(unique);
    }
}
