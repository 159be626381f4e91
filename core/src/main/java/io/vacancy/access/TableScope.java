// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a scope says of one table.
 *
 * @param condition what holds for the rows that are there; null where all are, and where none is
 * @param closed whether nobody has said who may see the table, so that nothing of it is there
 */
public record TableScope(TableName table, @Nullable Condition condition, boolean closed) {

    public TableScope {
        Arguments.notNull(table, "table");
    }

    /**
     * What it says of every table, in their order.
     *
     * @throws io.vacancy.failure.MisuseException if the scope speaks of what is not there
     */
    public static List<TableScope> of(Scope scope, Schema schema) {
        Arguments.notNull(scope, "scope");
        Arguments.notNull(schema, "schema");
        Scope known = scope.in(schema);
        return schema.tables().stream().map(table -> of(table, known)).toList();
    }

    private static TableScope of(Table table, Scope scope) {
        return scope.closed(table.name())
                ? new TableScope(table.name(), null, true)
                : new TableScope(table.name(), scope.on(table), false);
    }

    /** In a few words: {@code closed}, {@code open to all}, {@code where harbour_id = 7}. */
    public String message() {
        return closed ? "closed" : condition == null ? "open to all" : "where " + ConditionText.of(condition);
    }
}
