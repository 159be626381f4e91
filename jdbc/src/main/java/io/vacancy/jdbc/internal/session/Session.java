// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.archive.PersonKeys;
import io.vacancy.failure.CancelledException;
import io.vacancy.failure.StoreException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Cancellation;
import io.vacancy.spi.ExecutionMonitor;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Savepoint;
import java.sql.Types;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.Iterator;
import java.util.List;
import java.util.Spliterator;
import java.util.Spliterators;
import java.util.function.Consumer;
import java.util.stream.Stream;
import java.util.stream.StreamSupport;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A connection inside a transaction: runs statements, and translates what goes wrong. One thread only. */
public final class Session {

    private static final Logger LOG = LoggerFactory.getLogger(Session.class);

    /** How many rows the driver fetches at once, so that a result of any size takes little room. */
    private static final int FETCHED = 1_000;

    private static final int ROWS_IN_BATCH = 1_000;

    /** What the names of key tables begin with. */
    public static final String KEY_TABLES = "vacancy_keys_";

    private final Connection connection;
    private final Dialect dialect;
    private final int keysInMemory;
    private final @Nullable Cancellation cancellation;
    private final @Nullable PersonKeys personKeys;
    private final ProgressReporter pace;
    private final KeyTables keyTables;
    private long changedRows;
    /** What goes to the server before the next statement, and with it. */
    private Sql ahead = new Sql();

    private int aheadStatements;

