// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Table;
import java.util.Map;
import java.util.function.LongConsumer;
import org.jspecify.annotations.Nullable;

/**
 * Rows of one table that are about to go, or to get something else into a link.
 *
 * @param relation through which they were reached, or null for the selected rows
 * @param which what holds for row t
 * @param rows how many, or null where they are not looked at before they go
 * @param gone told how many rows, where they go with the making of their images; null where they never do
 * @param written what is written into the columns of the link of row t; empty where the rows go
 */
public record RowsToArchive(
        Table table,
        @Nullable String relation,
        Sql which,
        @Nullable Long rows,
        @Nullable LongConsumer gone,
        Map<String, Sql> written) {}
