// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SavedSource;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Row;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What is to be done, to which rows, within which limits, and why. Begins with the factory of its operation, which never
 * changes after: {@code Request.delete("boat").key(17).because("sold")}.
 *
 * <p>Immutable and for all threads: each method that adds something returns a request of its own. A request without a
 * selection cannot be built, nor one that contradicts itself: whatever its operation cannot honour is refused with a
 * {@link MisuseException} when it is said, as is null, a blank text and an empty list of anything.
 */
public final class Request {

    private static final int LONGEST_ID = 64;

    private final RequestParts parts;

    private Request(RequestParts parts) {
        this.parts = parts;
    }

    static Request of(RequestParts parts) {
        return new Request(parts);
    }

    /** Removes or marks rows, as the rule book says of the table. */
    public static SelectionStep delete(String table) {
        return new SelectionStep(new Operation.Delete(), table);
    }

    /** The same in this mode, whatever the rule book says. */
    public static SelectionStep delete(String table, Mode mode) {
        return Arguments.notNull(mode, "mode") == Mode.ERASE ? erase(table) : softDelete(table);
    }

    /** Removes rows, whatever the table's usual mode is. */
    public static SelectionStep erase(String table) {
        return new SelectionStep(new Operation.Erase(), table);
    }

    /** Marks rows as deleted, whatever the table's usual mode is; they stay, and can be restored. */
    public static SelectionStep softDelete(String table) {
        return new SelectionStep(new Operation.SoftDelete(), table);
    }

    /** Ends one row and has a successor take its place, in one transaction; for tables of versions or with end dates. */
    public static ReplacementStep replace(String table) {
        return new ReplacementStep(Arguments.notBlank(table, "table"));
    }

    /**
     * Deletes one row and gives all its child rows to another row of the same table, in one transaction: two rows that
     * are one. It is removed or marked, as the rule book says of the table; rules for child rows do not hold.
     */
    public static MergeStep merge(String table) {
        return new MergeStep(Arguments.notBlank(table, "table"));
    }

    /**
     * Empties or replaces what is personal in rows, as the rule book says of their table, and keeps the rows. What depends on
     * them stays as it is, but for child rows of relations whose rule says blank as well.
     */
    public static SelectionStep blank(String table) {
        return new SelectionStep(new Operation.Blank(), table);
    }

    /**
     * Forgets one person: the row, which the rule book calls a person, and everything that belongs to it are erased, blanked
     * or kept, as the rule book says of their tables; also rows that are marked as deleted.
     */
    public static PersonStep forget(String table) {
        return new PersonStep(Arguments.notBlank(table, "table"));
    }

    /**
     * Restores everything that was erased, soft-deleted or changed under a receipt, as far as it is archived or marked
     * still.
     */
    public static Request restore(ReceiptId receipt) {
        return of(new RequestParts(Operation.Restore.of(Arguments.notNull(receipt, "receipt")), null, null));
    }

    /** Restores rows of one table that were erased under a receipt, with what was erased with them. */
    public static SelectionStep restore(ReceiptId receipt, String table) {
        return new SelectionStep(Operation.Restore.of(Arguments.notNull(receipt, "receipt")), table);
    }

    /**
     * Restores rows of a table, with what went with them: soft-deleted ones where the selection has any, else archived
     * ones.
     */
    public static SelectionStep restore(String table) {
        return new SelectionStep(Operation.Restore.of(null), table);
    }

    /** Restores everything that a copy outside the database has, which is sealed with a secret. */
    public static Request restore(SavedSource source) {
        return restore(source, List.of());
    }

    /**
     * Restores everything that a copy outside the database has, be it sealed or not.
     *
     * @param tables the only ones that it may have rows and links of; of any other, and nothing is restored
     */
    public static Request restore(SavedSource source, Collection<String> tables) {
        Arguments.noneNull(tables, "tables");
        Operation restore = new Operation.Restore(null, Arguments.notNull(source, "source"), List.copyOf(tables));
        return of(new RequestParts(restore, null, null));
    }

