package io.vacancy.jdbc;

import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.jdbc.internal.archive.ArchiveTables;
import io.vacancy.jdbc.internal.archive.JdbcArchive;
import io.vacancy.jdbc.internal.engine.Dialects;
import io.vacancy.jdbc.internal.execute.OperationFactory;
import io.vacancy.jdbc.internal.execute.PlanExecutor;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.schema.SchemaCache;
import io.vacancy.jdbc.internal.session.CallerTransaction;
import io.vacancy.jdbc.internal.session.CommitUnknownException;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.OwnTransaction;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.Transaction;
import io.vacancy.jdbc.internal.session.Transactions;
import io.vacancy.jdbc.internal.sql.ConditionSql;
import io.vacancy.jdbc.internal.sql.Definitions;
import io.vacancy.jdbc.internal.tables.OwnTableTransactions;
import io.vacancy.jdbc.internal.trail.JdbcTrail;
import io.vacancy.jdbc.internal.traversal.Orphans;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.jdbc.internal.traversal.Rows;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.spi.DdlSuggestion;
import io.vacancy.spi.Decision;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Store;
import io.vacancy.spi.TrailStore;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * A store over JDBC. It takes a connection from the data source for each call and gives it back as it
 * was; it serves several threads at once if the data source does.
 */
public final class JdbcStore implements Store {

    /** About where a key table begins to pay, on the engine where it pays first; see docs/measurements.md. */
    private static final int KEYS_IN_MEMORY = 1_000;

    private static final int MOST_KEYS_IN_MEMORY = 10_000;

    private final Dialect dialect;
    private final SchemaCache catalog;
    private final Transactions transactions;
    private final int keysInMemory;

    private JdbcStore(Dialect dialect, SchemaCache catalog, Transactions transactions, int keysInMemory) {
        this.dialect = dialect;
        this.catalog = catalog;
        this.transactions = transactions;
        this.keysInMemory = keysInMemory;
    }

    /**
     * A store on the database behind a data source; finds out by itself which engine it is.
     *
     * @throws StoreException if there is no connection to be had
     * @throws VacancyException if the engine is not known
     */
    public static JdbcStore of(DataSource source) {
        Arguments.notNull(source, "source");
        try (Connection connection = source.getConnection()) {
            Dialect dialect = Dialects.of(connection);
            SchemaCache catalog = new SchemaCache(source, dialect, OwnTables.USUAL);
            return new JdbcStore(
                    dialect,
                    catalog,
                    (keys, monitor, isolation) ->
                            OwnTransaction.begin(source, dialect, keys, monitor, catalog::beside, isolation),
                    KEYS_IN_MEMORY);
        } catch (SQLException failed) {
            throw new StoreException(
                    "The database cannot be reached: " + SqlExceptionTranslator.firstLine(failed),
                    "Check the address, the user and the password.",
                    "connecting",
                    null,
                    null,
                    failed);
        }
    }

    /**
     * The same store with another limit to how many keys of a table it keeps in memory and sends as bound
     * values; beyond it they go to a temporary table.
     *
     * @param keys from 0 to 10,000; 1,000 unless set
     */
    public JdbcStore withKeysInMemory(int keys) {
        if (keys < 0 || keys > MOST_KEYS_IN_MEMORY) {
            throw new MisuseException(
                    keys + " keys cannot be kept in memory.", "Give 0 to " + MOST_KEYS_IN_MEMORY + ".");
        }
        return new JdbcStore(dialect, catalog, transactions, keys);
    }

    @Override
    public Store within(Object connection) {
        Arguments.notNull(connection, "connection");
        if (!(connection instanceof Connection callers)) {
            throw new MisuseException("A store over JDBC works within a java.sql.Connection, not a "
                    + connection.getClass().getName() + ".");
        }
        // Refused at once rather than at the first deletion.
        CallerTransaction.join(callers, dialect, keysInMemory, new ExecutionMonitor() {}, catalog::beside)
                .close();
        return new JdbcStore(
                dialect,
                catalog,
                (keys, monitor, isolation) -> CallerTransaction.join(callers, dialect, keys, monitor, catalog::beside),
                keysInMemory);
    }

