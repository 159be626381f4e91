package io.vacancy.jdbc.removal;

import io.vacancy.jdbc.dialect.Dialect;
import io.vacancy.jdbc.session.Context;
import io.vacancy.jdbc.session.Session;
import io.vacancy.jdbc.session.Slipped;
import io.vacancy.jdbc.sql.Sql;
import io.vacancy.jdbc.walk.Report;
import io.vacancy.jdbc.walk.RowSet;
import io.vacancy.jdbc.walk.Walk;
import io.vacancy.preview.Action;
import io.vacancy.preview.Findings;
import io.vacancy.program.Deletion;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.trail.Touched;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Rows that stay and lose a link that leads nowhere. */
public final class Unlinking implements Work {

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
    @Override
    public Findings findings() {
        return new Report(walk).unlinking(relation);
    }

    @Override
    public Stream<Row> rows() {
        return walk.rows(relation.child());
    }

    @Override
    public List<Taken> takes() {
        RowSet rows = walk.doomed(relation.child());
        Map<String, Sql> written = new LinkedHashMap<>();
        relation.childColumns().stream()
                .filter(column -> rows.table().column(column).nullable())
                .forEach(column -> written.put(column, Sql.of("NULL")));
        return List.of(new Taken(rows.table(), relation.name(), rows.mayTouch(), rows.size(), null, written));
    }

    @Override
    public List<Touched> touched(int most) {
        return List.of(new Touched(
                relation.child(),
                Action.SET_NULL,
                relation.name(),
                walk.doomed(relation.child()).keys(null, most)));
    }

    /** @throws Slipped if other rows were affected than those that were found */
    @Override
    public void run(Findings found) {
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