    /**
     * @param keysInMemory how many keys of a set of rows may be kept here and sent as bound values
     * @param monitor looks on
     * @param beside runs a statement that defines something on another connection
     */
    public Session(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside) {
        this.connection = connection;
        this.dialect = dialect;
        this.keysInMemory = keysInMemory;
        this.cancellation = monitor.cancellation();
        this.personKeys = monitor.personKeys();
        this.pace = new ProgressReporter(monitor);
        this.keyTables = dialect.temporaryTables().sharesKeyTables()
                ? new SharedKeyTables(this, connection, beside)
                : new OwnKeyTables(this);
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

    /** By which what is archived of persons is encrypted and read again; null where there are none. */
    public @Nullable PersonKeys personKeys() {
        return personKeys;
    }

    /** Where rows that have been worked on are counted. */
    public ProgressReporter pace() {
        return pace;
    }

    /** Where keys are put that are too many for memory. */
    public KeyTables keyTables() {
        return keyTables;
    }

    /** Takes one row of a result. */
    @FunctionalInterface
    public interface Taker {
        void take(ResultSet rows) throws SQLException;
    }

    /** All rows of a query that has few. */
    public <T> List<T> query(Sql sql, StatementContext context, Reader<T> reader) {
        List<T> result = new ArrayList<>();
        forEach(sql, context, rows -> result.add(reader.read(rows)));
        return result;
    }

    /** The first rows of a query, however many it would find. */
    public <T> List<T> first(int most, Sql sql, StatementContext context, Reader<T> reader) {
        List<T> result = new ArrayList<>();
        forEach(sql, most, context, rows -> result.add(reader.read(rows)));
        return result;
    }

    /** The one number that a query returns. */
    public long number(Sql sql, StatementContext context) {
        return query(sql, context, rows -> rows.getLong(1)).get(0);
    }

    /**
     * Runs a statement of which nobody needs to know how many rows it changes, together with the next one where the driver
     * can send both at once. What goes wrong is then told with the next one.
     */
    public void ahead(Sql statement, StatementContext context) {
        if (dialect.syntax().joinsStatements()) {
            ahead.add(aheadStatements == 0 ? "" : "; ").add(statement);
            aheadStatements++;
        } else {
            update(statement, context);
        }
    }

    /** What it works on, with everything sent that was to go ahead. */
    public Connection connection() {
        sendAhead(new StatementContext("going on", null, null));
        return connection;
    }

    /** Runs what is still to go ahead, where nothing is to travel with the next statement, or none comes any more. */
    public void sendAhead(StatementContext context) {
        if (aheadStatements > 0) {
            Sql statements = ahead;
            ahead = new Sql();
            int many = aheadStatements;
            aheadStatements = 0;
            run(statements, many, context);
        }
    }

    /** Walks over a result of any size. */
    public void forEach(Sql sql, StatementContext context, Taker taker) {
        forEach(sql, 0, context, taker);
    }

    /** @param most how many rows, or 0 for all */
    private void forEach(Sql sql, int most, StatementContext context, Taker taker) {
        LOG.debug("{}: {}", context, sql);
        try (PreparedStatement statement = prepared(sql);
                Cancellation.Step step = interruptible(statement, context)) {
            statement.setFetchSize(FETCHED);
            if (most > 0) {
                statement.setMaxRows(most);
            }
            try (ResultSet rows = result(statement)) {
                while (rows.next()) {
                    taker.take(rows);
                }
            }
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /** A result of any size as a stream, which holds the statement until it is closed. */
    public <T> Stream<T> stream(Sql sql, StatementContext context, Reader<T> reader) {
        LOG.debug("{}: {}", context, sql);
        sendAhead(context);
        try {
            PreparedStatement statement = prepared(sql);
            try {
                statement.setFetchSize(FETCHED);
                ResultSet rows = result(statement);
                Spliterator<T> each = new Spliterators.AbstractSpliterator<>(Long.MAX_VALUE, Spliterator.ORDERED) {
                    @Override
                    public boolean tryAdvance(Consumer<? super T> action) {
                        try {
                            refuseCancelled(context, null);
                            if (!rows.next()) {
                                return false;
                            }
                            action.accept(reader.read(rows));
                            return true;
                        } catch (SQLException failed) {
                            throw fault(failed, context);
                        }
                    }
                };
                return StreamSupport.stream(each, false).onClose(() -> close(statement, context));
            } catch (SQLException | RuntimeException failed) {
                statement.close();
                throw failed;
            }
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    private void close(PreparedStatement statement, StatementContext context) {
        try {
            statement.close();
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /** How many rows its statements have changed so far, in tables of any kind. */
    public long changedRows() {
        return changedRows;
    }

    /** Runs a statement that changes rows. Returns how many. */
    public long update(Sql sql, StatementContext context) {
        LOG.debug("{}: {}", context, sql);
        try (PreparedStatement statement = prepared(sql);
                Cancellation.Step step = interruptible(statement, context)) {
            long rows = changed(statement, 1)[0];
            changedRows += rows;
            return rows;
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /**
     * Runs statements that change rows, one after the other, on as few ways to the server as the driver can.
     *
     * @param context of the first
     * @return how many each has changed
     */
    public long[] updates(List<Sql> statements, StatementContext context) {
        if (!dialect.syntax().joinsStatements()) {
            throw new IllegalStateException(dialect.name() + " takes one statement at a time");
        }
        Sql all = new Sql();
        statements.forEach(
                statement -> all.add(all.text().isEmpty() ? "" : "; ").add(statement));
        return run(all, statements.size(), context);
    }

    private long[] run(Sql statements, int many, StatementContext context) {
        LOG.debug("{}: {}", context, statements);
        try (PreparedStatement statement = prepared(statements);
                Cancellation.Step step = interruptible(statement, context)) {
            long[] rows = changed(statement, many);
            changedRows += Arrays.stream(rows).sum();
            return rows;
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /** The result of a query, behind what went ahead of it. */
    private ResultSet result(PreparedStatement statement) throws SQLException {
        if (aheadStatements == 0) {
            return statement.executeQuery();
        }
        wentAhead();
        boolean rows = statement.execute();
        while (!rows) {
            rows = statement.getMoreResults();
        }
        return statement.getResultSet();
    }

    private void wentAhead() {
        ahead = new Sql();
        aheadStatements = 0;
    }

    /** How many rows each of some statements has changed, behind what went ahead of them. */
    private long[] changed(PreparedStatement statement, int statements) throws SQLException {
        int further = aheadStatements;
        if (statements + further == 1) {
            return new long[] {statement.executeLargeUpdate()};
        }
        wentAhead();
        statement.execute();
        long[] rows = new long[statements];
        for (int i = 0; i < statements + further; i++) {
            if (i >= further) {
                rows[i - further] = statement.getLargeUpdateCount();
            }
            statement.getMoreResults();
        }
        return rows;
    }

    /**
     * Runs a statement that changes rows, and takes it back where a constraint is violated.
     *
     * @return what the database says of the constraint; null where it was carried out
     */
    public @Nullable String attempt(Sql sql, StatementContext context) {
        sendAhead(context);
        try {
            Savepoint before = connection.setSavepoint();
            try {
                update(sql, context);
            } catch (StoreException failed) {
                if (!(failed.getCause() instanceof SQLException cause)
                        || dialect.errors().of(cause) != Fault.CONSTRAINT) {
                    throw failed;
                }
                connection.rollback(before);
                return SqlExceptionTranslator.firstLine(cause);
            }
            connection.releaseSavepoint(before);
            return null;
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    /**
     * Inserts a row that must be the only one with its key. Waits for others who are inserting it.
     *
     * @return whether there was none; if there was, the transaction is to be ended
     */
    public boolean insertUnique(Sql sql, StatementContext context) {
        LOG.debug("{}: {}", context, sql);
        try (PreparedStatement statement = prepared(sql);
                Cancellation.Step step = interruptible(statement, context)) {
            long rows = changed(statement, 1)[0];
            changedRows += rows;
            return rows == 1;
        } catch (SQLException failed) {
            if (dialect.errors().of(failed) == Fault.CONSTRAINT) {
                return false;
            }
            throw fault(failed, context);
        }
    }

    /** Inserts rows into a table of ours, many with each statement or in each batch. */
    public void insert(
            String table,
            List<KeyColumn> columns,
            Iterator<? extends List<? extends @Nullable Object>> rows,
            StatementContext context) {
        boolean inBatches = dialect.syntax().insertsInBatches();
        int atOnce = inBatches ? ROWS_IN_BATCH : dialect.syntax().rowsAtOnce(columns);
        List<List<? extends @Nullable Object>> some = new ArrayList<>();
        while (rows.hasNext()) {
            some.clear();
            while (rows.hasNext() && some.size() < atOnce) {
                some.add(rows.next());
            }
            if (inBatches) {
                insertBatch(table, columns, some, context);
            } else {
                update(dialect.syntax().insertion(table, columns, some), context);
            }
        }
    }

    private void insertBatch(
            String table,
            List<KeyColumn> columns,
            List<List<? extends @Nullable Object>> rows,
            StatementContext context) {
        sendAhead(context);
        String insert = "INSERT INTO " + table + " VALUES ("
                + String.join(", ", Collections.nCopies(columns.size(), "?")) + ")";
        LOG.debug("{}: {} for {} rows", context, insert, rows.size());
        try (PreparedStatement statement = connection.prepareStatement(insert);
                Cancellation.Step step = interruptible(statement, context)) {
            for (List<? extends @Nullable Object> row : rows) {
                for (int i = 0; i < columns.size(); i++) {
                    Object value = row.get(i);
                    if (value == null) {
                        statement.setNull(i + 1, Types.VARCHAR);
                    } else {
                        bind(statement, i + 1, Sql.Bind.of(value, columns.get(i).type()));
                    }
                }
                statement.addBatch();
            }
            statement.executeBatch();
            changedRows += rows.size();
        } catch (SQLException failed) {
            throw fault(failed, context);
        }
    }

    private PreparedStatement prepared(Sql sql) throws SQLException {
        Sql whole = aheadStatements == 0 ? sql : new Sql().add(ahead).add("; ").add(sql);
        PreparedStatement statement = connection.prepareStatement(whole.text());
        try {
            int index = 1;
            for (Sql.Bind bind : whole.binds()) {
                bind(statement, index++, bind);
            }
            return statement;
        } catch (SQLException | RuntimeException failed) {
            statement.close();
            throw failed;
        }
    }

    private void bind(PreparedStatement statement, int index, Sql.Bind bind) throws SQLException {
        dialect.values().bind(statement, index, bind.value(), bind.type());
    }

    private Cancellation.Step interruptible(PreparedStatement statement, StatementContext context) {
        if (cancellation == null) {
            return () -> {};
        }
        Cancellation.Step step = cancellation.during(() -> {
            try {
                statement.cancel();
            } catch (SQLException overAlready) {
                LOG.debug("{} could not be cancelled: {}", context, overAlready.getMessage());
            }
        });
        // Looked at only now: whoever cancels from here on finds the statement.
        try {
            refuseCancelled(context, null);
        } catch (CancelledException cancelled) {
            step.close();
            throw cancelled;
        }
        return step;
    }

    private void refuseCancelled(StatementContext context, @Nullable SQLException cause) {
        if (cancellation != null && cancellation.cancelled()) {
            throw new CancelledException(
                    context.step() + (context.table() == null ? "" : " table " + context.table()), cause);
        }
    }

    private RuntimeException fault(SQLException failed, StatementContext context) {
        refuseCancelled(context, failed);
        return SqlExceptionTranslator.of(failed, context, dialect);
    }
}
