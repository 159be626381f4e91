// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import io.vacancy.failure.MisuseException;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import io.vacancy.schema.TimeEncoding;
import io.vacancy.schema.ValueKind;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.OffsetDateTime;
import java.util.List;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** How an engine writes names, values and the statements that every engine writes a little differently. The defaults are standard SQL. */
public interface Syntax {

    /** Texts one behind the other, none of them NULL. */
    default Sql concatenated(List<Sql> texts) {
        Sql all = new Sql();
        for (Sql text : texts) {
            all.add(all.text().isEmpty() ? "(" : " || ").add(text);
        }
        return all.add(")");
    }

    /** A value as a text. */
    default Sql asText(Sql value) {
        return Sql.of("CAST(").add(value).add(" AS VARCHAR(1000))");
    }

    /** That a truth value is known to be this one, which is itself never unknown. */
    default String isTruth(String operand, boolean truth) {
        return operand + " IS " + (truth ? "TRUE" : "FALSE");
    }

    /** Whether rows can be numbered within groups: ROW_NUMBER() OVER (PARTITION BY …). */
    default boolean numbersRowsInGroups() {
        return true;
    }

    /** The end of a SELECT of which no more than so many rows are wanted. */
    default String firstRows(long most) {
        return " FETCH FIRST " + most + " ROWS ONLY";
    }

    /**
     * The same where the rows are mostly fewer, and the driver is told of the limit as well; empty where the planner, told of
     * it, would go through a whole table in the order that is wanted rather than find some rows and sort them.
     */
    default String firstOfFewRows(long most) {
        return firstRows(most);
    }

    /** The start of an UPDATE whose rows go by the alias t, up to its first assignment. */
    default String update(String table) {
        return "UPDATE " + table + " AS t SET ";
    }

    /** The start of a DELETE whose rows go by the alias t. */
    default String deleteFrom(String table) {
        return "DELETE FROM " + table + " AS t";
    }

    default String quote(String identifier) {
        return "\"" + identifier.replace("\"", "\"\"") + "\"";
    }

    default String table(TableName name) {
        return name.schema() == null ? quote(name.name()) : quote(name.schema()) + "." + quote(name.name());
    }

    default String column(String alias, KeyColumn column) {
        return alias + "." + (column.rowId() ? column.name() : quote(column.name()));
    }

    /** A column of a key as rows are ordered by it. */
    default String ordering(String alias, KeyColumn column) {
        return column(alias, column);
    }

    /**
     * That a row t is one of a table itself and not of another that inherits from it; null where no table inherits from
     * another.
     */
    default @Nullable String ownRow(TableName table) {
        return null;
    }

    /** That the row under one alias is the parent, by a relation, of the row under another. */
    default String joined(Relation relation, String parent, String child) {
        return IntStream.range(0, relation.childColumns().size())
                .mapToObj(i -> {
                    String own = parent + "." + quote(relation.parentColumns().get(i));
                    return i == 0 && relation.list()
                            ? keyList(relation, child).contains(own)
                            : own + " = " + child + "."
                                    + quote(relation.childColumns().get(i));
                })
                .collect(Collectors.joining(" AND "));
    }

    private KeyListText keyList(Relation relation, String child) {
        return new KeyListText(this, child + "." + quote(relation.childColumns().get(0)));
    }

    /** That the list of keys in a child row, which is not NULL, has any. */
    default String refersByList(Relation relation, String child) {
        return keyList(relation, child).some();
    }

    /** That more keys are in the list of a child row than parents, of a table under the alias o, that are there. */
    default String namesMissing(Relation relation, String child) {
        KeyListText list = keyList(relation, child);
        return list.size() + " > (SELECT COALESCE(SUM("
                + list.occurrences("o." + quote(relation.parentColumns().get(0))) + "), 0) FROM "
                + table(relation.parent()) + " o WHERE " + joined(relation, "o", child) + ")";
    }

    /** A value as a text, however long. */
    default String wholeText(String value) {
        return "CAST(" + value + " AS VARCHAR)";
    }

    /** That a text has another one in it. */
    default String contains(String text, String part) {
        return "POSITION(" + part + " IN " + text + ") > 0";
    }

    /** A value as it stands in a statement that is kept, such as a view. */
    default String literal(Object value) {
        if (value instanceof Number || value instanceof Boolean) {
            return value.toString();
        }
        String text = "'" + value.toString().replace("'", "''") + "'";
        if (value instanceof LocalDate) {
            return "DATE " + text;
        }
        if (value instanceof LocalDateTime) {
            return "TIMESTAMP " + text.replace('T', ' ');
        }
        return value instanceof OffsetDateTime ? "TIMESTAMP WITH TIME ZONE " + text.replace('T', ' ') : text;
    }

