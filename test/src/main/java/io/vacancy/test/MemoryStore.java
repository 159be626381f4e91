// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Column;
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
import io.vacancy.test.internal.MemoryDatabase;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * A store that has its rows in memory, for unit tests of an application's rules: it follows, blocks, skips, deletes, marks
 * and restores by receipt as a database would, and keeps receipts and trail. It writes no SQL, joins no transaction,
 * replaces no rows and unlinks no orphans; asked for that, it refuses. A restored row comes back without the links that
 * others had to it, and what was blanked is not put back. Serves all threads, one at a time.
 *
 * <pre>{@code
 * MemoryStore store = MemoryStore.of(schema).insert("boat", 1, "Osprey").insert("mooring", 10, 1);
 * Vacancy vacancy = Vacancy.on(store).rules(rules).actor(() -> "a test").open();
 * }</pre>
 */
public final class MemoryStore implements Store {

    private final MemoryDatabase database;

    private MemoryStore(MemoryDatabase database) {
        this.database = database;
    }

    /** An empty one with these tables; a {@link MemorySchema} makes them, or another store has read them. */
    public static MemoryStore of(Schema schema) {
        return new MemoryStore(new MemoryDatabase(Arguments.notNull(schema, "schema")));
    }

    /**
     * Adds a row.
     *
     * @param values one for each column in the table's order, of its kind or as text; null for NULL
     * @return this store
     * @throws MisuseException if there are more or fewer, one is of another kind, the key is there already, or a parent
     *     is missing
     */
    public MemoryStore insert(String table, @Nullable Object... values) {
        Table of = schema().table(table);
        Arguments.notNull(values, "values");
        if (values.length != of.columns().size()) {
            throw new MisuseException(
                    values.length + " values are given for the " + of.columns().size() + " columns of " + of + ".",
                    "Give one for each of "
                            + of.columns().stream().map(Column::name).toList() + ".");
        }
        Map<String, @Nullable Object> row = new LinkedHashMap<>();
        for (int i = 0; i < values.length; i++) {
            Column column = of.columns().get(i);
            row.put(column.name(), values[i] == null ? null : column.read(values[i], of.name()));
        }
        database.insert(new Row(of.name(), row));
        return this;
    }

    /** The rows of a table, in the order in which they were added. */
    public List<Row> rows(String table) {
        return database.all(schema().table(table).name());
    }

    @Override
    public Schema schema() {
        return database.schema();
    }

    @Override
    public void refresh() {
        // Nobody alters the tables.
    }

    @Override
    public Impact analyze(ExecutionPlan plan, ExecutionMonitor monitor) {
        return database.analyze(plan);
    }

    @Override
    public Stream<Row> rows(ExecutionPlan plan, TableName table, ExecutionMonitor monitor) {
        return database.rows(plan, table).stream();
    }

    @Override
    public Stream<Row> rows(ExecutionPlan plan, ExecutionMonitor monitor) {
        return database.rows(plan).stream();
    }

    @Override
    public Stream<Row> missing(ExecutionPlan plan, ExecutionMonitor monitor) {
        return database.missing(plan).stream();
    }

    @Override
    public Stream<SkippedRow> skipped(ExecutionPlan plan, ExecutionMonitor monitor) {
        return database.skipped(plan).stream();
    }

    @Override
    public Map<Relation, RowSample> orphans(
            List<Relation> relations, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        return database.orphans(relations);
    }

    @Override
    public Map<TableName, Long> counts(
            List<TableName> tables, Map<TableName, Condition> scopes, ExecutionMonitor monitor) {
        Map<TableName, Long> counts = new LinkedHashMap<>();
        tables.forEach(table -> counts.put(table, database.count(table, scopes.get(table))));
        return counts;
    }

    @Override
    public @Nullable String written(DdlSuggestion definition) {
        return null;
    }

    @Override
    public SqlText written(Table table, Condition condition, String alias, ZonedDateTime now) {
        throw new MisuseException(
                "The store in memory writes no SQL.", "Test this on a database, with a store over JDBC.");
    }

    @Override
    public long children(Relation relation, @Nullable Condition child, Condition parent, ExecutionMonitor monitor) {
        return database.children(relation, child, parent);
    }

    @Override
    public Ending execute(ExecutionPlan plan, Decision decision, ExecutionMonitor monitor) {
        return database.execute(plan, decision, monitor);
    }

    @Override
    public ArchiveStore archive() {
        return database.archive();
    }

    @Override
    public TrailStore trail() {
        return database.trail();
    }

    @Override
    public QuestionStore questions() {
        return database.questions();
    }

    @Override
    public Store within(Object connection) {
        throw new MisuseException(
                "The store in memory joins no transaction.", "Test this on a database, with a store over JDBC.");
    }
}
