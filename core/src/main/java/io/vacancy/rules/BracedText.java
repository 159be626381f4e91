// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import java.util.ArrayList;
import java.util.List;
import java.util.function.UnaryOperator;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** A text with columns in braces, as a rule book writes labels and pseudonyms. */
record BracedText(List<Part> parts) {

    private static final Pattern COLUMN = Pattern.compile("\\{([^{}]*)}");

    /** A text, and the column whose value follows it; null behind the last. */
    record Part(String text, @Nullable String column) {}

    /** @param spelled the column's own name by what stands in the braces */
    static BracedText read(String written, UnaryOperator<String> spelled) {
        List<Part> parts = new ArrayList<>();
        Matcher columns = COLUMN.matcher(written);
        int from = 0;
        while (columns.find()) {
            parts.add(new Part(written.substring(from, columns.start()), spelled.apply(columns.group(1))));
            from = columns.end();
        }
        parts.add(new Part(written.substring(from), null));
        return new BracedText(parts);
    }

    /** Whether a brace stands somewhere that encloses no column. */
    boolean open() {
        return parts.stream()
                .anyMatch(part -> part.text().contains("{") || part.text().contains("}"));
    }
}
