// SPDX-License-Identifier: Apache-2.0
package io.vacancy.request;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import java.util.Arrays;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** A request of which only the operation and the table are said: which rows comes next. Immutable. */
public final class SelectionStep {

    private final Operation operation;
    private final String table;

    SelectionStep(Operation operation, String table) {
        this.operation = operation;
        this.table = Arguments.notBlank(table, "table");
    }

    /**
     * The one row with this key.
     *
     * @param key a {@link Key}, a Java value, or its text
     * @throws MisuseException if the key is null or empty
     */
    public Request key(Object key) {
        return keys(List.of(key instanceof Key ready ? ready : Key.of(key)));
    }

    /** @see #keys(Collection) */
    public Request keys(Object... keys) {
        return keys(Arrays.asList(Arguments.noneNull(keys, "keys")));
    }

    /**
     * The rows with these keys; one given twice counts once.
     *
     * @param keys {@link Key}s, Java values or texts
     * @throws MisuseException if there is none, or one of them is null or empty
     */
    public Request keys(Collection<?> keys) {
        Arguments.noneNull(keys, "keys");
        return keys(KeyList.of(keys));
    }

    /** The same of a stream, which is read to its end and closed; a million keys are welcome. */
    public Request keys(Stream<?> keys) {
        Arguments.notNull(keys, "keys");
        return keys(KeyList.of(keys));
    }

    /** The rows with these keys. */
    public Request keys(KeyList keys) {
        return selecting(new Selection.ByKeys(keys));
    }

    /**
     * The one row whose column has this value. Where several have it, the request is refused and shows them.
     *
     * @param value not null
     */
    public Request matching(String column, Object value) {
        Arguments.notBlank(column, "column");
        return matching(Map.of(column, Arguments.notNull(value, "value")));
    }

    /** The one row with all of these values; at least one, none of them null. */
    public Request matching(Map<String, Object> values) {
        return selecting(new Selection.ByMatch(values));
    }

    /** The rows for which a condition is true. */
    public Request where(Condition condition) {
        return selecting(new Selection.ByCondition(condition));
    }

    /** Every row there is, each with all that depends on it. */
    public Request everyRow() {
        return selecting(new Selection.EveryRow());
    }

    /**
     * The rows whose parent is missing. To keep them and set their link to NULL, see {@link Request#unlinkOrphans}.
     *
     * @param relation by which they refer to it, such as {@code fee.mooring_id}
     * @throws MisuseException unless rows are deleted
     */
    public Request orphansOf(String relation) {
        if (operation instanceof Operation.Restore || operation instanceof Operation.Purge) {
            throw new MisuseException(
                    "A request to " + operation.word() + " cannot select orphans.", "Select by key or by condition.");
        }
        return selecting(new Selection.Orphans(relation));
    }

    private Request selecting(Selection selection) {
        return Request.of(new RequestParts(operation, table, selection));
    }
}
