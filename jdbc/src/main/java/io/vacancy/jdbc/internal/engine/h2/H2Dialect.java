package io.vacancy.jdbc.internal.engine.h2;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.RowImageEncoding;
import io.vacancy.jdbc.spi.SchemaReader;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.sql.Array;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * H2: foreign keys are checked row by row, and they do not hold against a child row that somebody else is
 * about to insert.
 */
public final class H2Dialect extends Dialect {

    private static final int LOCK_TIMEOUT = 50200;
    private static final ObjectMapper JSON = new ObjectMapper();

    @Override
    public String name() {
        return "H2";
    }

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.LEAVES_FIRST;
    }

    @Override
    public SchemaReader catalogue() {
        return new H2SchemaReader();
    }

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("SELECT LOCK_TIMEOUT()", "SET LOCK_TIMEOUT %s", Duration.ofMillis(1));
    }

    @Override
    public String catalogueDigest() {
        return """
                SELECT (SELECT COUNT(*) || '/' || COALESCE(SUM(ORA_HASH(constraint_name || delete_rule)), 0)
                          FROM information_schema.referential_constraints)
                    || ' ' || (SELECT COUNT(*) FROM information_schema.triggers)""";
    }

    @Override
    public Fault fault(SQLException exception) {
        String state = String.valueOf(exception.getSQLState());
        return exception.getErrorCode() == LOCK_TIMEOUT ? Fault.BUSY : standard(state);
    }

    /**
     * A process that ends while rows of a temporary table are not committed leaves a file that H2 cannot open again,
     * and one that ends soon after a table was made or dropped beside a transaction sometimes half of that transaction
     * (docs/measurements.md); so key tables are tables like others, made once.
     */
    @Override
    public boolean sharesKeyTables() {
        return true;
    }

    @Override
    public String createKeySlots(String table, int many) {
        return "CREATE TABLE IF NOT EXISTS " + table
                + " (slot INTEGER NOT NULL PRIMARY KEY) AS SELECT * FROM system_range(0, " + (many - 1) + ")";
    }

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        return super.createKeyTable(keyTable, columnDefinitions, identity)
                .replaceFirst("CREATE TEMPORARY TABLE", "CREATE TABLE IF NOT EXISTS");
    }

    @Override
    public String isolationForRemoving() {
        // The one level that sees child rows which others have inserted and not yet committed. Nothing is
        // decided on such a row: it is read FOR UPDATE, which waits for whoever inserted it.
        return "READ UNCOMMITTED";
    }

    @Override
    public Integer connectionIsolation(String level) {
        return switch (level) {
            case "READ UNCOMMITTED" -> Connection.TRANSACTION_READ_UNCOMMITTED;
            case "READ COMMITTED" -> Connection.TRANSACTION_READ_COMMITTED;
            default -> Connection.TRANSACTION_REPEATABLE_READ;
        };
    }

    @Override
    public String keyType(ColumnType type) {
        return type.declared().isEmpty() ? "BIGINT" : type.declared();
    }

    @Override
    public RowImageEncoding cells() {
        return new H2RowImageEncoding();
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return switch (H2RowImageEncoding.place(type)) {
            case "lists" -> "CAST(" + value + " AS VARCHAR ARRAY)";
            case "bytes", "texts" -> value;
            default -> super.toCell(value, type);
        };
    }

    @Override
    public String fromCell(String cell, ColumnType type) {
        return type.declared().toUpperCase(Locale.ROOT).startsWith("JSON")
                ? cell + " FORMAT JSON"
                : super.fromCell(cell, type);
    }

    @Override
    public String toCopy(String value, ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists") ? value : super.toCopy(value, type);
    }

    @Override
    public String fromCopy(ColumnType type) {
        return H2RowImageEncoding.place(type).equals("lists")
                ? "CAST(? AS " + type.declared() + ")"
                : super.fromCopy(type);
    }

    /** The text of an array cannot be read again, since it does not quote what has a comma in it; JSON does. */
    @Override
    public @Nullable Object read(ResultSet rows, int index, ColumnType type) throws SQLException {
        if (!H2RowImageEncoding.place(type).equals("lists")) {
            return super.read(rows, index, type);
        }
        Array array = rows.getArray(index);
        if (array == null) {
            return null;
        }
        List<@Nullable String> texts = new ArrayList<>();
        for (Object element : (Object[]) array.getArray()) {
            texts.add(element == null ? null : element.toString());
        }
        try {
            return JSON.writeValueAsString(texts);
        } catch (JsonProcessingException impossible) {
            throw new IllegalStateException(impossible);
        }
    }

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (!H2RowImageEncoding.place(type).equals("lists")) {
            super.bind(statement, index, value, type);
            return;
        }
        try {
            statement.setObject(index, JSON.readValue(value.toString(), Object[].class));
        } catch (JsonProcessingException noArray) {
            throw new MisuseException("\"" + value + "\" is no array.", "Write it as in JSON.");
        }
    }

    @Override
    public String longText() {
        return "CHARACTER LARGE OBJECT";
    }

    @Override
    public String overriding(Table table) {
        return table.columns().stream().anyMatch(Column::identity) ? " OVERRIDING SYSTEM VALUE" : "";
    }

    /** Only a statement that commits can do it, so the query writes one where it is needed. */
    @Override
    public String advance(TableName table, Column column) {
        String greatest = "(SELECT MAX(" + quote(column.name()) + ") FROM " + table(table) + ")";
        String schema =
                table.schema() == null ? "SCHEMA()" : "'" + table.schema().replace("'", "''") + "'";
        return "SELECT 'ALTER TABLE " + table(table).replace("'", "''") + " ALTER COLUMN "
                + quote(column.name()).replace("'", "''") + " RESTART WITH ' || (1 + " + greatest
                + ") FROM information_schema.columns WHERE table_schema = " + schema + " AND table_name = '"
                + table.name().replace("'", "''") + "' AND column_name = '"
                + column.name().replace("'", "''")
                + "' AND identity_base <= " + greatest;
    }
}
