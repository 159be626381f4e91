package io.vacancy.request;

import io.vacancy.failure.MisuseException;
import java.time.Duration;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Which rows of which table are to go, how, and why. Immutable: each method that adds something returns
 * a request of its own. A request without a selection cannot be built.
 *
 * @param table as the caller wrote it; looked up when the request is used
 * @param mode null for the table's usual mode
 * @param because why, in the words of the person who asks, or null
 * @param expect how many selected rows the caller is sure of, or null; another number refuses the request
 * @param unasked why nobody needs to be asked, or null
 * @param patience how long to wait at most for rows that somebody else holds, or null for as long as the database does
 */
public record Request(
        String table,
        Selection selection,
        @Nullable Mode mode,
        @Nullable String because,
        @Nullable Long expect,
        @Nullable String unasked,
        @Nullable Duration patience) {

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
            if (keys.isEmpty()) {
                throw new MisuseException(
                        "No key of " + table + " is given, so nothing is selected.",
                        "An empty list of keys never means every row.");
            }
            List<Key> given = keys.stream()
                    .map(key -> key instanceof Key ready ? ready : Key.of(key))
                    .toList();
            return new Request(table, new Selection.ByKeys(given), null, null, null, null, null);
        }
    }

    /** Says why. */
    public Request because(String reason) {
        return new Request(table, selection, mode, reason, expect, unasked, patience);
    }

    /** Removes the rows, whatever the table's usual mode is. */
    public Request erase() {
        return new Request(table, selection, Mode.ERASE, because, expect, unasked, patience);
    }

    /**
     * Says how many of the selected rows will go. Any other number refuses the request; this one makes a
     * question needless.
     */
    public Request expect(long rows) {
        return new Request(table, selection, mode, because, rows, unasked, patience);
    }

    /** Carries the request out without asking anybody, and says why that is right. */
    public Request unasked(String why) {
        return new Request(table, selection, mode, because, expect, why, patience);
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
        return new Request(table, selection, mode, because, expect, unasked, atMost);
    }
}
