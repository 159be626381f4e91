// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.rules.Assignment;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How one row ends and its successor begins.
 *
 * @param opening what the successor has in the place of what the row has that ends
 * @param omitted columns that the database fills in itself
 * @param start the column from when a row holds, or null where rows have none
 * @param from when the successor begins
 */
public record Replacement(
        List<Assignment> opening,
        List<String> omitted,
        @Nullable String start,
        Object from) {

    public Replacement {
        opening = List.copyOf(opening);
        omitted = List.copyOf(omitted);
    }
}
