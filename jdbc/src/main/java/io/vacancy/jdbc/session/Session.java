package io.vacancy.jdbc.session;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.sql.Sql;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicLong;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A connection inside a transaction: runs statements, and translates what goes wrong. One thread only. */
public final class Session {

    private static final Logger LOG = LoggerFactory.getLogger(Session.class);

    // Names are never used twice, since a caller's transaction may go on after us.
    private static final AtomicLong KEY_TABLE = new AtomicLong();

    private final Connection connection;
    private final Dialect dialect;
    private final int keysInMemory;
    private final List<String> keyTables = new ArrayList<>();

    /** @param keysInMemory how many keys of a set of rows may be kept here and sent as bound values */
    public Session(Connection connection, Dialect dialect, int keysInMemory) {
        this.connection = connection;
        this.dialect = dialect;
        this.keysInMemory = keysInMemory;
    }

    /** Reads one row of a result. */
    @FunctionalInterface
    public interface Reader<T> {
        T read(ResultSet rows) throws SQLException;
    }

    public Dialect dialect() {
        return dialect;
    }

    public int keysInMemory() {
        return keysInMemory;
    }

    /** A name for a key table that this session has not used yet; the table is removed with the session. */
    public String nextKeyTable() {
        String name = "vacancy_keys_" + KEY_TABLE.incrementAndGet();
        keyTables.add(name);
        return name;
    }

    /** The key tables that may have been made. */
    public List<String> keyTables() {
        return keyTables;
    }

    /** Takes one row of a result. */
    @FunctionalInterface
    public interface Taker {
        void take(ResultSet rows) throws SQLException;
    }

    /** All rows of a query that has few. */
    public <T> List<T> query(Sql sql, Context context, Reader<T> reader) {
        List<T> result = new ArrayList<>();
        forEach(sql, context, rows -> result.add(reader.read(rows)));
        return result;
    }

    /** The one number that a query returns. */
    public long number(Sql sql, Context context) {
        return query(sql, context, rows -> rows.getLong(1)).get(0);
    }

    /** Walks over a result of any size. */
    public void forEach(Sql sql, Context context, Taker taker) {
        LOG.debug("{}: {}", context, sql);
        try (PreparedStatement statement = prepared(sql);
                ResultSet rows = statement.executeQuery()) {
            while (rows.next()) {
                taker.take(rows);
            }
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /** Runs a statement that changes rows. Returns how many. */
    public long update(Sql sql, Context context) {
        LOG.debug("{}: {}", context, sql);
        try (PreparedStatement statement = prepared(sql)) {
            return statement.executeUpdate();
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    private PreparedStatement prepared(Sql sql) throws SQLException {
        PreparedStatement statement = connection.prepareStatement(sql.text());
        int index = 1;
        for (Sql.Bind bind : sql.binds()) {
            dialect.bind(statement, index++, bind.value(), bind.type());
        }
        return statement;
    }

    private RuntimeException fault(SQLException failed, Context context) {
        return Faults.of(failed, context, dialect);
    }
}
