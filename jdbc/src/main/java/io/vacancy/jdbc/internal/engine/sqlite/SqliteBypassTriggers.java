// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.internal.engine.TriggerText;
import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.spi.WatchedTable;
import java.util.List;

/** SQLite: triggers that see what is done around Vacancy. It knows no users. */
final class SqliteBypassTriggers implements BypassTriggers {

    @Override
    public List<String> of(WatchedTable table, OwnTableScript script, boolean refusing) {
        TriggerText text = new TriggerText(table, script);
        return text.onDeletionsAndMarks(
                "OLD.? IS NOT NEW.?",
                (action, event, further) -> trigger(text, script, action, event, further, refusing));
    }

    private static String trigger(
            TriggerText text, OwnTableScript script, String action, String event, String further, boolean refusing) {
        List<String> key = text.key("?");
        String does = refusing
                ? "SELECT RAISE(ABORT, " + text.refusal() + ")"
                : "INSERT INTO " + script.name("bypass") + " (table_name, row_key, action, made_at) VALUES ("
                        + text.tableLiteral() + ", " + (key.isEmpty() ? "NULL" : String.join(" || ", key)) + ", '"
                        + action
                        + "', strftime('%Y-%m-%dT%H:%M:%fZ', 'now'))";
        return "CREATE TRIGGER " + text.name(action) + " AFTER " + event + " ON " + text.table() + " WHEN " + further
                + "NOT EXISTS (SELECT 1 FROM " + script.name("executing") + ") BEGIN " + does + "; END";
    }
}
