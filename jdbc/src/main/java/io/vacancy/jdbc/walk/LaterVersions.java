package io.vacancy.jdbc.walk;

import io.vacancy.condition.Condition;
import io.vacancy.condition.Moment;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.program.Marked;
import io.vacancy.schema.Column;
import io.vacancy.schema.TableName;
import java.util.stream.Collectors;

/** Versions that have not begun yet: they stay when the current one is marked, and would come into force. */
final class LaterVersions {

    private LaterVersions() {}

    /** How many there are of the rows of a table that are marked. */
    static long of(Walk walk, TableName name) {
        Marked marked = walk.marked(name);
        RowSet rows = walk.doomed(name);
        if (marked == null
                || rows.size() == 0
                || !(marked.active() instanceof Condition.All all)
                || !(all.parts().get(0) instanceof Condition.Latest latest)) {
            return 0;
        }
        Column start = rows.table().column(latest.start());
        String same = latest.of().stream()
                .map(walk.session().dialect()::quote)
                .map(column -> "t." + column + " = o." + column)
                .collect(Collectors.joining(" AND "));
        String table = walk.session().dialect().table(name);
        Sql later = Sql.of("SELECT COUNT(*) FROM " + table + " o WHERE o."
                        + walk.session().dialect().quote(start.name()) + " > ")
                .add(walk.terms().moment(Moment.nowIn(start), start))
                .add(" AND EXISTS (SELECT 1 FROM " + table + " t WHERE " + same + " AND ")
                .add(rows.contains("t"))
                .add(")");
        return walk.session().number(later, Context.of("looking for later versions in", name));
    }
}
