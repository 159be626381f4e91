// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.TableTruncation;
import io.vacancy.schema.TableName;

/** PostgreSQL: how a table is emptied at once. */
record PostgresqlTableTruncation(Syntax syntax) implements TableTruncation {

    @Override
    public String lock(TableName table) {
        return "LOCK TABLE " + syntax().table(table) + " IN ACCESS EXCLUSIVE MODE";
    }

    @Override
    public String statement(TableName table) {
        return "TRUNCATE TABLE " + syntax().table(table);
    }

    @Override
    public boolean rowByRow() {
        return false;
    }
}
