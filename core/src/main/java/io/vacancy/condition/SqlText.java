// SPDX-License-Identifier: Apache-2.0
package io.vacancy.condition;

import io.vacancy.internal.argument.Arguments;
import java.util.List;

/**
 * A condition as SQL text, to stand in a query of the application's own.
 *
 * @param text with a question mark for each value
 * @param values in the order of the question marks, as a JDBC driver takes them
 */
public record SqlText(String text, List<Object> values) {

    public SqlText {
        Arguments.notNull(text, "text");
        values = List.copyOf(Arguments.notNull(values, "values"));
    }
}
