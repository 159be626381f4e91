package io.vacancy;

import io.vacancy.archive.Hold;
import io.vacancy.archive.Kept;
import io.vacancy.archive.KeptQuery;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Images;
import io.vacancy.request.Key;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.store.ArchiveStore;
import java.time.Clock;
import java.time.Period;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Where receipts and the images of rows that went are kept, in a few tables of Vacancy's own. Serves all threads.
 *
 * <p>Until {@link #setUp()} was called once on a database, everything but that, {@link #ready()} and
 * {@link #script()} throws a {@link MisuseException} that says so.
 */
public final class Archive {

    private final ArchiveStore store;
    private final Supplier<Rules> rules;
    private final Supplier<String> actor;
    private final Clock clock;

    Archive(ArchiveStore store, Supplier<Rules> rules, Supplier<String> actor, Clock clock) {
        this.store = store;
        this.rules = rules;
        this.actor = actor;
        this.clock = clock;
    }

    /** Whether there is a place for receipts and images. */
    public boolean ready() {
        return store.ready();
    }

    /**
     * Makes Vacancy's own tables, or brings them up to date; does nothing where they are. Not for use inside a
     * transaction, since some engines commit with it.
     *
     * @return the statements that were run
     */
    public List<String> setUp() {
        return store.setUp();
    }

    /** The same statements for a migration tool, each without a semicolon; none of them is run. */
    public List<String> script() {
        return store.script();
    }

    /** What is kept, newest first. To be closed: until then it holds a connection. */
    public Stream<Kept> kept(KeptQuery query) {
        wanted();
        String table = query.table();
        return store.kept(table == null ? query : query.of(known(table)));
    }

    /**
     * A receipt as the JSON documents that were kept of it, one for each of its parts; empty if there is none.
     *
     * @param id its identifier
     */
    public List<String> receipt(String id) {
        wanted();
        return store.receipts(id);
    }

    /** The holds that are in force, oldest first. */
    public List<Hold> holds() {
        wanted();
        return store.holds();
    }

    /**
     * Holds what a receipt keeps, so that it does not go for good until the hold is released.
     *
     * @param because why; not empty
     * @throws MisuseException if there is no such receipt
     */
    public Hold holdReceipt(String receipt, String because) {
        wanted();
        if (store.receipts(receipt).isEmpty()) {
            throw new MisuseException("There is no receipt " + receipt + " to hold.", "`vacancy kept` lists them.");
        }
        return store.place(new Hold(0, receipt, null, List.of(), actor.get(), because, null), clock.instant());
    }

    /** Holds every row of a table and all images of its rows: none of them can be erased or purged. */
    public Hold holdTable(String table, String because) {
        wanted();
        return store.place(new Hold(0, null, known(table), List.of(), actor.get(), because, null), clock.instant());
    }

    /**
     * Holds one row and its images, whether the row is there or not.
     *
     * @param key a value, or a {@link Key} of several
     */
    public Hold holdRow(String table, Object key, String because) {
        wanted();
        Table held = rules.get().schema().table(table);
        // Read as a key of this table, so that a slip is told now and not when it is too late.
        List<String> values = (key instanceof Key ready ? ready : Key.of(key))
                .valuesFor(held, held.identity().columns()).stream()
                        .map(Object::toString)
                        .toList();
        Hold hold = new Hold(0, null, held.toString(), values, actor.get(), because, null);
        return store.place(hold, clock.instant());
    }

    /**
     * Ends a hold.
     *
     * @throws MisuseException if no such hold is in force
     */
    public void release(long number) {
        wanted();
        if (!store.release(number, actor.get(), clock.instant())) {
            throw new MisuseException("No hold " + number + " is in force.", "`vacancy hold` lists those that are.");
        }
    }

    /**
     * What may go for good by now: a request for each table of which images are kept longer than they need to be, and
     * for each whose rows have been marked as deleted for longer than they need to stay. The latter erase the rows
     * by all rules and keep no image of them; there may be none. Whatever something stands in the way of is left out. To be previewed
     * and carried out like any other request.
     */
    public List<Request> due() {
        ZonedDateTime now = ZonedDateTime.now(clock);
        List<Request> due = new ArrayList<>();
        for (TableName name : rules.get().marked()) {
            Condition over = over(name, now);
            if (over != null) {
                due.add(Request.from(name.toString())
                        .where(over)
                        .withMarked()
                        .erase()
                        .withoutArchive()
                        .onBlocked(OnBlocked.SPARE));
            }
        }
        if (ready()) {
            Set<TableName> tables = new TreeSet<>();
            try (Stream<Kept> over = store.kept(KeptQuery.all().withUsed().dueAt(now.toInstant()))) {
                over.filter(kept -> kept.there() > 0).map(Kept::table).forEach(tables::add);
            }
            for (TableName table : tables) {
                due.add(Request.from(table.toString())
                        .everyRow()
                        .fromArchive(Images.due(now.toInstant()))
                        .purging()
                        .onBlocked(OnBlocked.SPARE));
            }
        }
        return due;
    }

    /** What holds for the rows that have been marked for longer than they need to be; null where nothing says so. */
    private @Nullable Condition over(TableName table, ZonedDateTime now) {
        Period stay = rules.get().retention(table).softDeleted();
        FittedMarker marker = rules.get().marker(table);
        return stay == null || marker == null ? null : marker.markedBefore(now.minus(stay));
    }

    private String known(String table) {
        return rules.get().schema().table(table).toString();
    }

    private void wanted() {
        if (!store.ready()) {
            throw notReady();
        }
    }

    static MisuseException notReady() {
        return new MisuseException(
                "Vacancy keeps nothing in this database, since its own tables are not there.",
                "Run `vacancy setup` once, or call archive().setUp().");
    }
}
