// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.Finding;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.jdbc.internal.traversal.TraversalImpact;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.preview.Impact;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ExecutionPlan;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Rows that stay and lose a link that leads nowhere. */
public final class SetNullOperation implements StoreOperation {

    private final Session session;
    private final Dialect dialect;
    private final RelationTraversal traversal;
    private final Relation relation;

    public SetNullOperation(Session session, ExecutionPlan deletion, Relation relation, Finding finding) {
        this.session = session;
        this.dialect = session.dialect();
        this.traversal = new RelationTraversal(session, deletion, finding);
        this.relation = relation;
        traversal.select();
    }

    /** What would be changed. */
    @Override
    public Impact impact() {
        return new TraversalImpact(traversal).unlinking(relation);
    }

    @Override
    public Stream<Row> rows() {
        return traversal.rows(relation.child());
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        KeySet rows = traversal.rowsToDelete(relation.child());
        if (!rows.table().identity().lasts()) {
            return List.of();
        }
        Map<String, Sql> written = new LinkedHashMap<>();
        relation.childColumns().stream()
                .filter(column -> rows.table().column(column).nullable())
                .forEach(column -> written.put(column, Sql.of("NULL")));
        return List.of(RowsToArchive.links(rows.table(), relation.name(), rows.mayTouch(), rows.size(), written));
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        return List.of(new AffectedKeys(
                relation.child(),
                Action.SET_NULL,
                relation.name(),
                traversal.rowsToDelete(relation.child()).keys(null, most)));
    }

    /** @throws ConcurrentChangeException if other rows were affected than those that were found */
    @Override
    public void run(Impact found) {
        KeySet rows = traversal.rowsToDelete(relation.child());
        Table child = rows.table();
        String assignments = relation.childColumns().stream()
                .filter(column -> child.column(column).nullable())
                .map(column -> dialect.syntax().quote(column) + " = NULL")
                .collect(Collectors.joining(", "));
        Sql update = Sql.of(dialect.syntax().update(dialect.syntax().table(child.name())) + assignments + " WHERE ")
                .add(rows.mayTouch());
        long changed = session.update(update, StatementContext.of("setting null in", child.name(), relation.name()));
        if (changed != rows.size()) {
            throw new ConcurrentChangeException("Of " + rows.size() + " rows found in " + child + ", " + changed
                    + " were still the same when they were to be changed.");
        }
    }
}
