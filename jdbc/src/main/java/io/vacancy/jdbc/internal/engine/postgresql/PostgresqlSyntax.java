// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** PostgreSQL: the standard's names and values. */
final class PostgresqlSyntax implements Syntax {

    /** The bits of whole numbers, by type. */
    private static final Map<String, Integer> WHOLE = Map.of("smallint", 16, "integer", 32, "bigint", 64);

    /** Of more rows the arrays take longer to build than the way to the server does. */
    private static final int ROWS_IN_ARRAYS = 5_000;

    /** How many keys are looked up one by one at any rate. */
    private static final int MANY = 32;

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
        if (keys.size() > MANY) {
            // A plan that is made once for any array compares each row with every key in turn; a join never does.
            return Sql.of(expressions.get(0) + " IN (SELECT unnest(")
                    .add(array(keys, 0, type))
                    .add("))");
        }
        return Sql.of(expressions.get(0) + " = ANY (").add(array(keys, 0, type)).add(")");
    }

    /** One array for each column: the same statement however many rows there are. */
    @Override
    public Sql insertion(String table, List<KeyColumn> columns, List<? extends List<? extends @Nullable Object>> rows) {
        if (!inArrays(columns)) {
            return Syntax.super.insertion(table, columns, rows);
        }
        Sql insert = Sql.of("INSERT INTO " + table + " SELECT * FROM unnest(");
        for (int i = 0; i < columns.size(); i++) {
            insert.add(i == 0 ? "" : ", ").add(array(rows, i, columns.get(i).type()));
        }
        return insert.add(")");
    }

    @Override
    public int rowsAtOnce(List<KeyColumn> columns) {
        return inArrays(columns) ? ROWS_IN_ARRAYS : Syntax.super.rowsAtOnce(columns);
    }

    private static boolean inArrays(List<KeyColumn> columns) {
        return columns.stream()
                        .filter(column -> column.type().encoding() == null)
                        .filter(column -> column.type().kind() == ValueKind.TEXT
                                || WHOLE.containsKey(column.type().declared().toLowerCase(Locale.ROOT)))
                        .count()
                == columns.size();
    }

    /** The values at one place of each row, as an array of a type (PostgreSQL, 8.15.6, Array Input and Output Syntax). */
    private static Sql array(List<? extends List<? extends @Nullable Object>> rows, int place, ColumnType type) {
        StringBuilder array = new StringBuilder("{");
        for (int i = 0; i < rows.size(); i++) {
            array.append(i == 0 ? "" : ",");
            Object value = rows.get(i).get(place);
            if (value instanceof String text) {
                array.append('"')
                        .append(text.replace("\\", "\\\\").replace("\"", "\\\""))
                        .append('"');
            } else {
                array.append(value == null ? "NULL" : value);
            }
        }
        String element = type.kind() == ValueKind.TEXT ? "text" : type.declared();
        return Sql.of("CAST(")
                .bind(array.append('}').toString(), OwnTables.TEXT)
                .add(" AS " + element + "[])");
    }

    /** What does not fit is equal to no value of the column, and would be an error in an array. */
    private static boolean fits(Object value, int bits) {
        return value instanceof Long number && number == number << (64 - bits) >> (64 - bits);
    }

    @Override
    public String firstOfFewRows(long most) {
        return "";
    }

    @Override
    public boolean joinsStatements() {
        return true;
    }
}
