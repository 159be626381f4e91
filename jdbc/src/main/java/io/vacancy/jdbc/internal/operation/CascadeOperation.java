// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.ArchivedMarks;
import io.vacancy.jdbc.internal.traversal.Finding;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.NewValue;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.jdbc.internal.traversal.TraversalImpact;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Rows that are found along relations, and go, are marked, come back or end. */
public final class CascadeOperation implements StoreOperation {

    private final Session session;
    private final RelationTraversal traversal;
    private final ArchivedMarks marks;
    private final TraversalImpact report;

    /**
     * @param finding what is to hold of the rows that are found
     * @param marks what the archive has of rows that are marked, for some that come back
     */
    public CascadeOperation(Session session, ExecutionPlan deletion, Finding finding, ArchivedMarks marks) {
        this.session = session;
        this.marks = marks;
        this.traversal = new RelationTraversal(session, deletion, finding, marks);
        traversal.run();
        this.report = new TraversalImpact(traversal);
    }

    @Override
    public Impact impact() {
        return marks.judged(report.impact());
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        List<RowsToArchive> takes = new ArrayList<>();
        List<TableName> roots = traversal.program().roots();
        roots.forEach(root -> going(root, takes));
        traversal.program().tables().stream()
                .filter(table -> !roots.contains(table))
                .forEach(table -> going(table, takes));
        traversal.changed().forEach((branch, rows) -> {
            // Rows without a key could not be found again.
            boolean changes = rows.size() > 0 && !(branch.action() instanceof RuleAction.Keep);
            if (changes && rows.table().identity().lasts()) {
                Map<String, Sql> written = NewValue.of(branch, traversal);
                String relation = branch.relation().name();
                takes.add(
                        branch.action() instanceof RuleAction.Blank
                                ? RowsToArchive.values(rows.table(), relation, rows.mayTouch(), rows.size(), written)
                                : RowsToArchive.links(rows.table(), relation, rows.mayTouch(), rows.size(), written));
            }
        });
        return takes;
    }

    private void going(TableName table, List<RowsToArchive> takes) {
        KeySet rows = traversal.rowsToDelete(table);
        OperationKind mode = traversal.program().mode(table);
        MarkerPredicates marker = traversal.plan().marked().get(table);
        if (mode == OperationKind.SOFT_DELETE
                && marker != null
                && rows.table().identity().lasts()) {
            rows.byRelation(traversal.ways())
                    .forEach((relation, via) -> takes.add(RowsToArchive.marks(
                            rows.table(),
                            relation.isEmpty() ? null : relation,
                            rows.scoped(rows.containsVia("t", via)),
                            rows.count(via),
                            marker.columns())));
        }
        if (mode == OperationKind.BLANK
                && rows.size() > 0
                && rows.table().identity().lasts()) {
            Map<String, Sql> written = new LinkedHashMap<>();
            traversal
                    .plan()
                    .writes()
                    .blanks()
                    .getOrDefault(table, List.of())
                    .forEach(blank -> written.put(blank.column(), traversal.value(blank, rows.table())));
            rows.byRelation(traversal.ways())
                    .forEach((relation, via) -> takes.add(RowsToArchive.values(
                            rows.table(),
                            relation.isEmpty() ? null : relation,
                            rows.scoped(rows.containsVia("t", via)),
                            rows.count(via),
                            written)));
        }
        if (mode != OperationKind.ERASE) {
            return;
        }
        for (RelationStep branch : traversal.leavesBy(table)) {
            if (traversal.rowsToDelete(branch.relation().parent()).size() > 0) {
                takes.add(RowsToArchive.whole(
                        rows.table(),
                        branch.relation().name(),
                        traversal.conditions().unseen(branch),
                        null,
                        count -> traversal.wentBefore(branch, count)));
            }
        }
        if (rows.size() > 0 && traversal.leavesBy(table).isEmpty()) {
            rows.byRelation(traversal.ways())
                    .forEach((relation, via) -> whole(
                            rows.table(),
                            relation.isEmpty() ? null : relation,
                            rows.scoped(rows.containsVia("t", via)),
                            rows.count(via),
                            takes));
        }
    }

    /** A row that another table has inherited is archived as a row of that one, with all its columns. */
    private void whole(
            Table table, @Nullable String relation, Sql which, @Nullable Long rows, List<RowsToArchive> takes) {
        String own = session.dialect().syntax().ownRow(table.name());
        if (table.heirs().isEmpty() || own == null) {
            takes.add(RowsToArchive.whole(table, relation, which, rows, null));
            return;
        }
        for (Table member : members(table)) {
            Sql its = new Sql()
                    .add(which)
                    .add(" AND " + session.dialect().syntax().ownRow(member.name()));
            takes.add(RowsToArchive.whole(member, relation, its, null, null));
        }
    }

    private List<Table> members(Table table) {
        List<Table> members = new ArrayList<>(List.of(table));
        for (String heir : table.heirs()) {
            members.addAll(members(traversal.schema().table(heir)));
        }
        return members;
    }

    @Override
    public List<AffectedKeys> affectedKeys(int most) {
        List<AffectedKeys> touched = new ArrayList<>();
        for (TableName table : traversal.program().tables()) {
            KeySet rows = traversal.rowsToDelete(table);
            Action action = TraversalImpact.action(traversal.program().mode(table));
            for (RelationStep branch : traversal.leavesBy(table)) {
                if (traversal.rowsToDelete(branch.relation().parent()).size() > 0) {
                    String from = session.dialect().syntax().table(table);
                    List<List<Object>> keys = Keys.first(
                            session, rows.table(), from, traversal.conditions().unseen(branch), most);
                    touched.add(
                            new AffectedKeys(table, action, branch.relation().name(), keys));
                }
            }
            if (rows.size() > 0 && traversal.leavesBy(table).isEmpty()) {
                rows.byRelation(traversal.ways())
                        .forEach((relation, via) -> touched.add(new AffectedKeys(
                                table, action, relation.isEmpty() ? null : relation, rows.keys(via, most))));
            }
        }
        traversal.changed().forEach((branch, rows) -> {
            if (rows.size() > 0) {
                Action action = NewValue.action(branch);
                touched.add(new AffectedKeys(
                        rows.table().name(), action, branch.relation().name(), rows.keys(null, most)));
            }
        });
        return touched;
    }

    @Override
    public Stream<Row> rows() {
        return traversal.program().roots().stream().flatMap(traversal::rows);
    }

    @Override
    public void run(Impact found) {
        new DeleteExecutor(session, traversal, marks).run();
        marks.restored(traversal.found());
    }

    @Override
    public Impact afterwards(Impact found) {
        return report.afterwards(found);
    }
}
