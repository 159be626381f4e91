// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableDefinitions;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;

/** H2: what Vacancy's own tables are made of, and how numbers go on after rows came back. */
record H2TableDefinitions(Syntax syntax) implements TableDefinitions {

    @Override
    public String longText() {
        return "CHARACTER LARGE OBJECT";
    }

    @Override
    public String overriding(Table table) {
        return table.columns().stream().anyMatch(Column::identity) ? " OVERRIDING SYSTEM VALUE" : "";
    }

    /** Only a statement that commits can do it, so the query writes one where it is needed. */
    @Override
    public String advance(TableName table, Column column) {
        String greatest = "(SELECT MAX(" + syntax().quote(column.name()) + ") FROM " + syntax().table(table) + ")";
        String schema =
                table.schema() == null ? "SCHEMA()" : "'" + table.schema().replace("'", "''") + "'";
        return "SELECT 'ALTER TABLE " + syntax().table(table).replace("'", "''") + " ALTER COLUMN "
                + syntax().quote(column.name()).replace("'", "''") + " RESTART WITH ' || (1 + " + greatest
                + ") FROM information_schema.columns WHERE table_schema = " + schema + " AND table_name = '"
                + table.name().replace("'", "''") + "' AND column_name = '"
                + column.name().replace("'", "''")
                + "' AND identity_base <= " + greatest;
    }

    @Override
    public String renameColumn(String table, String column, String to) {
        return "ALTER TABLE " + table + " ALTER COLUMN " + column + " RENAME TO " + to;
    }
}
