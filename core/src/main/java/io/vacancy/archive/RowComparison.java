// SPDX-License-Identifier: Apache-2.0
package io.vacancy.archive;

import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Row;
import java.math.BigDecimal;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A row as it was archived, and what stands under its key now.
 *
 * @param was as it was when it was deleted
 * @param now as it is, or null where there is none, or none that the actor may see
 * @param state how the one stands to the other
 * @param keyColumns the columns of the key by which it was looked for; none for a table without one
 */
public record RowComparison(Row was, @Nullable Row now, State state, List<String> keyColumns) {

    /** How a row stands to its image. */
    public enum State {
        /** No row has the key. */
        GONE("gone"),
        /** The row with the key has the same values in all columns. */
        SAME("same"),
        /** The row with the key has other values, or other columns. */
        CHANGED("changed"),
        /** The table has no key by which a row could be found again. */
        NO_KEY("no-key");

        private final String word;

        State(String word) {
            this.word = word;
        }

        /** The written form, such as {@code no-key}. */
        public String word() {
            return word;
        }
    }

    public RowComparison {
        Arguments.notNull(was, "was");
        Arguments.notNull(state, "state");
        keyColumns = List.copyOf(Arguments.noneNull(keyColumns, "keyColumns"));
    }

    /** An image beside the row with its key, or beside none. */
    public static RowComparison of(Row was, @Nullable Row now, List<String> keyColumns) {
        Arguments.notNull(was, "was");
        State state = now == null ? State.GONE : differing(was, now).isEmpty() ? State.SAME : State.CHANGED;
        return new RowComparison(was, now, state, keyColumns);
    }

    /** An image of a table without a key. */
    public static RowComparison withoutKey(Row was) {
        return new RowComparison(was, null, State.NO_KEY, List.of());
    }

    /** The key in the order of its columns; empty for a table without one. */
    public Map<String, @Nullable Object> key() {
        Map<String, @Nullable Object> key = new LinkedHashMap<>();
        keyColumns.forEach(column -> key.put(column, was.get(column)));
        return key;
    }

    /** The columns whose values differ, or that only one of the rows has; none where there is no row now. */
    public List<String> differing() {
        return now == null ? List.of() : differing(was, now);
    }

    private static List<String> differing(Row was, Row now) {
        Set<String> columns = new LinkedHashSet<>(was.values().keySet());
        columns.addAll(now.values().keySet());
        return columns.stream()
                .filter(column ->
                        was.values().containsKey(column) != now.values().containsKey(column)
                                || !same(was.get(column), now.get(column)))
                .toList();
    }

    /** 1.50 and 1.5 are the same number. */
    private static boolean same(@Nullable Object one, @Nullable Object other) {
        return one instanceof BigDecimal first && other instanceof BigDecimal second
                ? first.compareTo(second) == 0
                : Objects.equals(one, other);
    }
}
