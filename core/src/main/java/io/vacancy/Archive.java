// SPDX-License-Identifier: Apache-2.0
package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.internal.audit.TrailEntryFactory;
import io.vacancy.internal.execute.Installation;
import io.vacancy.internal.execute.Receipts;
import io.vacancy.request.Key;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ArchiveStore;
import io.vacancy.trail.TrailEntry.Kind;
import java.time.Instant;
import java.time.Period;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Where receipts and the images of rows that went are kept, in a few tables of Vacancy's own. Serves all threads.
 *
 * <p>Until {@link #setUp()} was called once on a database, everything but that, {@link #ready()} and
 * {@link #script()} throws a {@link MisuseException} that says so.
 */
public final class Archive {

    private final Installation at;

    Archive(Installation at) {
        this.at = at;
    }

    private ArchiveStore store() {
        return at.store().archive();
    }

    /** Whether there is a place for receipts and images. */
    public boolean ready() {
        return store().ready();
    }

    /**
     * Makes Vacancy's own tables, or brings them up to date; does nothing where they are. Not for use inside a
     * transaction, since some engines commit with it.
     *
     * @return the statements that were run
     */
    public List<String> setUp() {
        return store().setUp();
    }

    /** The same statements for a migration tool, each without a semicolon; none of them is run. */
    public List<String> script() {
        return store().script();
    }

    /** What is kept and may be seen, newest first. To be closed: until then it holds a connection. */
    public Stream<ArchivedRows> rows(ArchiveQuery query) {
        Arguments.notNull(query, "query");
        wanted();
        String table = query.table();
        if (table != null) {
            at.visible().wants(knowing(table).schema().table(table), Act.READ_ARCHIVE);
        }
        AccessRights visible = at.visible();
        return store().archived(table == null ? query : query.of(known(table))).filter(visible::sees);
    }

    /**
     * A receipt as the JSON documents that were written of it, one for each of its parts; empty if there is none, or it
     * tells of what may not be seen.
     *
     * @see Vacancy#receipt
     */
    public List<String> documents(ReceiptId receipt) {
        wanted();
        Arguments.notNull(receipt, "receipt");
        return seen(receipt) ? store().documents(receipt) : List.of();
    }

    /** With a table that is gone, where rows of it are archived. */
    private Installation knowing(String table) {
        return at.knowingTablesOf(Request.purge(table).everyRow());
    }

    private boolean seen(ReceiptId id) {
        AccessRights visible = at.visible();
        return Receipts.joined(store().receiptParts(id))
                .filter(receipt -> visible.sees(receipt, store().scopes(id)))
                .isPresent();
    }

    /** The holds that are in force and on something that may be seen, oldest first. */
    public List<Hold> holds() {
        wanted();
        return store().holds().stream()
                .filter(hold -> mayBeHeld(hold, Act.READ_ARCHIVE) == null)
                .toList();
    }

    /** Why a hold may not be seen, placed or released by the actor; null if it may. */
    private @Nullable String mayBeHeld(Hold hold, Act act) {
        AccessRights visible = at.visible();
        ReceiptId receipt = hold.receipt();
        if (receipt != null) {
            return heldReceipt(receipt, act, visible);
        }
        Table table = rules().schema().tables().stream()
                .filter(each -> each.toString().equals(hold.table()))
                .findFirst()
                .orElse(null);
        if (table == null) {
            return null;
        }
        String refusal = visible.refusal(table.name(), act);
        Condition scope = visible.condition(table);
        if (refusal != null || scope == null) {
            return refusal;
        }
        if (hold.key().isEmpty()) {
            return "Not all of " + table + " is open to whom would hold it.";
        }
        List<String> columns = table.identity().columns();
        Condition row = scope;
        for (int i = 0; i < columns.size(); i++) {
            row = row.and(
                    ColumnRef.column(columns.get(i)).equalTo(hold.key().get(i)).readFor(table));
        }
        Long rows = at.store()
                .counts(List.of(table.name()), Map.of(table.name(), row), at.monitor())
                .get(table.name());
        return rows != null && rows == 1 ? null : "There is no row " + hold.on() + " to hold.";
    }

    private @Nullable String heldReceipt(ReceiptId receipt, Act act, AccessRights visible) {
        if (!seen(receipt)) {
            return "There is no receipt " + receipt + " to hold.";
        }
        return store().receiptParts(receipt).stream()
                .flatMap(part -> part.effects().stream())
                .map(effect -> visible.refusal(effect.table(), act))
                .filter(Objects::nonNull)
                .findFirst()
                .orElse(null);
    }

    /**
     * Holds what a receipt keeps, so that it does not go for good until the hold is released.
     *
     * @param because why; not empty
     * @throws MisuseException if there is no such receipt
     */
    public Hold holdReceipt(ReceiptId receipt, String because) {
        Arguments.notNull(receipt, "receipt");
        Arguments.notBlank(because, "because");
        wanted();
        return place(receipt, null, List.of(), because);
    }

    /** Holds every row of a table and all images of its rows: none of them can be erased or purged. */
    public Hold holdTable(String table, String because) {
        Arguments.notBlank(because, "because");
        wanted();
        return place(null, known(table), List.of(), because);
    }

    /**
     * Holds one row and its images, whether the row is there or not.
     *
     * @param key a value, or a {@link Key} of several
     */
    public Hold holdRow(String table, Object key, String because) {
        Arguments.notBlank(because, "because");
        wanted();
        Table held = rules().schema().table(table);
        // Read as a key of this table, so that a slip is told now and not when it is too late.
        List<String> values = (key instanceof Key ready ? ready : Key.of(key))
                .valuesFor(held, held.identity().columns()).stream()
                        .map(Object::toString)
                        .toList();
        return place(null, held.toString(), values, because);
    }

    private Hold place(@Nullable ReceiptId receipt, @Nullable String table, List<String> key, String because) {
        TrailEntryFactory who = at.entries();
        Hold hold = new Hold(0, receipt, table, key, who.actor(), because, null);
        String refusal = mayBeHeld(hold, Act.HOLD);
        if (refusal != null) {
            throw new MisuseException(refusal);
        }
        Instant now = at.settings().clock.instant();
        Hold placed = store().place(hold, now, who.held(hold, Kind.HOLD, now));
        at.publisher().written();
        return placed;
    }

    /**
     * Ends a hold.
     *
     * @throws MisuseException if no such hold is in force
     */
    public void release(long number) {
        wanted();
        TrailEntryFactory who = at.entries();
        Instant now = at.settings().clock.instant();
        Hold released = store().holds().stream()
                .filter(hold -> hold.number() == number && mayBeHeld(hold, Act.READ_ARCHIVE) == null)
                .findFirst()
                .orElse(null);
        String refusal = released == null ? null : mayBeHeld(released, Act.RELEASE);
        if (refusal != null) {
            throw new MisuseException(refusal);
        }
        if (released == null || !store().release(number, who.actor(), now, who.held(released, Kind.RELEASE, now))) {
            throw new MisuseException("No hold " + number + " is in force.");
        }
        at.publisher().written();
    }

    /**
     * What may go for good by now: a request for each table of which images are kept longer than they need to be, and
     * for each whose rows have been marked as deleted for longer than they need to stay. The latter erase the rows
     * by all rules and keep no image of them; there may be none. Whatever something stands in the way of is left out. To be previewed
     * and carried out like any other request.
     */
    public List<Request> due() {
        ZonedDateTime now = ZonedDateTime.now(at.settings().clock);
        AccessRights visible = at.visible();
        List<Request> due = new ArrayList<>();
        for (TableName name : rules().marked()) {
            Condition over = over(name, now);
            if (over != null) {
                due.add(Request.erase(name.toString())
                        .where(over)
                        .includingMarked()
                        .withoutArchive()
                        .onBlocked(OnBlocked.SKIP));
            }
        }
        if (ready()) {
            Set<TableName> tables = new TreeSet<>();
            try (Stream<ArchivedRows> over =
                    store().archived(ArchiveQuery.all().withUsed().dueAt(now.toInstant()))) {
                over.filter(kept -> kept.there() > 0 && visible.sees(kept))
                        .map(ArchivedRows::table)
                        .forEach(tables::add);
            }
            for (TableName table : tables) {
                due.add(Request.purgeDue(table.toString()).onBlocked(OnBlocked.SKIP));
            }
        }
        return due;
    }

    /** What holds for the rows that have been marked for longer than they need to be; null where nothing says so. */
    private @Nullable Condition over(TableName table, ZonedDateTime now) {
        Period stay = rules().retention(table).softDeleted();
        ResolvedMarker marker = rules().marker(table);
        return stay == null || marker == null ? null : marker.markedBefore(now.minus(stay));
    }

    /** Looking at what is kept wants no actor. */
    private ResolvedRules rules() {
        return at.rules();
    }

    private String known(String table) {
        return knowing(table).schema().table(table).toString();
    }

    private void wanted() {
        at.wantsOwnTables();
    }
}
