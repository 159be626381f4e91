package io.vacancy.preview;

import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import java.util.List;

/**
 * Rows that stand in the way.
 *
 * @param relation the relation through which they do
 * @param rows how many; 0 where that is not told, because they are outside the scope of who asks
 * @param reason why, as the rule book or the schema has it
 * @param sample a few of the rows, in key order
 */
public record Blocker(TableName table, String relation, long rows, String reason, List<Row> sample) {

    public Blocker {
        sample = List.copyOf(sample);
    }
}
