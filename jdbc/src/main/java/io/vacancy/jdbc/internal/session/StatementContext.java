// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/**
 * What a statement is for, so that its failure can say so.
 *
 * @param step such as "counting rows"
 * @param table the table it is about, or null
 * @param relation the relation that is followed, or null
 */
public record StatementContext(
        String step, @Nullable TableName table, @Nullable String relation) {

    public static StatementContext of(String step, TableName table) {
        return new StatementContext(step, table, null);
    }

    public static StatementContext of(String step, TableName table, @Nullable String relation) {
        return new StatementContext(step, table, relation);
    }
}
