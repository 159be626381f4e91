// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A replacement of which only the table is said. The row that ends comes next, then what its successor has, then when:
 * {@code Request.replace("berth_contract").key(4).with(Map.of("rent", 790)).from(day)}. Immutable.
 */
public final class ReplacementStep {

    private final String table;

    ReplacementStep(String table) {
        this.table = table;
    }

    /**
     * The row with this key.
     *
     * @param key a {@link Key}, a Java value, or its text
     */
    public Row key(Object key) {
        return new Row(new Selection.ByKeys(KeyList.of(List.of(key instanceof Key ready ? ready : Key.of(key)))));
    }

    /** The one row with all of these values; at least one, none of them null. */
    public Row matching(Map<String, Object> values) {
        return new Row(new Selection.ByMatch(values));
    }

    /** The row for which a condition is true; several refuse the request. */
    public Row where(Condition condition) {
        return new Row(new Selection.ByCondition(condition));
    }

    /** The row that ends is said; what its successor has comes next. */
    public final class Row {

        private final Selection selection;

        private Row(Selection selection) {
            this.selection = selection;
        }

        /**
         * What the successor has instead of what the row has.
         *
         * @param values by column; a value may be null, and there may be none; everything else is taken over
         */
        public Start with(Map<String, ? extends @Nullable Object> values) {
            Arguments.named(values, "values");
            return new Start(selection, new LinkedHashMap<>(values));
        }
    }

    /** All is said but when the one ends and the other begins. */
    public final class Start {

        private final Selection selection;
        private final Map<String, @Nullable Object> values;

        private Start(Selection selection, Map<String, @Nullable Object> values) {
            this.selection = selection;
            this.values = values;
        }

        /**
         * On this day, or at this time.
         *
         * @param start a Java value of the column's kind, or its text
         * @throws MisuseException if it is null or blank
         */
        public Request from(Object start) {
            if (Arguments.notNull(start, "from").toString().isBlank()) {
                throw new MisuseException("The argument from is blank.", "Give a date or time, or say fromNow().");
            }
            return request(start);
        }

        /** Whenever it is executed. */
        public Request fromNow() {
            return request(null);
        }

        private Request request(@Nullable Object start) {
            return Request.of(new RequestParts(new Operation.Replace(values, start), table, selection));
        }
    }
}