    @Override
    public Schema schema() {
        return catalog.schema();
    }

    @Override
    public void refresh() {
        catalog.refresh();
    }

    @Override
    public Impact analyze(ExecutionPlan plan, ExecutionMonitor monitor) {
        return looking(plan, monitor, transaction -> {
            try (transaction) {
                // Undone on closing, key tables and all.
                Session session = transaction.session();
                ExecutionPlan placed = ArchiveTables.of(catalog).placed(plan, session);
                StoreOperation operation = operation(session, placed);
                return operation.impact().archived(operation.archives(placed));
            }
        });
    }

    private StoreOperation operation(Session session, ExecutionPlan plan) {
        return new OperationFactory(session, ArchiveTables.of(catalog), plan, false, null).operation();
    }

    @Override
    public Stream<Row> rows(ExecutionPlan plan, TableName table, ExecutionMonitor monitor) {
        return streaming(plan, monitor, session -> {
            boolean followsRelations = plan.operation() instanceof PlannedOperation.Cascade;
            if (!followsRelations) {
                return operation(session, plan).rows();
            }
            RelationTraversal traversal = new RelationTraversal(session, plan.toBeShown(), false);
            if (table.equals(plan.program().root())) {
                traversal.select();
            } else {
                traversal.run();
            }
            return traversal.rows(table);
        });
    }

    @Override
    public Stream<Row> missing(ExecutionPlan deletion, ExecutionMonitor monitor) {
        return streaming(deletion, monitor, session -> {
            RelationTraversal traversal = new RelationTraversal(session, deletion, false);
            traversal.select();
            return traversal.missing();
        });
    }

    @Override
    public Stream<SkippedRow> skipped(ExecutionPlan deletion, ExecutionMonitor monitor) {
        return streaming(deletion, monitor, session -> {
            RelationTraversal traversal = new RelationTraversal(session, deletion, false);
            traversal.run();
            return traversal.skippedRows();
        });
    }

    @Override
    public Map<Relation, RowSample> orphans(
            List<Relation> relations, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Arguments.noneNull(relations, "relations");
        Arguments.notNull(scopes, "scopes");
        Arguments.notNull(monitor, "watch");
        return looking(null, monitor, transaction -> {
            try (transaction) {
                Map<Relation, RowSample> orphans = new LinkedHashMap<>();
                for (Relation relation : relations) {
                    RowSample found =
                            Orphans.of(relation, schema(), transaction.session(), scopes.get(relation.child()));
                    if (found.rows() > 0) {
                        orphans.put(relation, found);
                    }
                }
                return orphans;
            }
        });
    }

    @Override
    public Map<TableName, Long> counts(
            List<TableName> tables, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Arguments.noneNull(tables, "tables");
        Arguments.notNull(scopes, "scopes");
        Arguments.notNull(monitor, "watch");
        return looking(null, monitor, transaction -> {
            try (transaction) {
                Map<TableName, Long> counts = new LinkedHashMap<>();
                for (TableName table : tables) {
                    Rows rows = new Rows(transaction.session(), schema().table(table));
                    counts.put(table, rows.count(scopes.get(table)));
                }
                return counts;
            }
        });
    }

    @Override
    public SqlText written(Table table, Condition condition, String alias, ZonedDateTime now) {
        Arguments.notNull(table, "table");
        Arguments.notNull(condition, "condition");
        Arguments.notNull(alias, "alias");
        Arguments.notNull(now, "now");
        Sql sql = new ConditionSql(table, dialect.syntax(), now, alias).write(condition);
        return new SqlText(
                sql.text(),
                sql.binds().stream()
                        .map(bind -> dialect.values().plain(bind.value()))
                        .toList());
    }

