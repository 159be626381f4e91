// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.screen;

import io.vacancy.advice.Proposal;
import io.vacancy.schema.Schema;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/** What was seen of a database, and what is to be decided of it. */
public final class InitScreen {

    private final TextLayout layout;
    private final AnsiStyle style;

    public InitScreen(TextLayout layout) {
        this.layout = layout;
        this.style = layout.style();
    }

    public List<String> lines(Path file, Schema schema, List<Proposal> proposals) {
        List<String> lines = new ArrayList<>();
        lines.add(style.settled("Written: ") + file);
        lines.add(schema.tables().size() + " tables and " + schema.relations().size()
                + " relations were looked at. Nothing was changed in the database.");
        part("Seen by name and type, and written as such", proposals, true, lines);
        part("To decide; a comment until then", proposals, false, lines);
        return lines;
    }

    private void part(String title, List<Proposal> proposals, boolean likely, List<String> lines) {
        TextTable table = new TextTable(false, false, false);
        proposals.stream().filter(each -> each.likely() == likely).forEach(each -> table.line()
                .cell(word(each), style::quiet)
                .cell(subject(each))
                .cell(each.reason(), style::quiet));
        List<String> told = table.lines("  ", layout);
        if (!told.isEmpty()) {
            lines.add("");
            lines.add(style.strong(title));
            lines.addAll(told);
        }
    }

    private static String word(Proposal proposal) {
        return switch (proposal.kind()) {
            case LABEL -> "label";
            case DATE_MARKER, FLAG_MARKER -> "marker";
            case VERSIONS -> "versions";
            case PERSONAL -> "personal";
            case RELATION -> "relation";
            case NO_KEY -> "no key";
            case SHARED_COLUMN -> "tenant?";
        };
    }

    private static String subject(Proposal proposal) {
        String columns = String.join(",", proposal.columns());
        return switch (proposal.kind()) {
            case NO_KEY -> proposal.table().toString();
            case SHARED_COLUMN -> columns;
            case RELATION ->
                proposal.table() + "." + columns + " -> " + proposal.parent() + "."
                        + String.join(",", proposal.parentColumns());
            default -> proposal.table() + "." + columns;
        };
    }
}
