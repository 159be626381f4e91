// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.jdbc.internal.archive.JdbcArchive;
import io.vacancy.jdbc.internal.engine.Dialects;
import io.vacancy.jdbc.internal.execute.OwnTableConnections;
import io.vacancy.jdbc.internal.execute.OwnTableWork;
import io.vacancy.jdbc.internal.execute.PlanExecutor;
import io.vacancy.jdbc.internal.execute.StoreContext;
import io.vacancy.jdbc.internal.query.PlanQueries;
import io.vacancy.jdbc.internal.query.TableQueries;
import io.vacancy.jdbc.internal.question.JdbcQuestions;
import io.vacancy.jdbc.internal.schema.SchemaCache;
import io.vacancy.jdbc.internal.session.CallerTransaction;
import io.vacancy.jdbc.internal.session.OwnTransaction;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.Transactions;
import io.vacancy.jdbc.internal.sql.Definitions;
import io.vacancy.jdbc.internal.trail.JdbcTrail;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.OwnTableAccess;
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
import io.vacancy.spi.QuestionStore;
import io.vacancy.spi.Store;
import io.vacancy.spi.TrailStore;
import io.vacancy.spi.plan.ExecutionPlan;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
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

    private final StoreContext context;

    private JdbcStore(StoreContext context) {
        this.context = context;
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
            Transactions transactions = (keys, monitor, isolation) ->
                    OwnTransaction.begin(source, dialect, keys, monitor, catalog::beside, isolation);
            return new JdbcStore(new StoreContext(dialect, catalog, transactions, KEYS_IN_MEMORY));
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
        return new JdbcStore(new StoreContext(context.dialect(), context.cache(), context.transactions(), keys));
    }

    @Override
    public Store within(Object connection) {
        Arguments.notNull(connection, "connection");
        if (!(connection instanceof Connection callers)) {
            throw new MisuseException("A store over JDBC works within a java.sql.Connection, not a "
                    + connection.getClass().getName() + ".");
        }
        Dialect dialect = context.dialect();
        SchemaCache cache = context.cache();
        Transactions transactions =
                (keys, monitor, isolation) -> CallerTransaction.join(callers, dialect, keys, monitor, cache::beside);
        // Refused at once rather than at the first deletion.
        transactions
                .begin(context.keysInMemory(), new ExecutionMonitor() {}, "")
                .close();
        return new JdbcStore(new StoreContext(dialect, cache, transactions, context.keysInMemory()));
    }

    /**
     * The same store with other names for Vacancy's own tables, such as of another schema.
     *
     * @param own what they are called; {@link OwnTables#USUAL} unless set
     */
    public JdbcStore keepingIn(OwnTables own) {
        Arguments.notNull(own, "own");
        return new JdbcStore(new StoreContext(
                context.dialect(), context.cache().with(own), context.transactions(), context.keysInMemory()));
    }

    /** Vacancy's own tables in this database, for modules that keep some. */
    public OwnTableAccess ownTables() {
        return new OwnTableConnections(context);
    }

    /** The engines that a store can be opened on, by their names. */
    public static List<String> engines() {
        return Dialects.names();
    }

    @Override
    public Schema schema() {
        return context.schema();
    }

    @Override
    public void refresh() {
        context.cache().refresh();
    }

    @Override
    public Impact analyze(ExecutionPlan plan, ExecutionMonitor monitor) {
        return new PlanQueries(context, plan, monitor).impact();
    }

    @Override
    public Ending execute(ExecutionPlan plan, Decision decision, ExecutionMonitor monitor) {
        return new PlanExecutor(context, plan, decision, monitor).execute();
    }

    @Override
    public Stream<Row> rows(ExecutionPlan plan, TableName table, ExecutionMonitor monitor) {
        return new PlanQueries(context, plan, monitor).rows(table);
    }

    @Override
    public Stream<Row> rows(ExecutionPlan plan, ExecutionMonitor monitor) {
        return new PlanQueries(context, plan, monitor).rows();
    }

    @Override
    public Stream<Row> missing(ExecutionPlan plan, ExecutionMonitor monitor) {
        return new PlanQueries(context, plan, monitor).missing();
    }

    @Override
    public Stream<SkippedRow> skipped(ExecutionPlan plan, ExecutionMonitor monitor) {
        return new PlanQueries(context, plan, monitor).skipped();
    }

    @Override
    public Map<Relation, RowSample> orphans(
            List<Relation> relations, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Arguments.noneNull(relations, "relations");
        Arguments.notNull(scopes, "scopes");
        Arguments.notNull(monitor, "monitor");
        return new TableQueries(context).orphans(relations, scopes, monitor);
    }

    @Override
    public Map<TableName, Long> counts(
            List<TableName> tables, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Arguments.noneNull(tables, "tables");
        Arguments.notNull(scopes, "scopes");
        Arguments.notNull(monitor, "monitor");
        return new TableQueries(context).counts(tables, scopes, monitor);
    }

    @Override
    public long children(Relation relation, @Nullable Condition child, Condition parent, ExecutionMonitor monitor) {
        Arguments.notNull(relation, "relation");
        Arguments.notNull(monitor, "monitor");
        return new TableQueries(context).children(relation, child, parent, monitor);
    }

    @Override
    public SqlText written(Table table, Condition condition, String alias, ZonedDateTime now) {
        Arguments.notNull(table, "table");
        Arguments.notNull(condition, "condition");
        Arguments.notNull(alias, "alias");
        Arguments.notNull(now, "now");
        return new TableQueries(context).written(table, condition, alias, now);
    }

    @Override
    public @Nullable String written(DdlSuggestion definition) {
        return new Definitions(context.dialect()).written(definition);
    }

    @Override
    public ArchiveStore archive() {
        return new JdbcArchive(context.cache(), new OwnTableWork(context));
    }

    @Override
    public TrailStore trail() {
        return new JdbcTrail(context.cache().ownTables(), new OwnTableWork(context));
    }

    @Override
    public QuestionStore questions() {
        return new JdbcQuestions(context.cache().ownTables().tables(), new OwnTableWork(context));
    }
}
