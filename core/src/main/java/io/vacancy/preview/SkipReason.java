// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Why some of the selected rows are left out.
 *
 * @param relation the relation through which something stands in the way of them, or of what would go with them
 * @param rows how many selected rows are left out for this; one with several reasons counts at the first
 * @param reason why, as the rule book or the schema has it
 * @param sample a few of the selected rows that are left out, in key order
 */
public record SkipReason(@Nullable String relation, long rows, String reason, List<Row> sample) {

    public SkipReason {
        sample = List.copyOf(sample);
    }
}
