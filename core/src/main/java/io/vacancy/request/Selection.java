package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Which rows of one table are meant. */
public sealed interface Selection {

    /**
     * The rows with these keys. A key given twice counts once.
     *
     * @param keys at least one
     */
    record ByKeys(KeyList keys) implements Selection {}

    /**
     * The one row with these values; several such rows refuse the request.
     *
     * @param values by column name, at least one, in the order in which they were given
     */
    record ByMatch(Map<String, Object> values) implements Selection {
        public ByMatch {
            if (values.isEmpty()) {
                throw new MisuseException("Nothing is given that a row could match.");
            }
            values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
        }

        /** The same as a condition. */
        public Condition condition() {
            Condition all = new Condition.All(List.of());
            for (Map.Entry<String, Object> value : values.entrySet()) {
                all = all.and(new Condition.Compare(value.getKey(), Condition.Comparison.EQUAL, value.getValue()));
            }
            return all;
        }
    }

    /** The rows for which a condition is true. */
    record ByCondition(Condition condition) implements Selection {}

    /**
     * Every row there is.
     *
     * @param atOnce whether the table is to be emptied as a whole, by the fastest way that the engine can undo
     */
    record EveryRow(boolean atOnce) implements Selection {}

    /**
     * The rows whose parent is missing.
     *
     * @param relation the relation by which they refer to it, in its written form
     * @param setNull whether the rows are to stay and refer to nothing, instead of going
     */
    record Orphans(String relation, boolean setNull) implements Selection {}
}
