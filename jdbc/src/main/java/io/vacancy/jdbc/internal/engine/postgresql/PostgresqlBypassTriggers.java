// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.internal.engine.TriggerText;
import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.spi.WatchedTable;
import java.util.ArrayList;
import java.util.List;

/** PostgreSQL: triggers that see what is done around Vacancy, TRUNCATE and its own cascades included. */
final class PostgresqlBypassTriggers implements BypassTriggers {

    /** With the rights and the search path of who makes it, so that no role needs any on the table that it writes. */
    @Override
    public List<String> before(OwnTableScript script, boolean refusing) {
        String does = refusing
                ? "RAISE EXCEPTION '%', TG_ARGV[1]"
                : "INSERT INTO " + script.name("bypass") + " (table_name, row_key, action, made_at, db_user) VALUES ("
                        + "TG_ARGV[0], told, TG_ARGV[2], to_char(clock_timestamp() AT TIME ZONE 'UTC',"
                        + " 'YYYY-MM-DD\"T\"HH24:MI:SS.US\"Z\"'), session_user)";
        return List.of("CREATE OR REPLACE FUNCTION " + function(script) + "() RETURNS trigger LANGUAGE plpgsql"
                + " SECURITY DEFINER SET search_path FROM CURRENT AS $bypass$ DECLARE told text; part text; BEGIN"
                + " IF EXISTS (SELECT 1 FROM " + script.name("executing") + ") THEN RETURN NULL; END IF;"
                + " FOR i IN 3 .. TG_NARGS - 1 LOOP part := to_jsonb(OLD) ->> TG_ARGV[i];"
                + " IF TG_NARGS > 4 THEN told := concat(told || ',', TG_ARGV[i], '=', part);"
                + " ELSE told := part; END IF; END LOOP; " + does + "; RETURN NULL; END $bypass$");
    }

    private static String function(OwnTableScript script) {
        return script.name("bypass_seen");
    }

    @Override
    public List<String> of(WatchedTable table, OwnTableScript script, boolean refusing) {
        TriggerText text = new TriggerText(table, script);
        List<String> triggers = new ArrayList<>();
        triggers.add(text.dropped("delete") + " ON " + text.table());
        triggers.add(trigger(text, "delete", "DELETE", " FOR EACH ROW", table.key(), script));
        triggers.add(text.dropped("truncate") + " ON " + text.table());
        triggers.add(trigger(text, "truncate", "TRUNCATE", " FOR EACH STATEMENT", List.of(), script));
        if (text.marked()) {
            String changed = text.changed("OLD.? IS DISTINCT FROM NEW.?");
            triggers.add(text.dropped("mark") + " ON " + text.table());
            triggers.add(trigger(text, "mark", "UPDATE", " FOR EACH ROW WHEN (" + changed + ")", table.key(), script));
        }
        return triggers;
    }

    private static String trigger(
            TriggerText text, String action, String event, String when, List<String> key, OwnTableScript script) {
        StringBuilder arguments = new StringBuilder(text.tableLiteral() + ", " + text.refusal() + ", '" + action + "'");
        key.forEach(column ->
                arguments.append(", ").append(script.dialect().syntax().literal(column)));
        return "CREATE TRIGGER " + text.name(action) + " AFTER " + event + " ON " + text.table() + when
                + " EXECUTE FUNCTION " + function(script) + "(" + arguments + ")";
    }
}