    /** Removes for good everything that is archived under a receipt, restorable or not. */
    public static Request purge(ReceiptId receipt) {
        return of(new RequestParts(new Operation.Purge(Arguments.notNull(receipt, "receipt"), false), null, null));
    }

    /** Removes archived rows of a table for good, of any receipt. */
    public static SelectionStep purge(String table) {
        return new SelectionStep(new Operation.Purge(null, false), table);
    }

    /** Removes those archived rows of a table for good whose retention has expired. */
    public static Request purgeDue(String table) {
        return of(new RequestParts(
                new Operation.Purge(null, true), Arguments.notBlank(table, "table"), new Selection.EveryRow()));
    }

    /**
     * Empties a table as a whole, by the fastest way that the engine can undo. Refused where anything refers to the
     * table. Triggers on rows may not run; the preview says so.
     */
    public static Request truncate(String table) {
        return of(new RequestParts(
                new Operation.Truncate(), Arguments.notBlank(table, "table"), new Selection.EveryRow()));
    }

    /**
     * Removes a table with all its rows from the database itself. Blocked while anything else uses it: foreign keys, views,
     * triggers of other tables, the rule book. The rows and the table's definition are archived first.
     */
    public static Request drop(String table) {
        return dropping(table, null);
    }

    /**
     * Removes a column from a table; its rows stay. Blocked while anything uses it, such as a key or an index. Its values, by
     * the keys of their rows, and its definition are archived first.
     */
    public static Request dropColumn(String table, String column) {
        return dropping(table, Arguments.notBlank(column, "column"));
    }

    private static Request dropping(String table, @Nullable String column) {
        return of(new RequestParts(
                new Operation.Drop(column), Arguments.notBlank(table, "table"), new Selection.EveryRow()));
    }

    /**
     * Sets a link to NULL in the rows whose parent is missing; the rows stay. To erase them instead, select them by
     * {@link SelectionStep#orphansOf}.
     *
     * @param relation by which they refer to it, such as {@code fee.mooring_id}
     */
    public static Request unlinkOrphans(String relation) {
        return of(new RequestParts(
                new Operation.UnlinkOrphans(Arguments.notBlank(relation, "relation")),
                null,
                new Selection.Orphans(relation)));
    }

    /** What it does. */
    public Operation operation() {
        return parts.operation;
    }

    /** The table as the caller wrote it; null where the operation's receipt, source or relation tells it. */
    public @Nullable String table() {
        return parts.table;
    }

    /** The rows that are selected; null where the operation's receipt or source tells them. */
    public @Nullable Selection selection() {
        return parts.selection;
    }

    /** What must be true of the selected rows besides, or null; see {@link #and}. */
    public @Nullable Condition condition() {
        return parts.condition;
    }

    /**
     * Code that must accept the selected rows, or null; called once or several times for each row, on the thread that makes
     * the request, with nothing of the row's table removed yet.
     */
    public @Nullable Predicate<Row> filter() {
        return parts.filter;
    }

    /** How many of the selected rows at most, or null for all; see {@link #limit}. */
    public @Nullable Long first() {
        return parts.first;
    }

    /** In which order they are counted off; the key's columns decide between equals, and alone where it is empty. */
    public List<Order> order() {
        return parts.order;
    }

    /** What refuses it; those of the rule book hold as well. */
    public Limits limits() {
        return parts.limits;
    }

    /** Why, in the words of the person who asks, or null. */
    public @Nullable String reason() {
        return parts.because;
    }

    /** Why no confirmation is needed, or null. */
    public @Nullable String withoutConfirmation() {
        return parts.withoutConfirmation;
    }

    /** Whether a yes/no question is accepted without being asked. */
    public boolean acceptedUnasked() {
        return parts.acceptedUnasked;
    }

    /** How long to wait at most for rows that somebody else holds, or null for as long as the database does. */
    public @Nullable Duration lockTimeout() {
        return parts.lockTimeout;
    }

    /** The name of the rule book's deletion that it was made from, or null. */
    public @Nullable String deletion() {
        return parts.deletion;
    }

