// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.schema.Column;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.MarkerPredicates;
import java.util.stream.Collectors;

/** Versions that have not begun yet: they stay when the current one is marked, and would come into force. */
final class LaterVersions {

    private LaterVersions() {}

    /** How many there are of the rows of a table that are marked. */
    static long of(RelationTraversal traversal, TableName name) {
        MarkerPredicates marked = traversal.plan().marked().get(name);
        KeySet rows = traversal.rowsToDelete(name);
        if (marked == null
                || rows.size() == 0
                || !(marked.active() instanceof Condition.All all)
                || !(all.parts().get(0) instanceof Condition.Latest latest)) {
            return 0;
        }
        Column start = rows.table().column(latest.start());
        String same = latest.of().stream()
                .map(traversal.session().dialect().syntax()::quote)
                .map(column -> "t." + column + " = o." + column)
                .collect(Collectors.joining(" AND "));
        String table = traversal.session().dialect().syntax().table(name);
        Sql later = Sql.of("SELECT COUNT(*) FROM " + table + " o WHERE o."
                        + traversal.session().dialect().syntax().quote(start.name()) + " > ")
                .add(traversal.terms().moment(RelativeTime.nowIn(start), start))
                .add(" AND EXISTS (SELECT 1 FROM " + table + " t WHERE " + same + " AND ")
                .add(rows.contains("t"))
                .add(")");
        return traversal.session().number(later, StatementContext.of("looking for later versions in", name));
    }
}
