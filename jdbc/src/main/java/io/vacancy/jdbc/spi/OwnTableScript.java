// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.jdbc.OwnTables;

/** Writes the statements that define Vacancy's own tables. */
public record OwnTableScript(OwnTables tables, Dialect dialect) {

    /** A table with columns and constraints. */
    public String create(String table, String... definitions) {
        return "CREATE TABLE " + name(table) + " (" + String.join(", ", definitions) + ")"
                + dialect.definitions().tableOptions();
    }

    /** An index whose name ends in what it is for. */
    public String index(String table, String of, String... columns) {
        return "CREATE INDEX " + dialect.syntax().quote(tables.prefix() + table + "_" + of) + " ON " + name(table)
                + " (" + String.join(", ", columns) + ")";
    }

    /** Another name for a column. */
    public String renameColumn(String table, String column, String to) {
        return dialect.definitions().renameColumn(name(table), column, to);
    }

    /** Adds a column to one of the tables. */
    public String addColumn(String table, String definition) {
        return "ALTER TABLE " + name(table) + " ADD COLUMN " + definition;
    }

    /** The name of one of the tables, as it is written in a statement. */
    public String name(String table) {
        return dialect.syntax().table(tables.table(table));
    }
}
