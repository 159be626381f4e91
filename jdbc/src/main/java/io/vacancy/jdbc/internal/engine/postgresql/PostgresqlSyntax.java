// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;

/** PostgreSQL: the standard's names and values. */
final class PostgresqlSyntax implements Syntax {

    /** The bits of whole numbers, by type. */
    private static final Map<String, Integer> WHOLE = Map.of("smallint", 16, "integer", 32, "bigint", 64);

    @Override
    public String ownRow(TableName table) {
        return "t.tableoid = '" + table(table).replace("'", "''") + "'::regclass";
    }

    /** Whether a backslash is special in plain quotation marks is for the session's setting; behind an E it always is. */
    @Override
    public String literal(Object value) {
        return value instanceof String text && text.indexOf('\\') >= 0
                ? "E'" + text.replace("\\", "\\\\").replace("'", "''") + "'"
                : Syntax.super.literal(value);
    }

    /** Whole numbers as one array: the same statement however many there are, prepared once, and one value to send. */
    @Override
    public Sql inList(List<String> expressions, List<KeyColumn> columns, List<? extends List<?>> keys) {
        ColumnType type = columns.get(0).type();
        Integer bits = WHOLE.get(type.declared());
        if (expressions.size() > 1
                || keys.size() == 1
                || bits == null
                || !keys.stream().allMatch(key -> fits(key.get(0), bits))) {
            return Syntax.super.inList(expressions, columns, keys);
        }
        StringBuilder array = new StringBuilder("{");
        for (int i = 0; i < keys.size(); i++) {
            array.append(i == 0 ? "" : ",").append(keys.get(i).get(0));
        }
        return Sql.of(expressions.get(0) + " = ANY (CAST(")
                .bind(array.append('}').toString(), OwnTables.TEXT)
                .add(" AS " + type.declared() + "[]))");
    }

    /** What does not fit is equal to no value of the column, and would be an error in an array. */
    private static boolean fits(Object value, int bits) {
        return value instanceof Long number && number == number << (64 - bits) >> (64 - bits);
    }

    @Override
    public boolean joinsStatements() {
        return true;
    }
}
