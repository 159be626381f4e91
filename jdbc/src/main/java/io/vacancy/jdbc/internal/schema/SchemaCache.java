// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.schema;

import io.vacancy.failure.BusyException;
import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.LockConflictException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.SqlExceptionTranslator;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.OwnTableRegistry;
import io.vacancy.jdbc.internal.tables.OwnTableState;
import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/** What is known of the database's tables: read once, forgotten when the database says that they changed. */
public final class SchemaCache {

    private static final StatementContext READING =
            new StatementContext("reading the tables of the database", null, null);

    /** Stands for all tables. */
    private static final String OF_ALL = "";

    private final DataSource source;
    private final Dialect dialect;
    private final OwnTables own;
    private volatile @Nullable Reading reading;
    /** What was run beside a transaction. */
    private final Set<String> beside = ConcurrentHashMap.newKeySet();

    private record Reading(Schema schema, OwnTableState own, Map<String, Set<Definition>> definitions) {}

    /** Something that the catalogue says of a table; without a table, of all of them. */
    private record Definition(
            @Nullable String schema,
            @Nullable String table,
            @Nullable String told) {}

    public SchemaCache(DataSource source, Dialect dialect, OwnTables own) {
        this.source = source;
        this.dialect = dialect;
        this.own = own;
    }

    /** The application's tables; Vacancy's own are none of them. */
    public Schema schema() {
        return known().schema();
    }

    /** Which of Vacancy's own tables there are. */
    public OwnTableState ownTables() {
        return known().own();
    }

    private Reading known() {
        Reading known = reading;
        if (known == null) {
            known = read();
            reading = known;
        }
        return known;
    }

    /** The same tables with other names for Vacancy's own. */
    public SchemaCache with(OwnTables tables) {
        return new SchemaCache(source, dialect, tables);
    }

    private static boolean keys(Table table) {
        return table.name().name().toLowerCase(Locale.ROOT).startsWith(Session.KEY_TABLES);
    }

    /** A trigger that looks at what is done around Vacancy changes nothing of what a deletion does. */
    private boolean theirs(String trigger) {
        String begin = own.prefix() + BypassTriggers.NAME;
        return !trigger.toLowerCase(Locale.ROOT).startsWith(begin.toLowerCase(Locale.ROOT));
    }

    /** Runs a statement that makes a key table where there is none, on a connection of its own; once. */
    public void beside(String statement) {
        if (beside.contains(statement)) {
            return;
        }
        synchronized (beside) {
            // Whoever comes second waits: a table may be seen before its rows are.
            if (!beside.contains(statement)) {
                runBeside(statement);
            }
        }
    }

    private void runBeside(String statement) {
        StatementContext context = new StatementContext("preparing keys", null, null);
        try (Connection connection = source.getConnection()) {
            connection.setAutoCommit(true);
            new Session(connection, dialect, 0, new ExecutionMonitor() {}, this::beside)
                    .update(Sql.of(statement), context);
            beside.add(statement);
        } catch (SQLException failed) {
            throw SqlExceptionTranslator.of(failed, context, dialect);
        }
    }

    /** Runs statements that define something, all of them or, where the engine can, none. */
    public void run(List<String> statements) {
        StatementContext context = new StatementContext("making Vacancy's own tables", null, null);
        try (Connection connection = source.getConnection()) {
            boolean before = connection.getAutoCommit();
            connection.setAutoCommit(!dialect.definitions().definesInTransaction());
            try {
                Session session = new Session(connection, dialect, 0, new ExecutionMonitor() {}, this::beside);
                statements.forEach(statement -> session.update(Sql.of(statement), context));
                if (dialect.definitions().definesInTransaction()) {
                    connection.commit();
                }
            } finally {
                if (dialect.definitions().definesInTransaction()) {
                    connection.rollback();
                }
                connection.setAutoCommit(before);
            }
        } catch (LockConflictException busy) {
            throw busy(busy);
        } catch (SQLException failed) {
            throw busy(SqlExceptionTranslator.of(failed, context, dialect));
        }
        refresh();
    }

    /** Nobody here knows what to do with a conflict but to tell it. */
    private static RuntimeException busy(RuntimeException fault) {
        return fault instanceof LockConflictException busy
                ? new BusyException(busy.table(), String.valueOf(busy.getMessage()), busy)
                : fault;
    }

    private Reading read() {
        try (Connection connection = source.getConnection()) {
            // The definitions first: what changes while the rest is read shows when they are asked for again.
            Session session = new Session(connection, dialect, 0, new ExecutionMonitor() {}, this::beside);
            Map<String, Set<Definition>> definitions = new HashMap<>();
            definitions(session, List.of()).forEach(said -> definitions
                    .computeIfAbsent(said.table() == null ? OF_ALL : said.table(), table -> new HashSet<>())
                    .add(said));
            Schema all = dialect.catalogue().reader().read(connection);
            List<TableName> names = all.tables().stream().map(Table::name).toList();
            boolean registered = OwnTableRegistry.hasModules(own, names);
            Map<String, Integer> versions = versions(session, names, registered);
            List<Table> theirs = all.tables().stream()
                    .filter(table -> !OwnTableRegistry.has(own, table.name()) && !keys(table))
                    .map(table -> table.withTriggers(this::theirs))
                    .toList();
            Schema schema = theirs.equals(all.tables()) ? all : new Schema(theirs, all.relations());
            return new Reading(schema, new OwnTableState(own, dialect, versions, registered), definitions);
        } catch (LockConflictException busy) {
            throw busy(busy);
        } catch (SQLException failed) {
            throw busy(SqlExceptionTranslator.of(failed, READING, dialect));
        }
    }

    private Map<String, Integer> versions(Session session, List<TableName> names, boolean registered) {
        if (!registered) {
            return OwnTableRegistry.hasVersion(own, names)
                    ? OwnTableRegistry.of((int) session.number(
                            Sql.of("SELECT MAX(version) FROM "
                                    + dialect.syntax().table(own.table("version"))),
                            READING))
                    : Map.of();
        }
        Map<String, Integer> versions = new TreeMap<>();
        session.query(
                Sql.of("SELECT name, version FROM " + dialect.syntax().table(own.table("module"))),
                READING,
                row -> versions.put(row.getString(1), row.getInt(2)));
        return versions;
    }

    public void refresh() {
        beside.clear();
        reading = null;
    }

    /**
     * Whether the tables are others than those that were read; what was read is forgotten then.
     *
     * @param onTheWay of which the columns and keys matter, and what refers to them
     */
    public boolean outdated(Session session, Collection<TableName> onTheWay) {
        Reading known = reading;
        if (known != null) {
            Set<String> names = new TreeSet<>();
            onTheWay.forEach(table -> names.add(table.name()));
            Set<Definition> then = new HashSet<>(known.definitions().getOrDefault(OF_ALL, Set.of()));
            names.forEach(table -> then.addAll(known.definitions().getOrDefault(table, Set.of())));
            if (then.equals(definitions(session, names))) {
                return false;
            }
        }
        reading = null;
        return true;
    }

    private Set<Definition> definitions(Session session, Collection<String> tables) {
        Set<Definition> definitions = new HashSet<>();
        session.forEach(
                dialect.catalogue().definitions(tables),
                READING,
                row -> definitions.add(new Definition(row.getString(1), row.getString(2), row.getString(3))));
        return definitions;
    }
}
