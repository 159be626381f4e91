// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.schema.ValueKind;
import java.util.ArrayList;
import java.util.List;

/** MariaDB: tables for keys and rows that one transaction needs. */
record MariadbTemporaryTables(Syntax syntax) implements TemporaryTables {

    @Override
    public String dropKeyTable(String keyTable) {
        return "DROP TEMPORARY TABLE IF EXISTS " + keyTable;
    }

    @Override
    public String keyType(ColumnType type) {
        // A text without a length cannot be a key; those that are have one.
        return type.declared();
    }

    @Override
    public String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        List<String> definitions = new ArrayList<>();
        List<String> texts = new ArrayList<>();
        for (Column column : columns) {
            if (column.type().kind() == ValueKind.TEXT) {
                // Taken from the table, so that they are compared in the same way, and may be NULL all the same.
                texts.add("IF(1 = 0, NULL, " + syntax().quote(column.name()) + ") AS " + syntax().quote(column.name()));
            } else {
                definitions.add(syntax().quote(column.name()) + " " + keyType(column.type()) + " NULL");
            }
        }
        numbers.forEach(number -> definitions.add(number + " BIGINT"));
        unique.forEach(key -> definitions.add("UNIQUE (" + String.join(", ", key) + ")"));
        return createKeyTable(stage, definitions, List.of())
                + (texts.isEmpty()
                        ? ""
                        : " SELECT " + String.join(", ", texts) + " FROM " + syntax().table(of.name())
                                + " WHERE 1 = 0");
    }
}
