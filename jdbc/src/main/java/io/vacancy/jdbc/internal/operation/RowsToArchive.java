// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.archive.ArchivedRows;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Table;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/**
 * Rows of one table that are about to go, to get something else into a link, or to be marked.
 *
 * @param kind what of them is archived
 * @param relation through which they were reached, or null for the selected rows
 * @param which what holds for row t
 * @param rows how many, or null where they are not looked at before they go
 * @param gone told how many rows, where they go with the making of their images; null where they never do
 * @param changed the columns whose old values are archived, none where whole rows are; of what is changed with what is written
 *     into them for row t
 */
public record RowsToArchive(
        Table table,
        ArchivedRows.Kind kind,
        @Nullable String relation,
        Sql which,
        @Nullable Long rows,
        @Nullable LongConsumer gone,
        Map<String, Optional<Sql>> changed) {

    /**
     * Rows that go.
     *
     * @param rows how many, or null where they are not looked at before they go
     * @param gone told how many rows, where they go with the making of their images; null where they never do
     */
    public static RowsToArchive whole(
            Table table, @Nullable String relation, Sql which, @Nullable Long rows, @Nullable LongConsumer gone) {
        return new RowsToArchive(table, ArchivedRows.Kind.ROWS, relation, which, rows, gone, Map.of());
    }

    /** Rows that stay and get something else into a link. */
    public static RowsToArchive links(Table table, String relation, Sql which, long rows, Map<String, Sql> written) {
        return changed(ArchivedRows.Kind.LINKS, table, relation, which, rows, written);
    }

    /** Rows that stay and are blanked. */
    public static RowsToArchive values(
            Table table, @Nullable String relation, Sql which, long rows, Map<String, Sql> written) {
        return changed(ArchivedRows.Kind.VALUES, table, relation, which, rows, written);
    }

    private static RowsToArchive changed(
            ArchivedRows.Kind kind,
            Table table,
            @Nullable String relation,
            Sql which,
            long rows,
            Map<String, Sql> written) {
        Map<String, Optional<Sql>> changed = new LinkedHashMap<>();
        written.forEach((column, value) -> changed.put(column, Optional.of(value)));
        return new RowsToArchive(table, kind, relation, which, rows, null, changed);
    }

    /** Rows that stay and are marked. */
    public static RowsToArchive marks(
            Table table, @Nullable String relation, Sql which, long rows, List<String> columns) {
        Map<String, Optional<Sql>> changed = new LinkedHashMap<>();
        columns.forEach(column -> changed.put(column, Optional.empty()));
        return new RowsToArchive(table, ArchivedRows.Kind.MARKS, relation, which, rows, null, changed);
    }

    /** Whether it is a copy of what the rows hold, and not merely which ones they are. */
    public boolean copies() {
        return kind != ArchivedRows.Kind.MARKS;
    }
}
