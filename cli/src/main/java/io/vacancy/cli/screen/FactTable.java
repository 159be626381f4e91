// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import java.util.List;
import org.jspecify.annotations.Nullable;

/** What is known of something, a name and a value a line. */
final class FactTable {

    private final TextTable lines = new TextTable(false, false);
    private final TextLayout layout;

    FactTable(TextLayout layout) {
        this.layout = layout;
    }

    /** Adds a line; none where there is no value. */
    void add(String name, @Nullable Object value) {
        if (value != null) {
            lines.line().cell(name, layout.style()::quiet).cell(value.toString());
        }
    }

    List<String> lines(String indent) {
        return lines.lines(indent, layout);
    }
}
