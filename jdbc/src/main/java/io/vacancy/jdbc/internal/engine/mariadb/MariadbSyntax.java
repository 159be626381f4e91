// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import java.util.List;

/** MariaDB: how an engine writes names, values and the statements that every engine writes a little differently. */
final class MariadbSyntax implements Syntax {

    /** A backslash takes the meaning from what comes after it. */
    @Override
    public String literal(Object value) {
        return Syntax.super.literal(value instanceof String text ? text.replace("\\", "\\\\") : value);
    }

    /** Values find the column's type by themselves. */
    @Override
    public Sql typed(Sql value, ColumnType type) {
        return value;
    }

    @Override
    public String quote(String identifier) {
        return "`" + identifier.replace("`", "``") + "`";
    }

    @Override
    public String deleteFrom(String table) {
        return "DELETE t FROM " + table + " t";
    }

    @Override
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        return Syntax.inSubquery(expressions, keyTable, keyColumns, further);
    }

    @Override
    public String firstRows(long most) {
        return " LIMIT " + most;
    }
}
