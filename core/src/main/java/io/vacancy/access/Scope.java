// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
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
     * The same on the tables of a database, held against them.
     *
     * @throws MisuseException if it speaks of what is not there
     */
    default Scope in(Schema schema) {
        return this;
    }

    /** Whether nobody has said who may see a table, so that it cannot even be asked for. */
    default boolean closed(TableName table) {
        return false;
    }

    /**
     * The rows whose column has this value, such as one tenant's. The column is known in any case in which only one can
     * be meant; that no table has it is an error at the first use. Tables without the column are closed until
     * {@link ColumnScope#through} or {@link ColumnScope#open} says otherwise.
     */
    static ColumnScope where(String column, Object value) {
        Arguments.notBlank(column, "column");
        Arguments.notNull(value, "value");
        return new ColumnScope(column, value);
    }
}
