// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.ArrayList;
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
    record ByKeys(KeyList keys) implements Selection {
        public ByKeys {
            if (Arguments.notNull(keys, "keys").size() == 0) {
                throw new MisuseException(
                        "No key is given, so nothing is selected.", "An empty list of keys never means every row.");
            }
        }
    }

    /**
     * The one row with these values; several such rows refuse the request.
     *
     * @param values by column name, at least one, none of them null, in the order in which they were given
     */
    record ByMatch(Map<String, Object> values) implements Selection {
        public ByMatch {
            if (Arguments.named(values, "values").isEmpty()) {
                throw new MisuseException(
                        "No value is given to match, so nothing is selected.", "Give a column and its value.");
            }
            values.forEach((column, value) -> Arguments.notNull(value, "value of " + column));
            values = Collections.unmodifiableMap(new LinkedHashMap<>(values));
        }

        /** The same as a condition. */
        public Condition condition() {
            List<Condition> all = new ArrayList<>();
            values.forEach(
                    (column, value) -> all.add(new Condition.Compare(column, Condition.Comparison.EQUAL, value)));
            return all.size() == 1 ? all.get(0) : new Condition.All(all);
        }
    }

    /** The rows for which a condition is true. */
    record ByCondition(Condition condition) implements Selection {
        public ByCondition {
            Arguments.notNull(condition, "condition");
        }
    }

    /** Every row there is. */
    record EveryRow() implements Selection {}

    /**
     * The rows whose parent is missing.
     *
     * @param relation the relation by which they refer to it, in its written form
     */
    record Orphans(String relation) implements Selection {
        public Orphans {
            Arguments.notBlank(relation, "relation");
        }
    }
}
