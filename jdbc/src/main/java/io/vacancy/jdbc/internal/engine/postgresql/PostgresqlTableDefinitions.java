// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;

/** PostgreSQL: what Vacancy's own tables are made of, and how numbers go on after rows came back. */
record PostgresqlTableDefinitions(Syntax syntax) implements TableDefinitions {

    @Override
    public String timeType() {
        return "TIMESTAMP WITH TIME ZONE";
    }

    @Override
    public boolean hasPartialIndexes() {
        return true;
    }

    @Override
    public boolean definesInTransaction() {
        return true;
    }

    @Override
    public String overriding(Table table) {
        return table.columns().stream().anyMatch(Column::identity) ? " OVERRIDING SYSTEM VALUE" : "";
    }

    @Override
    public String advance(TableName table, Column column) {
        String owner = "pg_get_serial_sequence('" + syntax().table(table).replace("'", "''") + "', '"
                + column.name().replace("'", "''") + "')";
        String greatest = "(SELECT max(" + syntax().quote(column.name()) + ") FROM " + syntax().table(table) + ")";
        // Never back: what was numbered and is gone keeps its number.
        return "SELECT setval(" + owner + "::regclass, greatest(" + greatest + ", nextval(" + owner
                + "::regclass) - 1)) WHERE " + owner + " IS NOT NULL AND " + greatest + " >= 1";
    }
}
