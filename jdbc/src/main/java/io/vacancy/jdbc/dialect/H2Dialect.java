package io.vacancy.jdbc.dialect;

import io.vacancy.jdbc.catalogue.Catalogue;
import io.vacancy.jdbc.catalogue.H2Catalogue;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Table;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * H2: foreign keys are checked row by row, and they do not hold against a child row that somebody else is
 * about to insert.
 */
final class H2Dialect extends Dialect {

    private static final int LOCK_TIMEOUT = 50200;

    @Override
    public String name() {
        return "H2";
    }

    @Override
    public ClosedCircle closedCircle() {
        return ClosedCircle.LEAVES_FIRST;
    }

    @Override
    public Catalogue catalogue() {
        return new H2Catalogue();
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

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        // Without TRANSACTIONAL this would commit; the lock on the catalogue lasts until the transaction ends.
        return super.createKeyTable(keyTable, columnDefinitions, identity)
                        .replaceFirst("CREATE TEMPORARY", "CREATE LOCAL TEMPORARY")
                + " ON COMMIT DROP TRANSACTIONAL";
    }

    @Override
    public String isolationForRemoving() {
        // The one level that sees child rows which others have inserted and not yet committed. Nothing is
        // decided on such a row: it is read FOR UPDATE, which waits for whoever inserted it.
        return "READ UNCOMMITTED";
    }

    @Override
    public Integer connectionIsolation(String level) {
        return level.equals("READ UNCOMMITTED")
                ? Connection.TRANSACTION_READ_UNCOMMITTED
                : Connection.TRANSACTION_REPEATABLE_READ;
    }

    @Override
    public @Nullable String dropKeyTable(String keyTable) {
        return null;
    }

    @Override
    public String keyType(ColumnType type) {
        return type.declared().isEmpty() ? "BIGINT" : type.declared();
    }

    @Override
    public Cells cells() {
        return new H2Cells();
    }

    @Override
    public String toCell(String value, ColumnType type) {
        return switch (H2Cells.place(type)) {
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

    /** An array has no text that could be read again; JSON has one for it. */
    @Override
    public String toCopy(String value, ColumnType type) {
        return H2Cells.place(type).equals("lists") ? "CAST(" + value + " AS VARCHAR)" : super.toCopy(value, type);
    }

    @Override
    public String longText() {
        return "CHARACTER LARGE OBJECT";
    }

    @Override
    public String overriding(Table table) {
        return table.columns().stream().anyMatch(Column::identity) ? " OVERRIDING SYSTEM VALUE" : "";
    }
}
