// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.RowComparison;
import io.vacancy.request.Key;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.ArchiveSelection;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.Iterator;
import java.util.List;
import java.util.Map;
import java.util.Spliterator;
import java.util.Spliterators;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;

/** Lays archived rows beside those that have their keys now, some at a time, so that any number can be compared. */
public final class ArchiveComparison {

    private static final int AT_ONCE = 500;

    private final RequestExecutor executor;
    private final ReceiptId receipt;

    public ArchiveComparison(RequestExecutor executor, ReceiptId receipt) {
        this.executor = executor;
        this.receipt = receipt;
    }

    /** Of one table. To be closed: until then it holds a connection, and takes another one for the rows of each part. */
    public Stream<RowComparison> of(Table table) {
        Stream<Row> images = executor.images(
                Request.purge(table.toString()).everyRow(), new ArchiveSelection(List.of(receipt), null, null));
        if (!table.identity().lasts()) {
            return images.map(RowComparison::withoutKey);
        }
        Iterator<Row> each = images.iterator();
        Iterator<List<Row>> parts = new Iterator<>() {
            @Override
            public boolean hasNext() {
                return each.hasNext();
            }

            @Override
            public List<Row> next() {
                List<Row> part = new ArrayList<>();
                while (part.size() < AT_ONCE && each.hasNext()) {
                    part.add(each.next());
                }
                return part;
            }
        };
        return StreamSupport.stream(Spliterators.spliteratorUnknownSize(parts, Spliterator.ORDERED), false)
                .flatMap(part -> compared(part, table))
                .onClose(images::close);
    }

    private Stream<RowComparison> compared(List<Row> images, Table table) {
        List<Key> keys = images.stream().map(row -> key(row, table)).toList();
        Map<List<@Nullable Object>, Row> now = new HashMap<>();
        try (Stream<Row> rows =
                executor.rows(Request.erase(table.toString()).keys(keys).includingMarked(), selected -> selected)) {
            rows.forEach(row -> now.put(identity(row, table), row));
        }
        return images.stream()
                .map(was -> RowComparison.of(
                        was, now.get(identity(was, table)), table.identity().columns()));
    }

    private static Key key(Row row, Table table) {
        List<String> columns = table.identity().columns();
        return Key.of(columns, identity(row, table));
    }

    private static List<@Nullable Object> identity(Row row, Table table) {
        List<@Nullable Object> values = new ArrayList<>();
        for (String column : table.identity().columns()) {
            Object value = row.get(column);
            values.add(value instanceof BigDecimal decimal ? decimal.stripTrailingZeros() : value);
        }
        return values;
    }
}
