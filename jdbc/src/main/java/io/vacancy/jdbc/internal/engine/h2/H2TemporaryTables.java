// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.ColumnType;
import java.util.List;

/** H2: tables for keys and rows that one transaction needs. */
record H2TemporaryTables(Syntax syntax) implements TemporaryTables {

    /**
     * A process that ends while rows of a temporary table are not committed leaves a file that H2 cannot open again,
     * and one that ends soon after a table was made or dropped beside a transaction sometimes half of that transaction
     * (docs/measurements.md); so key tables are tables like others, made once.
     */
    @Override
    public boolean sharesKeyTables() {
        return true;
    }

    @Override
    public String createKeySlots(String table, int many) {
        return "CREATE TABLE IF NOT EXISTS " + table
                + " (slot INTEGER NOT NULL PRIMARY KEY) AS SELECT * FROM system_range(0, " + (many - 1) + ")";
    }

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return TemporaryTables.super
                .createKeyTable(keyTable, columnDefinitions, identity)
                .replaceFirst("CREATE TEMPORARY TABLE", "CREATE TABLE IF NOT EXISTS");
    }

    @Override
    public String keyType(ColumnType type) {
        return type.declared().isEmpty() ? "BIGINT" : type.declared();
    }
}
