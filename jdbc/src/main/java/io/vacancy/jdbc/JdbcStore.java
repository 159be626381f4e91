package io.vacancy.jdbc;

import io.vacancy.archive.Saver;
import io.vacancy.condition.Condition;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.archive.BringingBack;
import io.vacancy.jdbc.archive.Copying;
import io.vacancy.jdbc.archive.Keeper;
import io.vacancy.jdbc.archive.Place;
import io.vacancy.jdbc.archive.Purging;
import io.vacancy.jdbc.definition.Definitions;
import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.dialect.Dialects;
import io.vacancy.jdbc.own.OwnTables;
import io.vacancy.jdbc.removal.Both;
import io.vacancy.jdbc.removal.Emptying;
import io.vacancy.jdbc.removal.Unlinking;
import io.vacancy.jdbc.removal.Walked;
import io.vacancy.jdbc.removal.Work;
import io.vacancy.jdbc.session.Busy;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Faults;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.session.Slipped;
import io.vacancy.jdbc.sql.ConditionSql;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.jdbc.trail.Recorder;
import io.vacancy.jdbc.walk.Orphans;
import io.vacancy.jdbc.walk.Rows;
import io.vacancy.jdbc.walk.Walk;
import io.vacancy.listener.RowTaker;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Portion;
import io.vacancy.preview.SparedRow;
import io.vacancy.program.Branch;
import io.vacancy.program.Deletion;
import io.vacancy.request.Images;
import io.vacancy.request.Mode;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.store.ArchiveStore;
import io.vacancy.store.Definition;
import io.vacancy.store.SqlText;
import io.vacancy.store.Store;
import io.vacancy.store.TrailStore;
import io.vacancy.store.Watch;
import io.vacancy.trail.Touched;
import io.vacancy.trail.TrailEntry;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.ZonedDateTime;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * A store over JDBC. It takes a connection from the data source for each call and gives it back as it
 * was; it serves several threads at once if the data source does.
 */
public final class JdbcStore implements Store {

    private static final int ATTEMPTS = 3;
    /** About where a key table begins to pay, on the engine where it pays first; see docs/measurements.md. */
    private static final int KEYS_IN_MEMORY = 1_000;

    private static final int MOST_KEYS_IN_MEMORY = 10_000;

    private final Dialect dialect;
    private final Catalog catalog;
    private final Transactions transactions;
    private final int keysInMemory;

    private JdbcStore(Dialect dialect, Catalog catalog, Transactions transactions, int keysInMemory) {
        this.dialect = dialect;
        this.catalog = catalog;
        this.transactions = transactions;
        this.keysInMemory = keysInMemory;
    }

    /** Where transactions come from. */
    @FunctionalInterface
    private interface Transactions {
        Transaction begin(int keysInMemory, Watch watch, String isolation);
    }

