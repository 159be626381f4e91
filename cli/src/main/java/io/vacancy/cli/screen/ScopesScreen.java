// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.access.TableScope;
import java.util.ArrayList;
import java.util.List;

/** What a scope says of every table, as lines for people. */
public final class ScopesScreen {

    private final TextLayout layout;

    public ScopesScreen(TextLayout layout) {
        this.layout = layout;
    }

    /** The lines; none where there is no scope. */
    public List<String> lines(List<TableScope> scopes) {
        if (scopes.isEmpty()) {
            return List.of();
        }
        TextTable table = new TextTable(false, false);
        scopes.forEach(scope -> table.line().cell(scope.table().toString()).cell(scope.message()));
        List<String> lines = new ArrayList<>();
        lines.add("");
        lines.add("Who works in this scope sees of each table:");
        lines.addAll(table.lines("  ", layout));
        return lines;
    }
}
