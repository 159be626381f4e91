// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.trail;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.tables.BypassTableModule;
import io.vacancy.jdbc.internal.tables.OwnTableRegistry;
import io.vacancy.jdbc.internal.tables.OwnTableState;
import io.vacancy.jdbc.spi.BypassTriggers;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.spi.WatchedTable;
import io.vacancy.trail.Bypass;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;

/** What triggers see of deletions around Vacancy, and how they know Vacancy's own. */
public record BypassTable(OwnTableState state) {

    private static final StatementContext READING =
            new StatementContext("reading what was done around Vacancy", null, null);
    private static final StatementContext COVERING =
            new StatementContext("telling triggers of the receipt", null, null);

    /** The statements that make the triggers, and the tables where they are not there yet. */
    public List<String> script(List<WatchedTable> tables, boolean refusing) {
        Dialect dialect = state.dialect();
        OwnTableScript script = new OwnTableScript(state.tables(), dialect);
        BypassTriggers triggers = dialect.bypassTriggers();
        List<String> statements = new ArrayList<>();
        tables.forEach(table -> statements.addAll(triggers.of(table, script, refusing)));
        if (statements.isEmpty()) {
            return List.of();
        }
        statements.addAll(0, triggers.before(script, refusing));
        if (!state.has(BypassTableModule.NAME)) {
            statements.addAll(0, OwnTableRegistry.script(state.tables(), dialect, new BypassTableModule()));
        }
        return statements;
    }

    /** What they have recorded, newest first. */
    public List<Bypass> recorded(Session session, int most) {
        if (!state.has(BypassTableModule.NAME)) {
            return List.of();
        }
        return session.query(
                Sql.of("SELECT table_name, row_key, action, made_at, db_user FROM " + name("bypass")
                        + " ORDER BY bypass_no DESC" + state.dialect().syntax().firstRows(most)),
                READING,
                row -> new Bypass(
                        row.getString(1),
                        row.getString(2),
                        row.getString(3),
                        Instant.parse(row.getString(4)),
                        row.getString(5)));
    }

    /** From here on the transaction's changes belong to a receipt. */
    public void cover(Session session, String receipt) {
        if (state.has(BypassTableModule.NAME)) {
            session.update(
                    Sql.of("INSERT INTO " + name("executing") + " (receipt_id) VALUES (")
                            .bind(receipt, OwnTables.TEXT)
                            .add(")"),
                    COVERING);
        }
    }

    /** What follows in the transaction is the caller's. */
    public void uncover(Session session, String receipt) {
        if (state.has(BypassTableModule.NAME)) {
            session.update(
                    Sql.of("DELETE FROM " + name("executing") + " WHERE receipt_id = ")
                            .bind(receipt, OwnTables.TEXT),
                    COVERING);
        }
    }

    private String name(String table) {
        return state.dialect().syntax().table(state.tables().table(table));
    }
}