    /** The values that a deletion of the rule book was given, by parameter; empty for any other request. */
    public Map<String, Object> parameters() {
        return parts.parameters;
    }

    /** What happens where rows are blocked. */
    public OnBlocked onBlocked() {
        return parts.onBlocked;
    }

    /** Whether rows that are marked as deleted are selected as well. */
    public boolean includesMarked() {
        return parts.includesMarked;
    }

    /** Whether what is removed or changed is archived, where the archive is set up. */
    public boolean archived() {
        return parts.archived;
    }

    /** Rules of its own, by the written form of the relation; see {@link #rule}. */
    public Map<String, String> rules() {
        return parts.rules;
    }

    /** What else is selected, each from a table of its own; see {@link #plus}. */
    public List<Request> others() {
        return parts.others;
    }

    /** The identity that the caller gave it, or null. */
    public @Nullable String id() {
        return parts.id;
    }

    private Request with(Consumer<RequestParts> change) {
        RequestParts changed = new RequestParts(parts);
        change.accept(changed);
        return new Request(changed);
    }

    /** Only those of the selected rows for which this is true as well. */
    public Request and(Condition further) {
        Arguments.notNull(further, "condition");
        return narrowed("and", to -> to.condition = to.condition == null ? further : to.condition.and(further));
    }

    /**
     * Only those of the selected rows that this code accepts. It sees each row as it stands before anything is
     * changed, and again as it stands under the locks.
     */
    public Request filter(Predicate<Row> accepts) {
        Arguments.notNull(accepts, "filter");
        return narrowed("filter", to -> to.filter = to.filter == null ? accepts : to.filter.and(accepts));
    }

    /**
     * Only the first of the selected rows, in the order of {@link #orderBy} and then of their keys.
     *
     * @param rows at least 1
     */
    public Request limit(long rows) {
        return narrowed("limit", to -> to.first = RequestParts.limit(rows));
    }

    /** The order for {@link #limit}; said again, it adds a column that decides between equals. */
    public Request orderBy(String column) {
        return ordered("orderBy", new Order(column, false));
    }

    /** The same with the greatest first. */
    public Request orderByDescending(String column) {
        return ordered("orderByDescending", new Order(column, true));
    }

    private Request ordered(String said, Order by) {
        List<Order> longer = new ArrayList<>(parts.order);
        longer.add(by);
        return narrowed(said, to -> to.order = List.copyOf(longer));
    }

    private Request narrowed(String said, Consumer<RequestParts> change) {
        boolean whole = parts.selection == null || traits().meansEverything();
        wants(!whole, said, "it means everything, and nothing of it is left out");
        wants(
                said.equals("and") || !traits().selectsImages(),
                said,
                "archived rows are selected by key, by condition, or all of them");
        return with(change);
    }

    /**
     * With the rows of another request, of another table: one preview in which nothing counts twice, one question, one
     * receipt, and one transaction or none. What is selected is not in the way of anything, whatever the rules say of it
     * elsewhere. Limits count the rows of all of them together, but for a part of a table's rows, which is of each table.
     *
     * @param other of the same operation, and nothing but which rows of its table are meant: reason, limits and all else are
     *     said of the whole, by this one
     * @throws MisuseException unless both delete, or if the other one says more
     */
    public Request plus(Request other) {
        Arguments.notNull(other, "other");
        wants(traits().deletes(), "plus", "only what is deleted is added up");
        wants(
                parts.onBlocked == OnBlocked.REFUSE,
                "plus",
                "rows of several tables are deleted together, and none is skipped");
        if (!other.operation().equals(parts.operation)) {
            throw new MisuseException(
                    "A request to " + other.operation().word() + " cannot be added to one to " + parts.operation.word()
                            + ".",
                    "Begin both with the same operation; delete leaves to the rule book how rows of each table go.");
        }
        if (!other.selectsOnly()) {
            throw new MisuseException(
                    "The request for rows of " + other.table() + " that is added says more than which rows are meant.",
                    "Say reason, limits and all else of the request that it is added to.");
        }
        List<Request> more = new ArrayList<>(parts.others);
        more.add(other.without(other.others()));
        more.addAll(other.others());
        return with(changed -> changed.others = List.copyOf(more));
    }

