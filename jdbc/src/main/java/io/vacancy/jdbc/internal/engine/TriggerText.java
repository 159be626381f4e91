// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine;

import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.spi.WatchedTable;
import java.util.ArrayList;
import java.util.List;

/** What triggers of all engines are put together from. */
public record TriggerText(WatchedTable watched, OwnTableScript script) {

    private static final int LONGEST_NAME = 60;

    private Syntax syntax() {
        return script.dialect().syntax();
    }

    /** The name of a trigger, quoted; engines cut names of more than 63 characters, or refuse them. */
    public String name(String action) {
        String table = watched.table().name().name();
        String begin = script.tables().prefix() + BypassTriggers.NAME;
        int left = LONGEST_NAME - begin.length() - action.length() - 10;
        String cut =
                table.length() <= left ? table : table.substring(0, left) + "_" + Integer.toHexString(table.hashCode());
        return syntax().quote(begin + cut + "_" + action);
    }

    /** Writes one trigger: what it is called after, on which event it fires, and what must hold besides. */
    public interface Trigger {
        String of(String action, String event, String further);
    }

    /**
     * A trigger on deletions, and one on changes of the marker where there is one; each takes an earlier one away first.
     *
     * @param differs that a column, in the place of the question mark, is changed
     */
    public List<String> onDeletionsAndMarks(String differs, Trigger trigger) {
        List<String> triggers = new ArrayList<>(List.of(dropped("delete"), trigger.of("delete", "DELETE", "")));
        if (marked()) {
            triggers.add(dropped("mark"));
            triggers.add(trigger.of("mark", "UPDATE", "(" + changed(differs) + ") AND "));
        }
        return triggers;
    }

    /** What takes an earlier one away. */
    public String dropped(String action) {
        return "DROP TRIGGER IF EXISTS " + name(action);
    }

    /** The table, as it stands after ON. */
    public String table() {
        return syntax().table(watched.table().name());
    }

    /** The table's name as a literal. */
    public String tableLiteral() {
        return syntax().literal(watched.table().toString());
    }

    /** What is told of a refusal, as a literal. */
    public String refusal() {
        return syntax().literal("Rows of " + watched.table()
                + " are deleted and marked through Vacancy only, and no receipt covers this.");
    }

    /** Parts of the key of the row as it was, to be put together; no parts where it is not written down. */
    public List<String> key(String text) {
        List<String> parts = new ArrayList<>();
        for (String column : watched.key()) {
            if (watched.key().size() > 1) {
                parts.add(syntax().literal((parts.isEmpty() ? "" : ",") + column + "="));
            }
            parts.add(text.replace("?", "OLD." + syntax().quote(column)));
        }
        return parts;
    }

    /** That one of the marker's columns is changed; null where there are none. */
    public String changed(String differs) {
        List<String> changes = new ArrayList<>();
        for (String column : watched.marker()) {
            changes.add(differs.replace("?", syntax().quote(column)));
        }
        return String.join(" OR ", changes);
    }

    /** Whether the table has a marker whose columns are watched. */
    public boolean marked() {
        return !watched.marker().isEmpty();
    }
}
