// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi;

import io.vacancy.condition.Condition;
import io.vacancy.condition.SqlText;
import io.vacancy.failure.StoreException;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import java.time.ZonedDateTime;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * What the core asks of any store. Implementations serve several threads at once.
 */
public interface Store {

    /**
     * The tables and relations of the database, read at most once until {@link #refresh()}.
     *
     * @throws StoreException if the database cannot be read
     */
    Schema schema();

    /** Forgets what is known of the database's tables. */
    void refresh();

    /**
     * Runs a program and reports what it would do; changes nothing and locks nothing.
     *
     * @throws StoreException if the database fails
     */
    Impact analyze(ExecutionPlan plan, ExecutionMonitor monitor);

    /**
     * The rows of a table that would be removed, in no particular order, as one state of the database has them. The
     * caller closes the stream; until then it holds a connection.
     *
     * @param table one that the program takes rows from
     * @throws StoreException if the database fails
     */
    Stream<Row> rows(ExecutionPlan plan, TableName table, ExecutionMonitor monitor);

    /**
     * The rows of all tables that would be removed, as one state of the database has them: the selected ones first, those
     * of a table together. The caller closes the stream; until then it holds a connection.
     *
     * @throws StoreException if the database fails
     */
    Stream<Row> rows(ExecutionPlan plan, ExecutionMonitor monitor);

    /**
     * The keys that were asked for and are not there, each once. The caller closes the stream; until then it
     * holds a connection.
     *
     * @return rows that hold just the key
     * @throws StoreException if the database fails
     */
    Stream<Row> missing(ExecutionPlan plan, ExecutionMonitor monitor);

    /**
     * The selected rows that are left out because they are blocked, each once. The caller closes the
     * stream; until then it holds a connection.
     *
     * @throws StoreException if the database fails
     */
    Stream<SkippedRow> skipped(ExecutionPlan plan, ExecutionMonitor monitor);

    /**
     * How many child rows of each relation refer to a parent that is missing, and a few of them; none for
     * relations without such rows.
     *
     * @param scopes the conditions on the rows of child tables that the caller may see
     * @throws StoreException if the database fails
     */
    Map<Relation, RowSample> orphans(
            List<Relation> relations, Map<TableName, Condition> scopes, ExecutionMonitor monitor);

    /**
     * How many rows tables have.
     *
     * @param scopes the conditions on the rows that the caller may see
     * @throws StoreException if the database fails
     */
    Map<TableName, Long> counts(List<TableName> tables, Map<TableName, Condition> scopes, ExecutionMonitor monitor);

    /**
     * What would define something in this database: one statement without a semicolon, which is not run; null where
     * the engine has no such thing.
     */
    @Nullable
    String written(DdlSuggestion definition);

    /**
     * A condition in this database's SQL.
     *
     * @param alias under which the query has the table
     * @param now what it means by today and now
     */
    SqlText written(Table table, Condition condition, String alias, ZonedDateTime now);

    /**
     * How many child rows refer, by a relation, to parent rows.
     *
     * @param child what holds for the child rows that are counted, or null for all of them
     * @param parent what holds for the parent rows
     * @throws StoreException if the database fails
     */
    long children(Relation relation, @Nullable Condition child, Condition parent, ExecutionMonitor monitor);

    /**
     * Executes a plan in one transaction: locks, runs it anew, has it decided on what was found, and does exactly that.
     * If it is decided against, or on any trouble, everything is rolled back. Where nobody is shown anything, rows on
     * which nothing depends may be counted as they are removed; it is then decided a second time, with the full
     * counts, before the commit.
     *
     * @throws StoreException if the database fails
     */
    Ending execute(ExecutionPlan plan, Decision decision, ExecutionMonitor monitor);

    /** Where receipts and images are kept. */
    ArchiveStore archive();

    /** Where the trail is kept. */
    TrailStore trail();

    /** Where open questions wait. */
    QuestionStore questions();

    /**
     * A store that works inside the caller's own transaction: it neither begins nor commits one, and undoes
     * what it did by a savepoint.
     *
     * @param connection what this store works on, such as a {@code java.sql.Connection}
     * @throws io.vacancy.failure.MisuseException if it is something else, or not inside a transaction
     */
    Store within(Object connection);

    /** How carrying out ended. */
    sealed interface Ending {

        /**
         * It was carried out as found, and committed as far as it is for the store to say.
         *
         * @param warnings what failed after the commit, a sentence each
         */
        record Committed(Impact found, List<String> warnings) implements Ending {
            public Committed {
                warnings = List.copyOf(warnings);
            }
        }

        /** It was decided not to go ahead; everything was rolled back. */
        record Stopped() implements Ending {}

        /**
         * Somebody else held the rows; everything was rolled back.
         *
         * @param table whose rows, where it is known
         */
        record Busy(@Nullable String table, String detail) implements Ending {}

        /** The tables are others than those the program was compiled for; nothing was done. */
        record Outdated() implements Ending {}

        /**
         * The database itself keeps rows that were to go, and would again; everything was rolled back.
         *
         * @param reason a sentence that names what does so
         */
        record Refused(String reason) implements Ending {}

        /** The identity of the request was used before; nothing was done. */
        record KeyUsed() implements Ending {}

        /**
         * The rows changed while they were being removed, on an engine or a relation that no lock protects;
         * everything was rolled back.
         */
        record ConcurrentChange(String detail) implements Ending {}

        /** The connection was lost while the commit was on its way, and nobody can tell whether it arrived. */
        record InDoubt(String detail) implements Ending {}
    }
}
