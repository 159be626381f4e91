package io.vacancy.jdbc.dialect;

import io.vacancy.jdbc.sql.KeyColumn;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.schema.Binary;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
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
        /** A constraint of the database stands against it. */
        CONSTRAINT,
        /** Anything else. */
        OTHER
    }

    /** The engine's name for messages. */
    public abstract String name();

    /** Reads the catalogue. */
    public abstract Schema readSchema(Connection connection) throws SQLException;

    public abstract Fault fault(SQLException exception);

    /** Called on every connection of Vacancy's own, before its transaction begins. */
    public void prepare(Connection connection) throws SQLException {}

    /** The isolation for looking, in which all statements see one state. */
    public int isolationForLooking() {
        return Connection.TRANSACTION_REPEATABLE_READ;
    }

    /** The isolation for carrying out, in which each statement sees the latest commits. */
    public int isolationForRemoving() {
        return Connection.TRANSACTION_READ_COMMITTED;
    }

    /** A statement that makes other writers wait from the start, where rows cannot be locked one by one. */
    public @Nullable String lockWhole(TableName table) {
        return null;
    }

    /** What makes a SELECT lock the rows it returns until the transaction ends. */
    public String forUpdate() {
        return " FOR UPDATE";
    }

    /** A statement that puts foreign key checks off until commit, or null if there is none. */
    public @Nullable String deferChecks() {
        return null;
    }

    /** Whether a statement may remove rows that refer to one another, because it is judged at its end. */
    public boolean checksAfterStatement(Relation relation) {
        return false;
    }

    /** How many values one statement may have bound to it without growing slow. */
    public int fewKeys() {
        return 500;
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

    /** The type of the engine's own row id. */
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.INTEGER, "row id");
    }

    /** Whether the expressions together are one of the listed keys. */
    public Sql inList(List<String> expressions, List<KeyColumn> columns, List<? extends List<?>> keys) {
        boolean several = expressions.size() > 1;
        Sql sql = new Sql();
        sql.add(several ? "(" + String.join(", ", expressions) + ")" : expressions.get(0));
        sql.add(several ? " IN (VALUES " : " IN (");
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

    /** Whether the expressions together are a key in a key table, under a further condition on it. */
    public Sql inKeyTable(List<String> expressions, String keyTable, List<String> keyColumns, Sql further) {
        String equal = IntStream.range(0, expressions.size())
                .mapToObj(i -> "k." + keyColumns.get(i) + " = " + expressions.get(i))
                .collect(Collectors.joining(" AND "));
        return Sql.of("EXISTS (SELECT 1 FROM " + keyTable + " k WHERE " + equal)
                .add(further)
                .add(")");
    }

    /** The statement that makes a key table, which must not end the transaction. */
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return "CREATE TEMPORARY TABLE " + keyTable + " (" + String.join(", ", columnDefinitions) + ", PRIMARY KEY ("
                + String.join(", ", identity) + "))";
    }

    public String dropKeyTable(String keyTable) {
        return "DROP TABLE " + keyTable;
    }

    /** The type of a key table's column that is to hold values of this type. */
    public String keyType(ColumnType type) {
        return type.declared();
    }

    /** A value of a result row in the class of its kind, or null for NULL. */
    public abstract @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException;

    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (value instanceof Binary binary) {
            statement.setBytes(index, binary.toBytes());
        } else {
            statement.setObject(index, value);
        }
    }
}
