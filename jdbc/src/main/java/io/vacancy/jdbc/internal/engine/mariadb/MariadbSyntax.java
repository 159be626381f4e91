// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import java.nio.charset.StandardCharsets;
import java.util.HexFormat;
import java.util.List;

/** MariaDB: how an engine writes names, values and the statements that every engine writes a little differently. */
final class MariadbSyntax implements Syntax {

    /** Whether a backslash takes the meaning from what comes after it is for the session's mode; in hexadecimal none does. */
    @Override
    public String literal(Object value) {
        return value instanceof String text && text.indexOf('\\') >= 0
                ? "CONVERT(X'" + HexFormat.of().formatHex(text.getBytes(StandardCharsets.UTF_8)) + "' USING utf8mb4)"
                : Syntax.super.literal(value);
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

    @Override
    public Sql concatenated(List<Sql> texts) {
        // Two bars mean OR here, unless the server's SQL mode says otherwise.
        Sql all = new Sql();
        for (Sql text : texts) {
            all.add(all.text().isEmpty() ? "CONCAT(" : ", ").add(text);
        }
        return all.add(")");
    }

    @Override
    public String wholeText(String value) {
        return "CAST(" + value + " AS CHAR)";
    }

    @Override
    public Sql asText(Sql value) {
        return Sql.of("CAST(").add(value).add(" AS CHAR)");
    }
}
