// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TemporaryTables;
import io.vacancy.schema.ColumnType;

/** SQLite: tables for keys and rows that one transaction needs. */
record SqliteTemporaryTables(Syntax syntax) implements TemporaryTables {

    @Override
    public String keyType(ColumnType type) {
        // No declared type, no affinity: what is kept is exactly what was read.
        return "";
    }

    /** Rows are looked up in a stage as in their own table, by its affinities and collations. */
    @Override
    public String stageType(ColumnType type) {
        return type.declared();
    }
}
