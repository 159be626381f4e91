package io.vacancy.jdbc.spi;

import io.vacancy.schema.Binary;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.math.BigDecimal;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.UUID;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/**
 * What one database engine does differently. The defaults are standard SQL; nothing outside this package
 * asks which engine it is on.
 */
public abstract class Dialect {

    /** What a failed statement means. */
    public enum Fault {
        /** Somebody else holds the rows, or waiting for them was given up. */
        BUSY,
        /** The transaction lost against another one and may be tried again. */
        DEADLOCK,
        /** A constraint of the database stands against it. */
        CONSTRAINT,
        /** The database user may not do it. */
        NOT_ALLOWED,
        /** It was cancelled or took longer than it may. */
        CANCELLED,
        /** The database, or the transaction, can only be read. */
        READ_ONLY,
        /** The connection is gone. */
        DISCONNECTED,
        /** There is no room left to write. */
        FULL,
        /** Anything else. */
        OTHER
    }

    /** The engine's name for messages. */
    public abstract String name();

    /** A reader of this engine's catalogue, for one reading. */
    public abstract SchemaReader catalogue();

    public abstract Fault fault(SQLException exception);

    /** What the SQL standard's state says, where an engine keeps to it. */
    protected static Fault standard(String state) {
        if (state.startsWith("23")) {
            return Fault.CONSTRAINT;
        }
        if (state.startsWith("08") || state.equals("57P01") || state.equals("57P02") || state.equals("57P03")) {
            return Fault.DISCONNECTED;
        }
        return switch (state) {
            case "40001", "40P01" -> Fault.DEADLOCK;
            case "42501", "90096" -> Fault.NOT_ALLOWED;
            case "57014", "70100" -> Fault.CANCELLED;
            case "25006", "90097" -> Fault.READ_ONLY;
            case "53100" -> Fault.FULL;
            default -> Fault.OTHER;
        };
    }

    /** Called on every connection of Vacancy's own, before its transaction begins. */
    public void prepare(Connection connection) throws SQLException {}

    /** The isolation for looking, in which all statements see one state. */
    public String isolationForLooking() {
        return "REPEATABLE READ";
    }

    /** The isolation for carrying out, in which each statement sees the latest commits. */
    public String isolationForRemoving() {
        return "READ COMMITTED";
    }

    /** The isolation for writing in Vacancy's own tables, in which each statement sees what is committed. */
    public final String isolationForOwnTables() {
        return "READ COMMITTED";
    }

    /**
     * A statement that sets the isolation of the transaction it begins, and of no other; null where there is
     * none, and where there is no choice. It saves asking for the connection's own isolation and setting it
     * back, each of which is a way to the server and back.
     */
    public @Nullable String setIsolation(String level) {
        return null;
    }

    /** The isolation as JDBC has it, for engines without such a statement; null to leave it as it is. */
    public @Nullable Integer connectionIsolation(String level) {
        return null;
    }

    /** Whether rows are locked one by one, so that what was read before can be older than a lock. */
    public final boolean locksSingleRows() {
        return !forUpdate().isEmpty();
    }

    /** A statement that makes other writers wait from the start, where rows cannot be locked one by one. */
    public @Nullable String lockWhole(TableName table) {
        return null;
    }

    /** What makes a SELECT lock the rows it returns until the transaction ends. */
    public String forUpdate() {
        return " FOR UPDATE";
    }

    /** How rows can go that refer to one another through columns which cannot be NULL. */
    public enum ClosedCircle {
        /** Foreign keys are checked at commit, once that has been asked for. */
        DEFERRED,
        /** One statement removes rows of several tables and is checked at its end. */
        TOGETHER,
        /** A statement can be run without checks; the rows are locked against others meanwhile. */
        UNCHECKED,
        /** Row by row, those first that nothing refers to; impossible where several tables are involved. */
        LEAVES_FIRST
    }

    public abstract ClosedCircle closedCircle();

    /** The statement that has foreign keys checked at commit; only where circles are deferred. */
    public String deferChecks() {
        throw new UnsupportedOperationException(name() + " does not defer checks");
    }

    /** A statement without checks of foreign keys; only where circles are removed unchecked. */
    public String unchecked(String statement) {
        throw new UnsupportedOperationException(name() + " always checks");
    }

    /** Whether a locked parent row keeps others from inserting children of it, where the database enforces it. */
    public boolean parentsLockOutChildren() {
        return false;
    }

    /** How waiting is limited. */
    public abstract WaitSetting waitSetting();

    /**
     * A query for one text that is another whenever foreign keys, their actions or triggers are others: all
     * that could make rows go unseen. A column that was altered makes a statement fail, and nothing is done.
     * It has to be fast, since it runs before every deletion.
     */
    public abstract String catalogueDigest();

