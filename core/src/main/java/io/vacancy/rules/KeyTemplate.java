// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.internal.argument.Arguments;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * A text with values of a row's key in it, {@code skipper {id}}: the same for a row whenever it is made, and another for
 * every other row.
 *
 * @param parts texts and columns of the key, in order
 */
public record KeyTemplate(List<Part> parts) {

    public KeyTemplate {
        parts = List.copyOf(Arguments.noneNull(parts, "parts"));
    }

    /**
     * A text, and the column whose value follows it.
     *
     * @param column a column of the row's key, or null where the text is the last part
     */
    public record Part(String text, @Nullable String column) {
        public Part {
            Arguments.notNull(text, "text");
        }
    }

    /** As it is written in a rule book. */
    @Override
    public String toString() {
        return parts.stream()
                .map(part -> part.text() + (part.column() == null ? "" : "{" + part.column() + "}"))
                .collect(Collectors.joining());
    }
}
