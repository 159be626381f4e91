// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.internal.traversal.Keys;
import io.vacancy.jdbc.internal.traversal.NewValue;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.jdbc.internal.traversal.TraversalImpact;
import io.vacancy.preview.Action;
import io.vacancy.preview.Impact;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Rows that are found along relations, and go, are marked, come back or end. */
public final class CascadeOperation implements StoreOperation {

    private final Session session;
    private final RelationTraversal traversal;
    private final TraversalImpact report;

    /** @param lock whether the rows found are to be locked until the transaction ends */
    public CascadeOperation(Session session, ExecutionPlan deletion, boolean lock) {
        this.session = session;
        this.traversal = new RelationTraversal(session, deletion, lock);
        traversal.run();
        this.report = new TraversalImpact(traversal);
    }

    @Override
    public Impact impact() {
        return report.impact();
    }

    @Override
    public List<RowsToArchive> rowsToArchive() {
        List<RowsToArchive> takes = new ArrayList<>();
        TableName root = traversal.program().root();
        going(root, takes);
        traversal.program().tables().stream()
                .filter(table -> !table.equals(root))
                .forEach(table -> going(table, takes));
        traversal.changed().forEach((branch, rows) -> {
            if (rows.size() > 0) {
                takes.add(new RowsToArchive(
                        rows.table(),
                        branch.relation().name(),
                        rows.mayTouch(),
                        rows.size(),
                        null,
                        NewValue.of(branch, traversal.schema(), session.dialect())));
            }
        });
        return takes;
    }

    /** Rows that are marked, come back or end stay where they are, and their marker tells all. */
    private void going(TableName table, List<RowsToArchive> takes) {
        if (traversal.program().mode(table) != OperationKind.ERASE) {
            return;
        }
        KeySet rows = traversal.rowsToDelete(table);
        for (RelationStep branch : traversal.leavesBy(table)) {
            if (traversal.rowsToDelete(branch.relation().parent()).size() > 0) {
                takes.add(new RowsToArchive(
                        rows.table(),
                        branch.relation().name(),
                        traversal.conditions().unseen(branch),
                        null,
                        count -> traversal.wentBefore(branch, count),
                        Map.of()));
            }
        }
        if (rows.size() > 0 && traversal.leavesBy(table).isEmpty()) {
            rows.byRelation(traversal.ways())
                    .forEach((relation, via) -> takes.add(new RowsToArchive(
                            rows.table(),
                            relation.isEmpty() ? null : relation,
                            rows.scoped(rows.containsVia("t", via)),
                            rows.count(via),
                            null,
                            Map.of())));
        }
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
                Action action = branch.action() instanceof RuleAction.Reassign ? Action.REASSIGN : Action.SET_NULL;
                touched.add(new AffectedKeys(
                        rows.table().name(), action, branch.relation().name(), rows.keys(null, most)));
            }
        });
        return touched;
    }

    @Override
    public Stream<Row> rows() {
        return traversal.rows(traversal.program().root());
    }

    @Override
    public void run(Impact found) {
        new DeleteExecutor(session, traversal).run();
    }

    @Override
    public Impact afterwards(Impact found) {
        return report.afterwards(found);
    }
}
