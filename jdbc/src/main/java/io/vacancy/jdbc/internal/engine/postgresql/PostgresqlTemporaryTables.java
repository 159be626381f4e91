// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** PostgreSQL: tables for keys and rows that one transaction needs. */
record PostgresqlTemporaryTables(Syntax syntax) implements TemporaryTables {

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return TemporaryTables.super.createKeyTable(keyTable, columnDefinitions, identity) + " ON COMMIT DROP";
    }

    @Override
    public String analyse(String keyTable) {
        return "ANALYZE " + keyTable;
    }

    @Override
    public boolean looksUpRowByRow() {
        return false;
    }

    @Override
    public @Nullable String dropKeyTable(String keyTable) {
        return null;
    }

    @Override
    public String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        // Made of the table itself, so that texts are compared in the same way.
        List<String> selected = new ArrayList<>();
        columns.forEach(column -> selected.add(syntax().quote(column.name())));
        numbers.forEach(number -> selected.add("0::bigint AS " + number));
        StringBuilder create = new StringBuilder("CREATE TEMPORARY TABLE " + stage + " ON COMMIT DROP AS SELECT "
                + String.join(", ", selected) + " FROM " + syntax().table(of.name()) + " WHERE false");
        unique.forEach(key -> create.append("; CREATE UNIQUE INDEX ON " + stage + " (" + String.join(", ", key) + ")"));
        return create.toString();
    }
}
