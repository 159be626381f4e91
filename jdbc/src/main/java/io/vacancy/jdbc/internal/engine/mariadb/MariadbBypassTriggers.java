// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.internal.engine.TriggerText;
import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.spi.WatchedTable;
import java.util.List;

/** MariaDB: triggers that see what is done around Vacancy. Its own cascades and TRUNCATE run none. */
final class MariadbBypassTriggers implements BypassTriggers {

    @Override
    public List<String> of(WatchedTable table, OwnTableScript script, boolean refusing) {
        TriggerText text = new TriggerText(table, script);
        return text.onDeletionsAndMarks(
                "NOT (OLD.? <=> NEW.?)",
                (action, event, further) -> trigger(text, script, action, event, further, refusing));
    }

    /** A query in IF locks nothing; one behind INSERT would. */
    private static String trigger(
            TriggerText text, OwnTableScript script, String action, String event, String further, boolean refusing) {
        List<String> key = text.key("?");
        String does = refusing
                ? "SIGNAL SQLSTATE '45000' SET MESSAGE_TEXT = " + text.refusal()
                : "INSERT INTO " + script.name("bypass") + " (table_name, row_key, action, made_at, db_user) VALUES ("
                        + text.tableLiteral() + ", "
                        + (key.isEmpty() ? "NULL" : "CONCAT(" + String.join(", ", key) + ")")
                        + ", '" + action + "', DATE_FORMAT(UTC_TIMESTAMP(6), '%Y-%m-%dT%H:%i:%s.%fZ'), USER())";
        return "CREATE TRIGGER " + text.name(action) + " AFTER " + event + " ON " + text.table()
                + " FOR EACH ROW IF " + further + "NOT EXISTS (SELECT 1 FROM " + script.name("executing") + ") THEN "
                + does + "; END IF";
    }
}
