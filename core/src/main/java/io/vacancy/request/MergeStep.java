// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** The start of a request that merges one row of a table into another: which row is merged has to be said first. */
public final class MergeStep {

    private final String table;

    MergeStep(String table) {
        this.table = table;
    }

    /**
     * The row with this key.
     *
     * @param key a {@link Key}, a Java value, or its text
     */
    public Row key(Object key) {
        return new Row(new Selection.ByKeys(KeyList.of(List.of(read(key)))), Set.of());
    }

    /** The one row with all of these values; at least one, none of them null. */
    public Row matching(Map<String, Object> values) {
        return new Row(new Selection.ByMatch(values), Set.of());
    }

    private static Key read(Object key) {
        return key instanceof Key ready ? ready : Key.of(key);
    }

    /** The row that is merged is said; the one that stays comes next. */
    public final class Row {

        private final Selection selection;
        private final Set<String> duplicates;

        private Row(Selection selection, Set<String> duplicates) {
            this.selection = selection;
            this.duplicates = duplicates;
        }

        /**
         * Child rows of these relations are deleted where they would share a unique key with one that the row which
         * stays has already, by the rules of an erasure. All others that would collide block the merge.
         *
         * @param relations in their written form, such as {@code permit.skipper_id}
         */
        public Row deletingDuplicates(String... relations) {
            Set<String> all = new LinkedHashSet<>(duplicates);
            all.addAll(Arrays.asList(Arguments.noneNull(relations, "relations")));
            return new Row(selection, all);
        }

        /**
         * The row that stays, and gets every child row of the one that is merged.
         *
         * @param key a {@link Key}, a Java value, or its text
         */
        public Request into(Object key) {
            Operation merge = new Operation.Merge(read(key), new ArrayList<>(duplicates));
            return Request.of(new RequestParts(merge, table, selection));
        }
    }
}