    /** The start of a DELETE whose rows go by the alias t. */
    public String deleteFrom(String table) {
        return "DELETE FROM " + table + " AS t";
    }

    /** Whether a statement may remove rows that refer to one another, because it is judged at its end. */
    public boolean checksAfterStatement(Relation relation) {
        return false;
    }

    public String quote(String identifier) {
        return "\"" + identifier.replace("\"", "\"\"") + "\"";
    }

    public String table(TableName name) {
        return name.schema() == null ? quote(name.name()) : quote(name.schema()) + "." + quote(name.name());
    }

    public String column(String alias, KeyColumn column) {
        return alias + "." + (column.rowId() ? column.name() : quote(column.name()));
    }

    /** That the row under one alias is the parent, by a relation, of the row under another. */
    public String joined(Relation relation, String parent, String child) {
        return IntStream.range(0, relation.childColumns().size())
                .mapToObj(i -> parent + "." + quote(relation.parentColumns().get(i)) + " = " + child + "."
                        + quote(relation.childColumns().get(i)))
                .collect(Collectors.joining(" AND "));
    }

    /** The type of the engine's own row id. */
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.INTEGER, "row id");
    }

    /** A value as it stands in a statement that is kept, such as a view. */
    public String literal(Object value) {
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

    /** A value whose type nothing around it tells. */
    public Sql typed(Sql value, ColumnType type) {
        return Sql.of("CAST(").add(value).add(" AS " + type.declared() + ")");
    }

    /** The type of a column that keeps a point in time. */
    public String timeType() {
        return "TIMESTAMP";
    }

    /** Whether an index may be over some rows only. */
    public boolean hasPartialIndexes() {
        return false;
    }

    /** Whether the expressions together are one of the listed keys. */
    public Sql inList(List<String> expressions, List<KeyColumn> columns, List<? extends List<?>> keys) {
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

    /** How a list of several columns' values begins. */
    protected String listOfTuples() {
        return " IN (";
    }

    protected static Sql inSubquery(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        String tuple = expressions.size() == 1 ? expressions.get(0) : "(" + String.join(", ", expressions) + ")";
        return Sql.of(tuple + " IN (SELECT " + String.join(", ", keyColumns) + " FROM " + keyTable + " k WHERE 1 = 1")
                .add(further)
                .add(")");
    }

    /** Whether the expressions together are a key in a key table, under a further condition on it. */
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        String equal = IntStream.range(0, expressions.size())
                .mapToObj(i -> "k." + keyColumns.get(i) + " = " + expressions.get(i))
                .collect(Collectors.joining(" AND "));
        return Sql.of("EXISTS (SELECT 1 FROM " + keyTable + " k WHERE " + equal)
                .add(further)
                .add(")");
    }

    /**
     * Whether key tables are tables like others that stay, made by a connection beside the transaction, because
     * temporary tables are not to be trusted.
     */
    public boolean sharesKeyTables() {
        return false;
    }

    /** Makes the table whose rows are locked by those who use shared key tables, with numbers from 0, if need be. */
    public String createKeySlots(String table, int many) {
        throw new UnsupportedOperationException(name() + " has temporary tables");
    }

    /**
     * The statement that makes a key table, which must not end the transaction.
     *
     * @param identity the columns of which no two rows may be the same, or none
     */
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return "CREATE TEMPORARY TABLE " + keyTable + " (" + String.join(", ", columnDefinitions)
                + (identity.isEmpty() ? "" : ", PRIMARY KEY (" + String.join(", ", identity) + ")") + ")";
    }

    /** A statement that tells the planner how many rows a key table has, or null where it knows. */
    public @Nullable String analyse(String keyTable) {
        return null;
    }

    /** A statement that keeps everybody else out of a table that is to be emptied, or null if there is none. */
    public @Nullable String lockForEmptying(TableName table) {
        return lockWhole(table);
    }

    /**
     * The fastest statement that empties a table and can still be rolled back. Where TRUNCATE commits, it is a
     * DELETE without a condition.
     */
    public String emptying(TableName table) {
        return "DELETE FROM " + table(table);
    }

    /** Whether triggers on rows run, and rows are counted, when a table is emptied. */
    public boolean emptiesRowByRow() {
        return true;
    }

    /** The statement that removes a key table, or null where it goes with the transaction. */
    public @Nullable String dropKeyTable(String keyTable) {
        return "DROP TABLE IF EXISTS " + keyTable;
    }

    /** The type of a key table's column that is to hold values of this type. */
    public String keyType(ColumnType type) {
        return type.declared();
    }

    /** A value of a result row in the class of its kind, or null for NULL. */
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        return switch (type.kind()) {
            case INTEGER -> {
                BigDecimal number = rows.getBigDecimal(index);
                yield number == null ? null : ValueKind.INTEGER.read(number);
            }
            case DECIMAL -> rows.getBigDecimal(index);
            case FLOATING -> {
                double number = rows.getDouble(index);
                yield rows.wasNull() ? null : number;
            }
            case BOOLEAN -> {
                boolean truth = rows.getBoolean(index);
                yield rows.wasNull() ? null : truth;
            }
            case DATE -> rows.getObject(index, LocalDate.class);
            case TIME -> rows.getObject(index, LocalTime.class);
            case TIMESTAMP -> rows.getObject(index, LocalDateTime.class);
            case INSTANT -> rows.getObject(index, OffsetDateTime.class);
            case UUID -> rows.getObject(index, UUID.class);
            case BINARY -> {
                byte[] bytes = rows.getBytes(index);
                yield bytes == null ? null : Binary.of(bytes);
            }
            case TEXT, OTHER -> rows.getString(index);
        };
    }

    /** A value as the driver takes it. */
    public Object plain(Object value) {
        return value instanceof Binary binary ? binary.toBytes() : value;
    }

    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof Binary binary) {
            statement.setBytes(index, binary.toBytes());
        } else {
            statement.setObject(index, value);
        }
    }

    /** Whether the rows that a DELETE removes can go into another table with the same statement. */
    public boolean keepsWhileDeleting() {
        return false;
    }

    /** How images hold values. */
    public abstract RowImageEncoding cells();

    /** A value as it stands in a cell. */
    public String toCell(String value, ColumnType type) {
        return "CAST(" + value + " AS VARCHAR)";
    }

    /** The value in a cell, of a column's type again. */
    public String fromCell(String cell, ColumnType type) {
        return "CAST(" + cell + " AS " + type.declared() + ")";
    }

    /** A value as it is read into a copy outside the database; what has no kind of its own is read as its cell. */
    public String toCopy(String value, ColumnType type) {
        return type.kind() == ValueKind.OTHER ? toCell(value, type) : value;
    }

    /** A value of a copy, which takes the place of the question mark. */
    public String fromCopy(ColumnType type) {
        return type.kind() == ValueKind.OTHER ? fromCell("?", type) : "?";
    }

    /** Whether a column may hold values of any kind, whatever its type says. */
    public boolean keepsAnything() {
        return false;
    }

    /** The definition of a column that numbers rows by itself and is their key. */
    public String numbering() {
        return "BIGINT GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY";
    }

    /** The same of a column that numbers the many rows of images, which need no key of their own. */
    public String numberingImages() {
        return "BIGINT GENERATED BY DEFAULT AS IDENTITY";
    }

    /** The type of a column for texts of any length. */
    public String longText() {
        return "TEXT";
    }

    /** What stands behind the definition of a table of Vacancy's own. */
    public String tableOptions() {
        return "";
    }

    /** Whether a table can be made inside a transaction that goes on after it. */
    public boolean definesInTransaction() {
        return false;
    }

    /**
     * The statement that makes an empty temporary table with the columns of another one, all of which may be NULL,
     * and with further columns of numbers. It must not end the transaction.
     *
     * @param columns of the other table
     * @param numbers names of further columns
     * @param unique columns of which no two rows may be the same, list by list
     */
    public String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        return createPlainStage(stage, columns, numbers, unique);
    }

    /** The same with columns of no table. */
    public final String createPlainStage(
            String stage, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        List<String> definitions = new ArrayList<>();
        columns.forEach(column -> definitions.add((quote(column.name()) + " " + keyType(column.type())).strip()));
        numbers.forEach(number -> definitions.add(number + " BIGINT"));
        unique.forEach(key -> definitions.add("UNIQUE (" + String.join(", ", key) + ")"));
        return createKeyTable(stage, definitions, List.of());
    }

    /** Whether it finds rows of a large table by an index alone, and not by hashing all of them at once. */
    public boolean looksUpRowByRow() {
        return true;
    }

    /** What stands between columns and values of an INSERT that gives a number to a column which numbers itself. */
    public String overriding(Table table) {
        return "";
    }

    /**
     * A query that moves the counter of a column that numbers itself beyond every number that is there, or null where
     * it follows by itself. It takes effect at once, whatever becomes of the transaction; what it returns are
     * statements to be run once that is committed, or anything else than text.
     */
    public @Nullable String advance(TableName table, Column column) {
        return null;
    }
}