    private Request without(List<Request> added) {
        return added.isEmpty() ? this : with(changed -> changed.others = List.of());
    }

    private boolean selectsOnly() {
        RequestParts plain = new RequestParts(parts.operation, parts.table, parts.selection);
        return parts.limits.equals(plain.limits)
                && parts.because == null
                && parts.withoutConfirmation == null
                && !parts.acceptedUnasked
                && parts.lockTimeout == null
                && parts.deletion == null
                && parts.onBlocked == plain.onBlocked
                && parts.includesMarked == plain.includesMarked
                && parts.archived == plain.archived
                && parts.rules.isEmpty()
                && parts.id == null;
    }

    private OperationTraits traits() {
        return new OperationTraits(parts.operation);
    }

    private void wants(boolean fits, String said, String why) {
        if (!fits) {
            throw new MisuseException(
                    said + "(…) cannot be said of a request to " + parts.operation.word() + ": " + why + ".",
                    "Leave it out, or begin with another operation.");
        }
    }

    /** Says why; it stands on the receipt and in the audit history. */
    public Request because(String reason) {
        Arguments.notBlank(reason, "reason");
        return with(changed -> changed.because = reason);
    }

    /**
     * Selects rows that are marked as deleted as well, which are left out otherwise.
     *
     * @throws MisuseException unless rows are erased or blanked, or orphans unlinked
     */
    public Request includingMarked() {
        wants(traits().selectsMarked(), "includingMarked", "the operation itself says whether marked rows are meant");
        return with(changed -> changed.includesMarked = true);
    }

    /**
     * Archives nothing of what is removed or changed, though the archive is set up.
     *
     * @throws MisuseException if the operation archives nothing anyway
     */
    public Request withoutArchive() {
        wants(traits().archives(), "withoutArchive", "it archives nothing");
        return with(changed -> changed.archived = false);
    }

    /**
     * Says how many of the selected rows there are. Any other number refuses the request; this one stands for a yes
     * to a yes/no question, and for nothing that has to be typed.
     *
     * @param rows not negative
     */
    public Request expect(long rows) {
        return limits(parts.limits.expect(rows));
    }

    /** Refuses if more than so many rows are selected. */
    public Request atMost(long rows) {
        return limits(parts.limits.atMost(rows));
    }

    /** Refuses if more than so many rows would be affected, those of other tables included. */
    public Request atMostInAll(long rows) {
        return limits(parts.limits.atMostInAll(rows));
    }

    /**
     * Refuses if more than this part of the table's rows is selected.
     *
     * @param percent more than 0 and up to 100
     */
    public Request atMostPercent(double percent) {
        return limits(parts.limits.atMostPercent(percent));
    }

    /** Sets all limits at once. Those of the rule book and of a named deletion hold nevertheless. */
    public Request limits(Limits all) {
        Arguments.notNull(all, "limits");
        return with(changed -> changed.limits = all);
    }

    /**
     * Waives every question, typed ones included. To be said by code that nobody sends anything to; no document can
     * say it.
     *
     * @param why why that is right; it stands on the receipt and in the audit history
     */
    public Request withoutConfirmation(String why) {
        Arguments.notBlank(why, "reason");
        return with(changed -> changed.withoutConfirmation = why);
    }

    /** The same that waives no question; for a document, which cannot waive one. */
    public Request withConfirmation() {
        return with(changed -> {
            changed.withoutConfirmation = null;
            changed.acceptedUnasked = false;
        });
    }

    /** Accepts a yes/no question without anybody being asked, and nothing that has to be typed. */
    public Request acceptUnasked() {
        return with(changed -> changed.acceptedUnasked = true);
    }

