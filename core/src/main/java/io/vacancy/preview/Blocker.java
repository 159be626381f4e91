// SPDX-License-Identifier: Apache-2.0
package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Rows that stand in the way.
 *
 * @param relation the relation through which they do, or null where it is about the rows themselves
 * @param rows how many; 0 where that is not told, because they are outside the scope of who asks
 * @param reason why, as the rule book or the schema has it
 * @param sample a few of the rows, in key order
 * @param permittedRules rules that a request may ask for on the relation, by which it could go ahead, as they are
 *     written: {@code set-null}, {@code reassign:KEY}
 */
public record Blocker(
        TableName table,
        @Nullable String relation,
        long rows,
        String reason,
        List<Row> sample,
        List<String> permittedRules) {

    /** Through what, and why: {@code through fee.mooring_id: unpaid}. */
    public String message() {
        return relation == null ? reason : "through " + relation + ": " + reason;
    }

    /**
     * All that is told of what is outside the scope of who asks: that there is something, and neither what nor where.
     *
     * @param selected the table of the request
     */
    public static Blocker hidden(TableName selected) {
        return new Blocker(selected, null, 0, "something that is not shown to you", List.of(), List.of());
    }

    /** What it is that stands in the way: {@code 3 rows of fee through fee.mooring_id: unpaid}. */
    public String text() {
        return rows == 0 ? message() : CountText.rows(rows) + " of " + table + " " + message();
    }

    public Blocker {
        permittedRules = List.copyOf(permittedRules);
        sample = List.copyOf(sample);
    }
}
