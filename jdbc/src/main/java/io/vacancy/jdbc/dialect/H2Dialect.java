package io.vacancy.jdbc.dialect;

import io.vacancy.jdbc.catalogue.Catalogue;
import io.vacancy.jdbc.catalogue.H2Catalogue;
import io.vacancy.schema.ColumnType;
import java.sql.SQLException;
import java.time.Duration;
import java.util.List;

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
    public Catalogue catalogue() {
        return new H2Catalogue();
    }

    @Override
    public Fault fault(SQLException exception) {
        String state = String.valueOf(exception.getSQLState());
        return exception.getErrorCode() == LOCK_TIMEOUT || state.equals("40001") ? Fault.BUSY : standard(state);
    }

    @Override
    public List<String> limitWaiting(Duration wait) {
        return List.of("SET LOCK_TIMEOUT " + Math.max(1, wait.toMillis()));
    }

    @Override
    public String createKeyTable(String keyTable, List<String> columnDefinitions, List<String> identity) {
        // Without TRANSACTIONAL this would commit; the lock on the catalogue lasts until the transaction ends.
        return super.createKeyTable(keyTable, columnDefinitions, identity)
                        .replaceFirst("CREATE TEMPORARY", "CREATE LOCAL TEMPORARY")
                + " TRANSACTIONAL";
    }

    @Override
    public String keyType(ColumnType type) {
        return type.declared().isEmpty() ? "BIGINT" : type.declared();
    }
}