    /**
     * Limits how long to wait for rows that somebody else holds; then the outcome is busy.
     *
     * @param atMost not negative; some engines count in whole seconds and wait for at least one
     */
    public Request lockTimeout(Duration atMost) {
        if (Arguments.notNull(atMost, "lockTimeout").isNegative()) {
            throw new MisuseException("The lock timeout must be 0 or more, not " + atMost + ".");
        }
        return with(changed -> changed.lockTimeout = atMost);
    }

    /**
     * Says what happens where rows are blocked; refuse unless said.
     *
     * @throws MisuseException if the operation has no rows that something could block one by one
     */
    public Request onBlocked(OnBlocked then) {
        Arguments.notNull(then, "onBlocked");
        boolean skips = traits().skipsRows() && parts.others.isEmpty();
        wants(then != OnBlocked.SKIP || skips, "onBlocked", "no row of it is skipped");
        return with(changed -> changed.onBlocked = then);
    }

    /**
     * Puts a rule in the place of those that hold on a relation, as far as the rule book permits it. The receipt notes
     * it.
     *
     * @param relation its written form, such as {@code fee.mooring_id}
     * @param rule as it is written: {@code cascade}, {@code set-null}, {@code reassign:3}, {@code block:reason} or
     *     {@code leave}; read when the request is used
     * @throws MisuseException unless rows are deleted
     */
    public Request rule(String relation, String rule) {
        Arguments.notBlank(relation, "relation");
        Arguments.notBlank(rule, "rule");
        wants(traits().takesRules(), "rule", "rules are for what is deleted");
        Map<String, String> more = new LinkedHashMap<>(parts.rules);
        more.put(relation, rule);
        return with(changed -> changed.rules = Collections.unmodifiableMap(more));
    }

    /**
     * Says which parent the child rows of a relation get, where the rule book leaves that to the request.
     *
     * @param key the value of the column that the relation refers to, or a {@link Key} of several
     */
    public Request reassign(String relation, Object key) {
        return rule(relation, "reassign:" + (key instanceof Key ready ? ready : Key.of(key)));
    }

    /**
     * Gives it an identity of the caller's: executing it again, also at the same time, from another process or after a
     * crash, returns the first receipt and changes nothing. Only a receipt uses an identity up. It is kept in
     * Vacancy's own tables and wants them set up; another request than the first one, which differs in anything but its
     * reason, is misuse. The code of a {@link #filter} is not compared.
     *
     * @param identity 1 to 64 characters, such as a UUID
     */
    public Request id(String identity) {
        if (Arguments.notBlank(identity, "id").length() > LONGEST_ID) {
            throw new MisuseException("The id has " + identity.length() + " characters, and 64 are kept.");
        }
        return with(changed -> changed.id = identity);
    }

    /** The same without an identity of its own. */
    public Request withoutId() {
        return with(changed -> changed.id = null);
    }

    /**
     * The same for these rows in the place of those that it selects, without its limits and its identity: a piece of a
     * larger work, whose whole was judged before. What leaves rows out of the selection holds on.
     *
     * @param keys values, or a {@link Key} of several, at least one
     * @throws MisuseException unless rows are deleted
     */
    public Request piece(Collection<?> keys) {
        Arguments.notNull(keys, "keys");
        wants(traits().deletes(), "piece", "only what is deleted is divided");
        wants(parts.others.isEmpty(), "piece", "rows of several tables are deleted together or not at all");
        return with(changed -> {
            changed.selection = new Selection.ByKeys(KeyList.of(keys));
            changed.limits = Limits.NONE;
            changed.first = null;
            changed.order = List.of();
            changed.id = null;
        });
    }

    /** The same that came from the rule book's deletion of this name. */
    Request ofDeletion(String name, Map<String, Object> values) {
        return with(changed -> {
            changed.deletion = name;
            changed.parameters = Collections.unmodifiableMap(values);
        });
    }

    /** What it is about, without values. */
    @Override
    public String toString() {
        String more =
                parts.others.stream().map(other -> " and " + other.table()).collect(Collectors.joining());
        return parts.operation.word() + (parts.table == null ? "" : " " + parts.table) + more;
    }
}
