// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import java.util.ArrayList;
import java.util.List;

/** SQLite: tables for keys and rows that one transaction needs. */
record SqliteTemporaryTables(Syntax syntax) implements TemporaryTables {

    @Override
    public String keyType(ColumnType type) {
        // No declared type, no affinity: what is kept is exactly what was read.
        return "";
    }

    /** With the types and collations of the columns, since rows are looked up in it as in their own table. */
    @Override
    public String createPlainStage(
            String stage, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        List<String> definitions = new ArrayList<>();
        columns.forEach(column -> definitions.add(
                (syntax.quote(column.name()) + " " + column.type().declared()).strip()));
        numbers.forEach(number -> definitions.add(number + " BIGINT"));
        unique.forEach(key -> definitions.add("UNIQUE (" + String.join(", ", key) + ")"));
        return createKeyTable(stage, definitions, List.of());
    }
}
