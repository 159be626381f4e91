package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** PostgreSQL: types that do not mix, and a key table that goes with the transaction. */
public final class PostgresqlDialect extends Dialect {

    @Override
    public String name() {
        return "PostgreSQL";
    }

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.TOGETHER;
    }

    @Override
    public SchemaReader catalogue() {
        return new PostgresqlSchemaReader();
    }

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("SHOW lock_timeout", "SET LOCAL lock_timeout = '%s'", Duration.ofMillis(1));
    }

    @Override
    public String catalogueDigest() {
        // A foreign key keeps triggers on both its tables, so this small table knows of both.
        return "SELECT count(*) || '/' || coalesce(sum(oid::bigint * 128 + ascii(tgenabled::text)), 0) FROM pg_trigger";
    }

    @Override
    public String timeType() {
        return "TIMESTAMP WITH TIME ZONE";
    }

    @Override
    public boolean hasPartialIndexes() {
        return true;
    }

    @Override
    public Fault fault(SQLException exception) {
        String state = String.valueOf(exception.getSQLState());
        return switch (state) {
            case "55P03" -> Fault.BUSY;
            default -> standard(state);
        };
    }

    @Override
    public String setIsolation(String level) {
        return "SET TRANSACTION ISOLATION LEVEL " + level;
    }

    @Override
    public boolean checksAfterStatement(Relation relation) {
        return true;
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return super.createKeyTable(keyTable, columnDefinitions, identity) + " ON COMMIT DROP";
    }

    @Override
    public String analyse(String keyTable) {
        return "ANALYZE " + keyTable;
    }

    @Override
    public String lockForEmptying(TableName table) {
        return "LOCK TABLE " + table(table) + " IN ACCESS EXCLUSIVE MODE";
    }

    @Override
    public String emptying(TableName table) {
        return "TRUNCATE TABLE " + table(table);
    }

    @Override
    public boolean emptiesRowByRow() {
        return false;
    }

    @Override
    public boolean looksUpRowByRow() {
        return false;
    }

    @Override
    public @Nullable String dropKeyTable(String keyTable) {
        return null;
    }

    @Override
    public ColumnType rowIdType() {
        return ColumnType.of(ValueKind.OTHER, "tid");
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (type.kind() == ValueKind.OTHER) {
            // Sent without a type, so that the server reads the text as whatever the column holds.
            statement.setObject(index, value, Types.OTHER);
        } else {
            super.bind(statement, index, value, type);
        }
    }

    @Override
    public boolean keepsWhileDeleting() {
        return true;
    }

    @Override
    public RowImageEncoding cells() {
        return new RowImageEncoding.OneArray();
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return value + "::text";
    }

    @Override
    public boolean definesInTransaction() {
        return true;
    }

    @Override
    public String createStage(
            String stage, Table of, List<Column> columns, List<String> numbers, List<List<String>> unique) {
        // Made of the table itself, so that texts are compared in the same way.
        List<String> selected = new ArrayList<>();
        columns.forEach(column -> selected.add(quote(column.name())));
        numbers.forEach(number -> selected.add("0::bigint AS " + number));
        StringBuilder create = new StringBuilder("CREATE TEMPORARY TABLE " + stage + " ON COMMIT DROP AS SELECT "
                + String.join(", ", selected) + " FROM " + table(of.name()) + " WHERE false");
        unique.forEach(key -> create.append("; CREATE UNIQUE INDEX ON " + stage + " (" + String.join(", ", key) + ")"));
        return create.toString();
    }

    @Override
    public String overriding(Table table) {
        return table.columns().stream().anyMatch(Column::identity) ? " OVERRIDING SYSTEM VALUE" : "";
    }

    @Override
    public String advance(TableName table, Column column) {
        String owner = "pg_get_serial_sequence('" + table(table).replace("'", "''") + "', '"
                + column.name().replace("'", "''") + "')";
        String greatest = "(SELECT max(" + quote(column.name()) + ") FROM " + table(table) + ")";
        // Never back: what was numbered and is gone keeps its number.
        return "SELECT setval(" + owner + "::regclass, greatest(" + greatest + ", nextval(" + owner
                + "::regclass) - 1)) WHERE " + owner + " IS NOT NULL AND " + greatest + " >= 1";
    }
}
