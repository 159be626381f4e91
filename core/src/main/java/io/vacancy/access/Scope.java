// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Table;
import org.jspecify.annotations.Nullable;

/**
 * What a caller may see and touch: a condition on the rows of each table, which stands in every query. Rows
 * outside it are not there for the caller; a rule that would reach one blocks, without telling what it met.
 */
@FunctionalInterface
public interface Scope {

    /** The condition on a table's rows, or null where every row is inside. */
    @Nullable
    Condition on(Table table);

    /** Every row of every table. */
    static Scope everything() {
        return table -> null;
    }

    /**
     * The rows whose column has this value, in all tables that have the column, such as one tenant's; tables
     * without it are shared.
     */
    static Scope where(String column, Object value) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(value, "value");
        return table -> table.has(column) ? ColumnRef.column(column).equalTo(value) : null;
    }
}
