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
 */
public record MarkerPredicates(Condition active, Condition deleted, List<List<String>> unique) {

    public MarkerPredicates {
        unique = List.copyOf(unique);
    }
}
