// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.TableName;

/** PostgreSQL: the standard's names and values. */
final class PostgresqlSyntax implements Syntax {

    /** Whether a backslash is special in plain quotation marks is for the session's setting; behind an E it always is. */
    @Override
    public String ownRow(TableName table) {
        return "t.tableoid = '" + table(table).replace("'", "''") + "'::regclass";
    }

    @Override
    public String literal(Object value) {
        return value instanceof String text && text.indexOf('\\') >= 0
                ? "E'" + text.replace("\\", "\\\\").replace("'", "''") + "'"
                : Syntax.super.literal(value);
    }

    @Override
    public boolean joinsStatements() {
        return true;
    }
}
