// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.archive.Hold;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Blocker;
import io.vacancy.schema.Column;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.ArrayList;
import java.util.List;

/** Rows that a hold is on. */
public final class HeldRows {

    private HeldRows() {}

    /** That a hold is on the row under an alias, for a hold on its table or on a row of it. */
    public static Sql which(Hold hold, Table table, Dialect dialect, String alias) {
        Sql which = Sql.of("1 = 1");
        List<String> key = table.identity().columns();
        for (int i = 0; i < hold.key().size(); i++) {
            Column column = table.column(key.get(i));
            which.add(" AND " + alias + "." + dialect.syntax().quote(column.name()) + " = ")
                    .bind(column.read(hold.key().get(i), table.name()), column.type());
        }
        return which;
    }

    /** What holds on rows of a table stand against taking all of them away. */
    public static List<Blocker> blockers(Session session, ExecutionPlan plan, Table table) {
        List<Blocker> blockers = new ArrayList<>();
        Rows rows = new Rows(session, table);
        for (Hold hold : plan.holds()) {
            if (table.name().toString().equals(hold.table())) {
                Sql which = which(hold, table, session.dialect(), "t");
                StatementContext context = StatementContext.of("looking for held rows of", table.name());
                long held = session.number(
                        Sql.of("SELECT COUNT(*) FROM "
                                        + session.dialect().syntax().table(table.name()) + " t WHERE ")
                                .add(which),
                        context);
                if (held > 0) {
                    blockers.add(new Blocker(
                            table.name(),
                            null,
                            held,
                            reason(hold),
                            rows.first(Samples.ROWS, which, context),
                            List.of()));
                }
            }
        }
        return blockers;
    }

    /** Why such a row stays. */
    public static String reason(Hold hold) {
        return "held by " + hold.by() + ": " + hold.because();
    }
}
