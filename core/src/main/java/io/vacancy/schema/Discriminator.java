// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;

/**
 * What tells the rows of a child table that refer to one parent table from those that refer to another by the same columns:
 * a column beside the link that names the kind of parent.
 *
 * @param column of the child table
 * @param value what it holds in the rows that refer, of the column's kind
 */
public record Discriminator(Column column, Object value) {

    public Discriminator {
        Arguments.notNull(column, "column");
        Arguments.notNull(value, "value");
    }

    /** As it stands in the written form of a relation: {@code subject_type='boat'}. */
    @Override
    public String toString() {
        return column.name() + "='" + value.toString().replace("'", "''") + "'";
    }
}
