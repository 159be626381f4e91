// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.jobs.internal.run.Batch.Whole;
import io.vacancy.jobs.internal.store.ShownRow;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.preview.Effect;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * How many bytes a row has, of the table whose rows are the largest on average: so a limit in bytes becomes one in rows, which
 * holds before anything is done. No more than some rows of each table are looked at.
 */
record RowBytes(long each) {

    private static final int SELECTED = 100;
    private static final int LOOKED_AT = 200;

    /** Looks at what would go with some of the selected rows. */
    static RowBytes of(Whole whole, List<ShownRow> rows) {
        Request piece = whole.request()
                .piece(rows.stream()
                        .limit(SELECTED)
                        .map(row -> row.asKey(whole.identity()))
                        .toList());
        Set<String> tables = whole.vacancy().preview(piece).effects().stream()
                .filter(Effect::goes)
                .map(effect -> effect.table().toString())
                .collect(Collectors.toSet());
        long most = 1;
        for (String table : tables) {
            try (Stream<Row> some = whole.vacancy().rows(piece, table)) {
                most = Math.max(
                        most,
                        Math.round(some.limit(LOOKED_AT)
                                .mapToLong(RowBytes::of)
                                .average()
                                .orElse(1)));
            }
        }
        return new RowBytes(most);
    }

    private static long of(Row row) {
        return row.values().values().stream().mapToLong(RowBytes::of).sum();
    }

    private static long of(@Nullable Object value) {
        if (value instanceof byte[] bytes) {
            return bytes.length;
        }
        return value == null ? 0 : String.valueOf(value).getBytes(StandardCharsets.UTF_8).length;
    }

    /** How many rows a batch may have; one at least, since a row is not divided. */
    @Nullable
    Long most(BatchSize batches) {
        Long bytes = batches.mostBytes();
        Long rows = batches.mostRows();
        if (bytes == null) {
            return rows;
        }
        long fits = Math.max(1, bytes / each);
        return rows == null ? fits : Math.min(rows, fits);
    }
}
