// SPDX-License-Identifier: Apache-2.0
package io.vacancy.schema;

import io.vacancy.internal.argument.Arguments;
import java.util.List;

/**
 * A primary or unique key.
 *
 * @param columns the names of its columns, in key order
 */
public record UniqueKey(String name, List<String> columns) {

    public UniqueKey {
        Arguments.notNull(name, "name");
        Arguments.noneNull(columns, "columns");
        columns = List.copyOf(columns);
    }
}
