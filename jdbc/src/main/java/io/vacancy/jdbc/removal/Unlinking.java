package io.vacancy.jdbc.removal;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.session.Slipped;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.jdbc.walk.Report;
import io.vacancy.jdbc.walk.RowSet;
import io.vacancy.jdbc.walk.Walk;
import io.vacancy.preview.Findings;
import io.vacancy.program.Deletion;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import java.util.Objects;
import java.util.stream.Collectors;

/** Rows that stay and lose a link that leads nowhere. */
public final class Unlinking {

    private final Session session;
    private final Dialect dialect;
    private final Walk walk;
    private final Relation relation;

    public Unlinking(Session session, Deletion deletion, boolean lock) {
        this.session = session;
        this.dialect = session.dialect();
        this.walk = new Walk(session, deletion, lock);
        this.relation = Objects.requireNonNull(deletion.target().orphansOf());
        walk.select();
    }

    /** What would be changed. */
    public Findings findings() {
        return new Report(walk).unlinking(relation);
    }

    /** @throws Slipped if other rows were affected than those that were found */
    public void run() {
        RowSet rows = walk.doomed(relation.child());
        Table child = rows.table();
        String assignments = relation.childColumns().stream()
                .filter(column -> child.column(column).nullable())
                .map(column -> dialect.quote(column) + " = NULL")
                .collect(Collectors.joining(", "));
        Sql update = Sql.of("UPDATE " + dialect.table(child.name()) + " AS t SET " + assignments + " WHERE ")
                .add(rows.mayTouch());
        long changed = session.update(update, Context.of("setting null in", child.name(), relation.name()));
        if (changed != rows.size()) {
            throw new Slipped("Of " + rows.size() + " rows found in " + child + ", " + changed
                    + " were still the same when they were to be changed.");
        }
    }
}