    @Override
    public long children(Relation relation, @Nullable Condition child, Condition parent, ExecutionMonitor monitor) {
        Arguments.notNull(relation, "relation");
        Arguments.notNull(monitor, "watch");
        return looking(null, monitor, transaction -> {
            try (transaction) {
                return Orphans.children(relation, schema(), transaction.session(), child, parent);
            }
        });
    }

    @Override
    public @Nullable String written(DdlSuggestion definition) {
        return new Definitions(dialect).written(definition);
    }

    private <T> T looking(@Nullable ExecutionPlan deletion, ExecutionMonitor monitor, Function<Transaction, T> look) {
        try {
            Transaction transaction =
                    transactions.begin(keysInMemory, monitor, dialect.locking().isolationForLooking());
            transaction.limitWaiting(deletion == null ? null : deletion.lockTimeout());
            return look.apply(transaction);
        } catch (LockConflictException busy) {
            throw new BusyException(busy.table(), busy.detail(), busy);
        }
    }

    /** The transaction lives as long as the stream. */
    private <T> Stream<T> streaming(
            @Nullable ExecutionPlan deletion, ExecutionMonitor monitor, Function<Session, Stream<T>> query) {
        return looking(deletion, monitor, transaction -> {
            try {
                Stream<T> stream = query.apply(transaction.session()).onClose(transaction::close);
                transaction.streaming();
                return stream;
            } catch (RuntimeException failed) {
                transaction.close();
                throw failed;
            }
        });
    }

    @Override
    public Ending execute(ExecutionPlan plan, Decision decision, ExecutionMonitor monitor) {
        return new PlanExecutor(dialect, catalog, transactions, keysInMemory, plan, decision, monitor).execute();
    }

    @Override
    public ArchiveStore archive() {
        return new JdbcArchive(catalog, new Working());
    }

    @Override
    public TrailStore trail() {
        return new JdbcTrail(catalog.ownTables().tables(), new Working());
    }

    private final class Working implements OwnTableTransactions {

        @Override
        public <T> T looking(Function<Session, T> look) {
            return JdbcStore.this.looking(null, new ExecutionMonitor() {}, transaction -> {
                try (transaction) {
                    return look.apply(transaction.session());
                }
            });
        }

        @Override
        public <T> Stream<T> streaming(Function<Session, Stream<T>> query) {
            return JdbcStore.this.streaming(null, new ExecutionMonitor() {}, query);
        }

        @Override
        public <T> T writing(Function<Session, T> write) {
            for (int attempt = 1; ; attempt++) {
                try (Transaction transaction = transactions.begin(
                        keysInMemory,
                        new ExecutionMonitor() {},
                        dialect.locking().isolationForOwnTables())) {
                    try {
                        T written = write.apply(transaction.session());
                        transaction.finish(catalog.ownTables().tables().table("trail"));
                        return written;
                    } catch (CommitUnknownException unknown) {
                        throw new StoreException(
                                "The connection was lost while Vacancy's own tables were being written, so whether it"
                                        + " was committed is not known: " + unknown.getMessage(),
                                "Look before trying again.",
                                "committing",
                                null,
                                null,
                                unknown.getCause());
                    } catch (LockConflictException busy) {
                        if (!transaction.mayBeRepeated(busy, attempt)) {
                            throw new BusyException(busy.table(), busy.detail(), busy);
                        }
                    }
                }
            }
        }
    }

    /**
     * The same store with other names for Vacancy's own tables, such as of another schema.
     *
     * @param own what they are called; {@link OwnTables#USUAL} unless set
     */
    public JdbcStore keepingIn(OwnTables own) {
        return new JdbcStore(dialect, catalog.with(own), transactions, keysInMemory);
    }

    /** The engines that a store can be opened on, by their names. */
    public static List<String> engines() {
        return Dialects.names();
    }
}
