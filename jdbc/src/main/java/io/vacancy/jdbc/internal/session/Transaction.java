// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.TransactionMark;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** A transaction to work in. Whatever is not finished when it is closed is undone. */
public abstract class Transaction implements AutoCloseable {

    private static final Logger LOG = LoggerFactory.getLogger(Transaction.class);

    private static final StatementContext LIMIT = new StatementContext("limiting how long to wait", null, null);
    static final StatementContext BEGIN = new StatementContext("beginning a transaction", null, null);
    static final StatementContext END = new StatementContext("ending a transaction", null, null);

    final Connection connection;
    final Dialect dialect;
    private final Session session;
    private @Nullable String usualWait;
    private @Nullable TransactionMark mark;

    Transaction(
            Connection connection,
            Dialect dialect,
            int keysInMemory,
            ExecutionMonitor monitor,
            Consumer<String> beside) {
        this.connection = connection;
        this.dialect = dialect;
        this.session = new Session(connection, dialect, keysInMemory, monitor, beside);
    }

    public Session session() {
        return session;
    }

    /** Has somebody else work in it, who has no business ending it. */
    public void mark() {
        try {
            mark = dialect.locking().mark(connection);
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, BEGIN, dialect);
        }
    }

    /**
     * Whether it is still the one that was marked.
     *
     * @throws LockConflictException if it lost against another one since
     */
    public boolean isMarked(TableName about) {
        if (isThere(Objects.requireNonNull(mark, "to be marked first"), about)) {
            return true;
        }
        try {
            if (dialect.locking().undoesUnnoticed(connection)) {
                throw undone(about);
            }
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, END, dialect);
        }
        return false;
    }

    boolean isThere(TransactionMark mark, TableName about) {
        try {
            mark.wantsThere();
            return true;
        } catch (SQLException failed) {
            RuntimeException known = SqlExceptionTranslator.of(
                    failed, StatementContext.of("committing the removal from", about), dialect);
            if (known instanceof LockConflictException || dialect.errors().of(failed) == Fault.DISCONNECTED) {
                throw known;
            }
            LOG.debug("the transaction is over: {}", failed.getMessage());
            return false;
        }
    }

    static LockConflictException undone(TableName about) {
        return new LockConflictException(
                StatementContext.of("committing the removal from", about),
                true,
                new SQLException("Another transaction has undone this one, which no statement told."));
    }

    /** How often something is tried at all. */
    public static final int ATTEMPTS = 3;

    /** Whether an attempt that ended in a conflict may be answered by another one. */
    public final boolean mayBeRepeated(LockConflictException conflict, int attempt) {
        return conflict.deadlock() && mayBeRepeated() && attempt < ATTEMPTS;
    }

    /** Whether a deadlock may be answered by another attempt; not where the caller's work would be lost too. */
    public abstract boolean mayBeRepeated();

    /** Whether a conflict has ended a transaction that is not Vacancy's own, with all that was done in it before. */
    public boolean lostWith(LockConflictException conflict) {
        return false;
    }

    /** What there is to say of a conflict that has not ended the transaction. */
    public String told(LockConflictException conflict) {
        return conflict.detail();
    }

    /** Whether what it reads may be older than the locks it takes. */
    public abstract boolean mayReadStaleRows();

    /** Whether nothing is in it but what Vacancy does. */
    public boolean own() {
        return false;
    }

    /** Commits what was done so far and goes on in another transaction on the same connection; only where it is its own. */
    public void commitSoFar(TableName about) {
        throw new IllegalStateException("only a transaction of Vacancy's own is committed");
    }

    /** Makes what was done stay, as far as it is for this transaction to say. */
    public abstract void finish(TableName about);

    /** What failed after the commit, a sentence each; to be asked once it is closed. */
    public List<String> warnings() {
        return List.of();
    }

    /** Runs statements that commit, once all else is; not on a caller's connection, which may not be committed. */
    public void afterCommit(List<String> statements) {}

    /**
     * From now on a stream reads in it, until it is closed; what others do meanwhile in the same transaction stays.
     */
    public void streaming() {}

    @Override
    public abstract void close();

    /** Limits how long statements wait, until the transaction is closed. */
    public void limitWaiting(@Nullable Duration wait) {
        if (wait == null) {
            return;
        }
        WaitSetting setting = dialect.locking().waitSetting();
        if (setting == null) {
            throw new MisuseException(
                    dialect.name() + " cannot limit how long a statement waits for rows that somebody else holds.",
                    "Leave the lock timeout out.");
        }
        try (Statement statement = connection.createStatement()) {
            try (ResultSet rows = statement.executeQuery(setting.read())) {
                rows.next();
                usualWait = rows.getString(1);
            }
            statement.execute(setting.set(setting.valueOf(wait)));
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, LIMIT, dialect);
        }
    }

    /** Takes away what the transaction left on the connection. */
    void tidy() throws SQLException {
        try (Statement statement = connection.createStatement()) {
            // First, so that whatever fails afterwards leaves no setting of ours behind.
            WaitSetting setting = dialect.locking().waitSetting();
            if (usualWait != null && setting != null) {
                statement.execute(setting.set(usualWait));
            }
            for (String drop : session.keyTables().afterwards()) {
                drop(statement, drop);
            }
        } finally {
            session.keyTables().release();
        }
    }

    void drop(Statement statement, String drop) throws SQLException {
        statement.execute(drop);
    }

    /** Takes keys out of tables that stay, as part of the transaction. */
    void removeKeys() {
        session.keyTables().beforeCommit().forEach(remove -> session.update(Sql.of(remove), END));
    }
}