    /**
     * What the engine's clock says, as a column of a type keeps it.
     *
     * @throws MisuseException if it cannot be said in SQL
     */
    default String clock(ColumnType type) {
        TimeEncoding encoding = type.encoding();
        if (encoding != null) {
            throw new MisuseException(
                    "No view can have the time by the database's clock as " + encoding.word() + ".",
                    "Read active rows by activeSql or active, which use Vacancy's clock.");
        }
        return type.kind() == ValueKind.DATE ? "CURRENT_DATE" : "CURRENT_TIMESTAMP";
    }

    /** A value whose type nothing around it tells. */
    default Sql typed(Sql value, ColumnType type) {
        return Sql.of("CAST(").add(value).add(" AS " + type.declared() + ")");
    }

    /** Whether the expressions together are one of the listed keys. */
    default Sql inList(List<String> expressions, List<KeyColumn> columns, List<? extends List<?>> keys) {
        if (keys.size() == 1) {
            return equal(expressions, columns, keys.get(0));
        }
        boolean several = expressions.size() > 1;
        Sql sql = new Sql();
        sql.add(several ? "(" + String.join(", ", expressions) + ")" : expressions.get(0));
        sql.add(several ? listOfTuples() : " IN (");
        for (int i = 0; i < keys.size(); i++) {
            sql.add(i == 0 ? "" : ", ").add(several ? "(" : "");
            for (int j = 0; j < columns.size(); j++) {
                sql.add(j == 0 ? "" : ", ")
                        .bind(keys.get(i).get(j), columns.get(j).type());
            }
            sql.add(several ? ")" : "");
        }
        return sql.add(")");
    }

    /** Whether the expressions are one key; of an equation a planner knows as much without the value as with it. */
    static Sql equal(List<String> expressions, List<KeyColumn> columns, List<?> key) {
        Sql sql = Sql.of("(");
        for (int i = 0; i < expressions.size(); i++) {
            sql.add((i == 0 ? "" : " AND ") + expressions.get(i) + " = ")
                    .bind(key.get(i), columns.get(i).type());
        }
        return sql.add(")");
    }

    /** How a list of several columns' values begins. */
    default String listOfTuples() {
        return " IN (";
    }

    static Sql inSubquery(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        String tuple = expressions.size() == 1 ? expressions.get(0) : "(" + String.join(", ", expressions) + ")";
        return Sql.of(tuple + " IN (SELECT " + String.join(", ", keyColumns) + " FROM " + keyTable + " k WHERE 1 = 1")
                .add(further)
                .add(")");
    }

    /** Whether the expressions together are a key in a key table, under a further condition on it. */
    default Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        String equal = IntStream.range(0, expressions.size())
                .mapToObj(i -> "k." + keyColumns.get(i) + " = " + expressions.get(i))
                .collect(Collectors.joining(" AND "));
        return Sql.of("EXISTS (SELECT 1 FROM " + keyTable + " k WHERE " + equal)
                .add(further)
                .add(")");
    }

    /**
     * Whether the driver sends several statements, with semicolons between them, on one way to the server, and hands over
     * the result of each.
     */
    default boolean joinsStatements() {
        return false;
    }

    /** How many rows one statement inserts into a table of ours; about 1,000 values were measured best. */
    default int rowsAtOnce(List<KeyColumn> columns) {
        return Math.max(1, 1_000 / columns.size());
    }

    /** The statement that inserts rows into a table of ours. */
    default Sql insertion(
            String table, List<KeyColumn> columns, List<? extends List<? extends @Nullable Object>> rows) {
        Sql insert = Sql.of("INSERT INTO " + table + " VALUES ");
        for (int i = 0; i < rows.size(); i++) {
            for (int j = 0; j < columns.size(); j++) {
                insert.add(j > 0 ? ", " : i == 0 ? "(" : ", (");
                Object value = rows.get(i).get(j);
                if (value == null) {
                    insert.add("NULL");
                } else {
                    insert.bind(value, columns.get(j).type());
                }
            }
            insert.add(")");
        }
        return insert;
    }

    /** Whether many rows are inserted fastest by one statement for a single row, run as a batch. */
    default boolean insertsInBatches() {
        return false;
    }
}