    /**
     * A store on the database behind a data source; finds out by itself which engine it is.
     *
     * @throws StoreException if there is no connection to be had
     * @throws VacancyException if the engine is not known
     */
    public static JdbcStore of(DataSource source) {
        try (Connection connection = source.getConnection()) {
            Dialect dialect = Dialects.of(connection);
            Catalog catalog = new Catalog(source, dialect, OwnTables.USUAL);
            return new JdbcStore(
                    dialect,
                    catalog,
                    (keys, watch, isolation) ->
                            OwnTransaction.begin(source, dialect, keys, watch, catalog::beside, isolation),
                    KEYS_IN_MEMORY);
        } catch (SQLException failed) {
            throw new StoreException(
                    "The database cannot be reached: " + Faults.firstLine(failed),
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
        if (!(connection instanceof Connection callers)) {
            throw new MisuseException("A store over JDBC works within a java.sql.Connection, not a "
                    + connection.getClass().getName() + ".");
        }
        // Refused at once rather than at the first deletion.
        CallerTransaction.join(callers, dialect, keysInMemory, new Watch() {}, catalog::beside)
                .close();
        return new JdbcStore(
                dialect,
                catalog,
                (keys, watch, isolation) -> CallerTransaction.join(callers, dialect, keys, watch, catalog::beside),
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
    public Findings look(Deletion deletion, Watch watch) {
        return looking(deletion, watch, transaction -> {
            try (transaction) {
                // Undone on closing, key tables and all.
                Session session = transaction.session();
                Deletion placed = placed(deletion, session);
                Work work = work(session, placed, false, null);
                return work.findings().kept(keeps(placed, work));
            }
        });
    }

    /** The deletion as it is in this database: with what is held here, and what can be kept. */
    private Deletion placed(Deletion deletion, Session session) {
        Place place = catalog.place();
        return place.ready() ? deletion.under(place.holds(session)) : deletion.keepingNothing();
    }

    private Work work(Session session, Deletion deletion, boolean lock, @Nullable Keeper keeper) {
        Images images = deletion.images();
        OwnTables own = catalog.place().tables();
        if (images != null && images.saved() == null && !catalog.place().ready()) {
            throw new MisuseException(
                    "Vacancy keeps nothing in this database, since its own tables are not there.",
                    "Run `vacancy setup` once, or call archive().setUp().");
        }
        LongSupplier receipt = () -> keeper == null ? 0 : keeper.receiptNo();
        if (images != null && !images.besides()) {
            return deletion.program().mode() == Mode.PURGE
                    ? new Purging(session, own, deletion)
                    : new BringingBack(session, own, deletion, lock, receipt);
        }
        if (deletion.target().atOnce()) {
            return new Emptying(session, deletion, lock);
        }
        if (deletion.target().setNull()) {
            return new Unlinking(session, deletion, lock);
        }
        Work walked = new Walked(session, deletion, lock);
        return images == null ? walked : new Both(walked, new BringingBack(session, own, deletion, lock, receipt));
    }

    private static boolean keeps(Deletion deletion, Work work) {
        return work.takes().stream()
                .anyMatch(taken -> deletion.keeping().keeps(taken.table().name()));
    }

    @Override
    public Stream<Row> rows(Deletion deletion, TableName table, Watch watch) {
        return streaming(deletion, watch, session -> {
            if (deletion.target().atOnce() || deletion.images() != null) {
                return work(session, deletion, false, null).rows();
            }
            Walk walk = new Walk(session, deletion.toBeShown(), false);
            if (table.equals(deletion.program().root())) {
                walk.select();
            } else {
                walk.run();
            }
            return walk.rows(table);
        });
    }

    @Override
    public Stream<Row> missing(Deletion deletion, Watch watch) {
        return streaming(deletion, watch, session -> {
            Walk walk = new Walk(session, deletion, false);
            walk.select();
            return walk.missing();
        });
    }

    @Override
    public Stream<SparedRow> spared(Deletion deletion, Watch watch) {
        return streaming(deletion, watch, session -> {
            Walk walk = new Walk(session, deletion, false);
            walk.run();
            return walk.sparedRows();
        });
    }

    @Override
    public Map<Relation, Portion> orphans(List<Relation> relations, Map<TableName, Condition> scopes, Watch watch) {
        return looking(null, watch, transaction -> {
            try (transaction) {
                Map<Relation, Portion> orphans = new LinkedHashMap<>();
                for (Relation relation : relations) {
                    Portion found = Orphans.of(relation, schema(), transaction.session(), scopes.get(relation.child()));
                    if (found.rows() > 0) {
                        orphans.put(relation, found);
                    }
                }
                return orphans;
            }
        });
    }

    @Override
    public Map<TableName, Long> counts(List<TableName> tables, Map<TableName, Condition> scopes, Watch watch) {
        return looking(null, watch, transaction -> {
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
        Sql sql = new ConditionSql(table, dialect::quote, now, alias).write(condition);
        return new SqlText(
                sql.text(),
                sql.binds().stream().map(bind -> dialect.plain(bind.value())).toList());
    }

    @Override
    public long children(Relation relation, @Nullable Condition child, Condition parent, Watch watch) {
        return looking(null, watch, transaction -> {
            try (transaction) {
                return Orphans.children(relation, schema(), transaction.session(), child, parent);
            }
        });
    }

    @Override
    public @Nullable String written(Definition definition) {
        return new Definitions(dialect).written(definition);
    }

    private <T> T looking(@Nullable Deletion deletion, Watch watch, Function<Transaction, T> look) {
        try {
            Transaction transaction = transactions.begin(keysInMemory, watch, dialect.isolationForLooking());
            transaction.limitWaiting(deletion == null ? null : deletion.patience());
            return look.apply(transaction);
        } catch (Busy busy) {
            throw new BusyException(table(busy), detail(busy), busy);
        }
    }

    /** The transaction lives as long as the stream. */
    private <T> Stream<T> streaming(@Nullable Deletion deletion, Watch watch, Function<Session, Stream<T>> query) {
        return looking(deletion, watch, transaction -> {
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
    public Ending carryOut(Deletion deletion, Approval approval) {
        for (int attempt = 1; ; attempt++) {
            try (Transaction transaction = transactions.begin(keysInMemory, approval, dialect.isolationForRemoving())) {
                try {
                    return carryOut(deletion, approval, transaction);
                } catch (Busy busy) {
                    if (!busy.deadlock() || !transaction.mayBeRepeated() || attempt == ATTEMPTS) {
                        return new Ending.Stopped(new Outcome.Busy(table(busy), detail(busy)));
                    }
                    approval.retrying(attempt + 1, detail(busy));
                }
            } catch (Slipped slipped) {
                return new Ending.Slipped(String.valueOf(slipped.getMessage()));
            }
        }
    }

    private Ending carryOut(Deletion deletion, Approval approval, Transaction transaction) {
        TableName root = deletion.program().root();
        Session session = transaction.session();
        transaction.limitWaiting(deletion.patience());
        String lock = dialect.lockWhole(root);
        if (lock != null) {
            session.update(Sql.of(lock), Context.of("locking", root));
        }
        if (catalog.outdated(session)) {
            return new Ending.Outdated();
        }
        refuseStaleSnapshot(deletion, transaction);
        Place place = catalog.place();
        Deletion placed = placed(deletion, session);
        Keeper keeper = place.ready() ? new Keeper(session, place.tables(), placed.keeping()) : null;
        Work work = work(session, placed, true, keeper);
        Findings looked = work.findings();
        Findings found = looked.kept(keeps(placed, work));
        Outcome objection = approval.objection(found);
        if (objection != null) {
            return new Ending.Stopped(whole(session, placed, approval, objection));
        }
        handOver(work::rows, approval);
        int told = keeper == null ? 0 : approval.keysTold();
        List<Touched> touched = told == 0 ? List.of() : work.touched(told);
        Saver saver = approval.saver();
        if (saver != null) {
            new Copying(session, placed.keeping()).copy(work.takes(), saver);
        }
        if (keeper != null) {
            keeper.begin(approval.receipt(found));
            keeper.keep(work.takes());
        }
        work.run(found);
        if (!placed.shown()) {
            found = work.afterwards(found);
            objection = approval.objection(found);
            if (objection != null) {
                return new Ending.Stopped(objection);
            }
        }
        if (keeper != null) {
            keeper.end(approval.receipt(found));
            TrailEntry entry = approval.entry(found, touched, keeper.part());
            if (entry != null) {
                new Recorder(session, place.tables()).write(entry, approval.outbox());
            }
        }
        transaction.finish(root);
        transaction.afterCommit(work.afterCommit());
        return new Ending.Removed(found);
    }

    private static void handOver(Supplier<Stream<Row>> selected, Approval approval) {
        RowTaker taker = approval.taker();
        if (taker != null) {
            taker.begin();
            try (Stream<Row> rows = selected.get()) {
                rows.forEachOrdered(taker::take);
            }
        }
    }

    /** An enforced foreign key holds whatever a transaction still sees; nothing else does. */
    private void refuseStaleSnapshot(Deletion deletion, Transaction transaction) {
        for (Branch branch : deletion.program().branches()) {
            Relation relation = branch.relation();
            if ((!relation.enforced() || !dialect.parentsLockOutChildren()) && transaction.mayReadStaleRows()) {
                throw new MisuseException(
                        "The transaction may see rows as they were before the locks, and on " + relation
                                + " no foreign key of " + dialect.name() + " holds against what it does not see.",
                        "Use READ COMMITTED for this transaction, or let Vacancy use a connection of its own.");
            }
        }
    }

    /** What stands against it is shown whole, also where nobody would have been shown what went. */
    private Outcome whole(Session session, Deletion deletion, Approval approval, Outcome objection) {
        if (deletion.shown()) {
            return objection;
        }
        Outcome shown = approval.objection(
                work(session, deletion.toBeShown(), true, null).findings());
        return shown == null ? objection : shown;
    }

    @Override
    public ArchiveStore archive() {
        return new JdbcArchive(catalog, new Working());
    }

    @Override
    public TrailStore trail() {
        return new JdbcTrail(catalog.place().tables(), new Working());
    }

    private final class Working implements OwnWork {

        @Override
        public <T> T looking(Function<Session, T> look) {
            return JdbcStore.this.looking(null, new Watch() {}, transaction -> {
                try (transaction) {
                    return look.apply(transaction.session());
                }
            });
        }

        @Override
        public <T> Stream<T> streaming(Function<Session, Stream<T>> query) {
            return JdbcStore.this.streaming(null, new Watch() {}, query);
        }

        @Override
        public <T> T writing(Function<Session, T> write) {
            for (int attempt = 1; ; attempt++) {
                try (Transaction transaction =
                        transactions.begin(keysInMemory, new Watch() {}, dialect.isolationForOwnTables())) {
                    try {
                        T written = write.apply(transaction.session());
                        transaction.finish(catalog.place().tables().table("trail"));
                        return written;
                    } catch (Busy busy) {
                        if (!busy.deadlock() || !transaction.mayBeRepeated() || attempt == ATTEMPTS) {
                            throw new BusyException(table(busy), detail(busy), busy);
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

    private static @Nullable String table(Busy busy) {
        TableName table = busy.context().table();
        return table == null ? null : table.toString();
    }

    private static String detail(Busy busy) {
        return "while " + busy.context().step() + " it, " + busy.getMessage();
    }

    /** The engines that a store can be opened on, by their names. */
    public static List<String> engines() {
        return Dialects.names();
    }
}
