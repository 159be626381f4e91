package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Narrowing.Order;
import io.vacancy.schema.Row;
import java.time.Duration;
import java.util.Arrays;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.function.Predicate;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Which rows of which table are to go, how, and why. Immutable: each method that adds something returns
 * a request of its own. A request without a selection cannot be built.
 *
 * @param table as the caller wrote it; looked up when the request is used
 * @param narrowing what leaves some of the selected rows out
 * @param mode null for the table's usual mode
 * @param limits what refuses it; those of the rule book hold as well
 * @param because why, in the words of the person who asks, or null
 * @param unasked why nobody needs to be asked, or null
 * @param patience how long to wait at most for rows that somebody else holds, or null for as long as the database does
 * @param named the name of the rule book's deletion that it was made from, or null
 * @param onBlocked what happens where rows stand in the way
 * @param selectsMarked whether rows that are marked as deleted are selected as well
 * @param successor what takes the place of the selected row, or null where rows go or come back
 * @param images the images of rows that are meant instead of rows that are there, or null
 * @param archived whether images are kept of what goes, where there is a place for them
 * @param continued the receipt that this is a further part of, or null
 * @param rules rules of its own, by the written form of the relation; see {@link #rule}
 */
public record Request(
        String table,
        Selection selection,
        Narrowing narrowing,
        @Nullable Mode mode,
        Limits limits,
        @Nullable String because,
        @Nullable String unasked,
        @Nullable Duration patience,
        @Nullable String named,
        OnBlocked onBlocked,
        boolean selectsMarked,
        @Nullable Successor successor,
        @Nullable Images images,
        boolean archived,
        @Nullable String continued,
        Map<String, String> rules) {

    public Request {
        rules = Collections.unmodifiableMap(new LinkedHashMap<>(rules));
    }

    /** Starts a request: {@code Request.from("boat").key(17)}. */
    public static From from(String table) {
        return new From(table);
    }

    /** A table of which nothing has been selected yet. */
    public record From(String table) {

        /**
         * The one row with this key.
         *
         * @param key a Java value, or its text
         * @throws MisuseException if the key is null or empty
         */
        public Request key(@Nullable Object key) {
            return keys(List.of(key instanceof Key ready ? ready : Key.of(key)));
        }

        /** @see #keys(Collection) */
        public Request keys(Object... keys) {
            return keys(Arrays.asList(keys));
        }

        /**
         * The rows with these keys; one given twice counts once.
         *
         * @param keys {@link Key}s, Java values or texts
         * @throws MisuseException if there is none, or one of them is null or empty
         */
        public Request keys(Collection<?> keys) {
            return keys(KeyList.of(keys));
        }

        /** The same of a stream, which is read to its end and closed; a million keys are welcome. */
        public Request keys(Stream<?> keys) {
            return keys(KeyList.of(keys));
        }

        /** The rows with these keys. */
        public Request keys(KeyList keys) {
            if (keys.size() == 0) {
                throw new MisuseException(
                        "No key of " + table + " is given, so nothing is selected.",
                        "An empty list of keys never means every row.");
            }
            return selecting(new Selection.ByKeys(keys));
        }

        /**
         * The one row whose column has this value. Where several have it, the request is refused and shows them.
         */
        public Request matching(String column, Object value) {
            return matching(Map.of(column, value));
        }

        /** The one row with all of these values. */
        public Request matching(Map<String, Object> values) {
            return selecting(new Selection.ByMatch(values));
        }

        /** The rows for which a condition is true. */
        public Request where(Condition condition) {
            return selecting(new Selection.ByCondition(condition));
        }

        /** Every row there is, each with all that hangs on it. */
        public Request everyRow() {
            return selecting(new Selection.EveryRow(false));
        }

        /**
         * Every row there is, by emptying the table as a whole. Refused where anything refers to the table.
         * Triggers on rows may not run; the preview says so.
         */
        public Request everyRowAtOnce() {
            return selecting(new Selection.EveryRow(true));
        }

        /**
         * The rows whose parent is missing, to go.
         *
         * @param relation by which they refer to it, such as {@code fee.mooring_id}
         */
        public Request orphansOf(String relation) {
            return selecting(new Selection.Orphans(relation, false));
        }

        /** The same rows, to stay and refer to nothing. */
        public Request orphansSetNull(String relation) {
            return selecting(new Selection.Orphans(relation, true));
        }

        private Request selecting(Selection selection) {
            return new Request(
                    table,
                    selection,
                    Narrowing.NONE,
                    null,
                    Limits.NONE,
                    null,
                    null,
                    null,
                    null,
                    OnBlocked.REFUSE,
                    false,
                    null,
                    null,
                    true,
                    null,
                    Map.of());
        }
    }

    /** The parts of a request while one of them is being changed. */
    private static final class Parts {

        private Narrowing narrowing;
        private @Nullable Mode mode;
        private Limits limits;
        private @Nullable String because;
        private @Nullable String unasked;
        private @Nullable Duration patience;
        private @Nullable String named;
        private OnBlocked onBlocked;
        private boolean selectsMarked;
        private @Nullable Successor successor;
        private @Nullable Images images;
        private boolean archived;
        private @Nullable String continued;
        private Map<String, String> rules;

        Parts(Request of) {
            narrowing = of.narrowing;
            mode = of.mode;
            limits = of.limits;
            because = of.because;
            unasked = of.unasked;
            patience = of.patience;
            named = of.named;
            onBlocked = of.onBlocked;
            selectsMarked = of.selectsMarked;
            successor = of.successor;
            images = of.images;
            archived = of.archived;
            continued = of.continued;
            rules = of.rules;
        }
    }

    private Request with(Consumer<Parts> change) {
        Parts parts = new Parts(this);
        change.accept(parts);
        return new Request(
                table,
                selection,
                parts.narrowing,
                parts.mode,
                parts.limits,
                parts.because,
                parts.unasked,
                parts.patience,
                parts.named,
                parts.onBlocked,
                parts.selectsMarked,
                parts.successor,
                parts.images,
                parts.archived,
                parts.continued,
                parts.rules);
    }

    /** Only those of the selected rows for which this is true as well. */
    public Request and(Condition further) {
        return narrowed(narrowing.and(further));
    }

    /**
     * Only those of the selected rows that this code accepts. It sees each row as it stands before anything
     * goes, and again as it stands under the locks.
     */
    public Request decidedBy(Predicate<Row> accepts) {
        return narrowed(narrowing.decidedBy(accepts));
    }

    /**
     * Only the first of the selected rows, in the order of {@link #orderBy} and then of their keys.
     *
     * @param rows at least 1
     */
    public Request limit(long rows) {
        return narrowed(narrowing.limit(rows));
    }

    /** The order for {@link #limit}; said again, it adds a column that decides between equals. */
    public Request orderBy(String column) {
        return narrowed(narrowing.orderBy(new Order(column, false)));
    }

    /** The same with the greatest first. */
    public Request orderByDescending(String column) {
        return narrowed(narrowing.orderBy(new Order(column, true)));
    }

    private Request narrowed(Narrowing to) {
        if (selection instanceof Selection.EveryRow every && every.atOnce()) {
            throw new MisuseException(
                    "Table " + table + " is emptied at once, which leaves no row out.",
                    "Select by a condition, or every row that is removed one by one.");
        }
        return with(parts -> parts.narrowing = to);
    }

    /** Says why. */
    public Request because(String reason) {
        return with(parts -> parts.because = reason);
    }

    /** Removes the rows, whatever the table's usual mode is. */
    public Request erase() {
        return with(parts -> parts.mode = Mode.ERASE);
    }

    /** Marks the rows as deleted, whatever the table's usual mode is; they stay, and can be restored. */
    public Request soft() {
        return with(parts -> parts.mode = Mode.SOFT_DELETE);
    }

    /**
     * Has rows that are marked as deleted come back, with those that were marked with them. Rows that are active
     * are not among those that are selected then.
     */
    public Request restoring() {
        return with(parts -> parts.mode = Mode.RESTORE);
    }

    /**
     * Means images of rows that went, instead of rows that are there: those of the selection's table, to come back
     * or, by {@link #purging()}, to go for good. With a row there comes back what hung on it and went with it.
     */
    public Request fromArchive(Images which) {
        return with(parts -> {
            parts.images = which;
            parts.mode = Mode.RESTORE;
        });
    }

    /** Has images go for good; see {@link #fromArchive}. */
    public Request purging() {
        return with(parts -> {
            parts.images = parts.images == null ? Images.any() : parts.images;
            parts.mode = Mode.PURGE;
        });
    }

    /** Keeps no image of what goes, though there is a place for it. */
    public Request withoutArchive() {
        return with(parts -> parts.archived = false);
    }

    /**
     * Carries it out as a further part of a receipt: what belongs together and is done in several transactions can be
     * brought back by one name.
     *
     * @param receipt its identifier
     */
    public Request continuing(String receipt) {
        return with(parts -> parts.continued = receipt);
    }

    /**
     * Ends the one selected row and has a successor take its place, in one transaction; for tables of versions or
     * with end dates.
     *
     * @param values what differs from the row that ends, by column
     * @param from when the one ends and the other begins; null for now
     */
    public Request replacedBy(Map<String, @Nullable Object> values, @Nullable Object from) {
        return with(parts -> {
            parts.mode = Mode.REPLACE;
            parts.successor = new Successor(values, from);
        });
    }

    /** Selects rows that are marked as deleted as well, which are left out otherwise. */
    public Request withMarked() {
        return with(parts -> parts.selectsMarked = true);
    }

    /**
     * Says how many of the selected rows will go. Any other number refuses the request; this one makes a
     * question needless.
     */
    public Request expect(long rows) {
        return limitedTo(limits.expect(rows));
    }

    /** Refuses if more than so many selected rows would go. */
    public Request atMost(long rows) {
        return limitedTo(limits.atMost(rows));
    }

    /** Refuses if more than so many rows would go, those of other tables included. */
    public Request atMostInAll(long rows) {
        return limitedTo(limits.atMostInAll(rows));
    }

    /**
     * Refuses if more than this part of the table's rows would go.
     *
     * @param percent more than 0 and up to 100
     */
    public Request atMostPercent(double percent) {
        return limitedTo(limits.atMostPercent(percent));
    }

    /** Sets all limits at once. */
    public Request limitedTo(Limits all) {
        return with(parts -> parts.limits = all);
    }

    /** Carries the request out without asking anybody, and says why that is right. */
    public Request unasked(String why) {
        return with(parts -> parts.unasked = why);
    }

    /**
     * Limits how long to wait for rows that somebody else holds; then the outcome is busy.
     *
     * @param atMost not negative; some engines count in whole seconds and wait for at least one
     */
    public Request waitAtMost(Duration atMost) {
        if (atMost.isNegative()) {
            throw new MisuseException("Nobody can wait for " + atMost + ".");
        }
        return with(parts -> parts.patience = atMost);
    }

    /** Notes the name of the deletion of the rule book that it was made from. */
    public Request named(String name) {
        return with(parts -> parts.named = name);
    }

    /** Says what happens where rows stand in the way; refuse unless said. */
    public Request onBlocked(OnBlocked then) {
        return with(parts -> parts.onBlocked = then);
    }

    /**
     * Puts a rule in the place of those that hold on a relation, as far as the rule book permits it. The receipt
     * notes it.
     *
     * @param relation its written form, such as {@code fee.mooring_id}
     * @param rule as it is written: {@code cascade}, {@code set-null}, {@code reassign:3}, {@code block:reason} or
     *     {@code leave}; read when the request is used
     */
    public Request rule(String relation, String rule) {
        Map<String, String> more = new LinkedHashMap<>(rules);
        more.put(relation, rule);
        return with(parts -> parts.rules = more);
    }

    /**
     * Says which parent the child rows of a relation get, where the rule book leaves that to the request.
     *
     * @param key the value of the column that the relation refers to, or a {@link Key} of several
     */
    public Request reassign(String relation, Object key) {
        return rule(relation, "reassign:" + (key instanceof Key ready ? ready : Key.of(key)));
    }
}
