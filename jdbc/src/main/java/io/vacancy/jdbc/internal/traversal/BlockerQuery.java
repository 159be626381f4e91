// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.archive.Hold;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.ForeignKeys.ClosedCircle;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.DeleteStep;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import java.util.ArrayList;
import java.util.List;

/** All that may stand in the way of what a walk found. */
final class BlockerQuery {

    private final RelationTraversal traversal;
    private final Session session;
    private final List<FoundBlocker> found = new ArrayList<>();

    private BlockerQuery(RelationTraversal traversal) {
        this.traversal = traversal;
        this.session = traversal.session();
    }

    static List<FoundBlocker> of(RelationTraversal traversal) {
        BlockerQuery query = new BlockerQuery(traversal);
        Replacement replacement = traversal.plan().replacement();
        if (replacement != null && replacement.start() != null) {
            query.later(replacement, replacement.start());
        }
        if (replacement != null) {
            query.successor(replacement);
        }
        if (traversal.program().mode() == OperationKind.RESTORE) {
            new MarkerRestoreChecks(traversal, query.found::add).look();
        }
        traversal.plan().holds().forEach(query::held);
        traversal.program().holds().forEach(query::holding);
        traversal.program().relations().forEach(query::crossing);
        new NewParentChecks(traversal, query.found::add).look();
        query.into();
        new UniqueKeyChecks(traversal, query.found::add).look();
        query.circles();
        return query.found;
    }

    /** The row that another one is merged into is there, and is held until the end: nothing else may refer to it. */
    private void into() {
        Condition into = traversal.plan().target().into();
        TableName root = traversal.program().root();
        if (into == null || traversal.rowsToDelete(root).size() == 0) {
            return;
        }
        Sql row = Sql.of("SELECT 1 FROM " + session.dialect().syntax().table(root) + " t WHERE ")
                .add(traversal.terms().condition(root, into))
                .add(traversal.locks() ? session.dialect().locking().forUpdate() : "");
        if (session.query(row, StatementContext.of("looking for the row to merge into in", root), found -> 1)
                .isEmpty()) {
            found.add(FoundBlocker.of(
                    root, traversal.rowsToDelete(root).contains("t"), "the row that it would be merged into is gone"));
        }
    }

    /** A version that begins no later than the one it is to follow, or no earlier than another one. */
    private void later(Replacement replacement, String start) {
        TableName name = traversal.program().root();
        Table table = traversal.schema().table(name);
        MarkerPredicates marked = traversal.plan().marked().get(name);
        if (marked == null
                || traversal.rowsToDelete(name).size() == 0
                || !(marked.active() instanceof Condition.All all)) {
            return;
        }
        Condition.Latest latest = (Condition.Latest) all.parts().get(0);
        String begin = session.dialect().syntax().quote(start);
        Sql which = traversal
                .rowsToDelete(name)
                .contains("t")
                .add(" AND EXISTS (SELECT 1 FROM " + session.dialect().syntax().table(name) + " o WHERE ");
        for (String column : latest.of()) {
            String quoted = session.dialect().syntax().quote(column);
            which.add("o." + quoted + " = t." + quoted + " AND ");
        }
        which.add("o." + begin + " >= ")
                .bind(replacement.from(), table.column(start).type());
        found.add(
                FoundBlocker.of(name, which.add(")"), "a version of it begins on " + replacement.from() + " or later"));
    }

    /** Nobody gives a row away by its successor. */
    private void successor(Replacement replacement) {
        TableName name = traversal.program().root();
        Table table = traversal.schema().table(name);
        Sql inside = traversal.terms().inScope(name, "n");
        if (inside == null || traversal.rowsToDelete(name).size() == 0) {
            return;
        }
        Sql columns = new Sql();
        for (Column column : table.columns()) {
            Assignment written = replacement.opening().stream()
                    .filter(each -> each.column().equals(column.name()))
                    .findFirst()
                    .orElse(null);
            String quoted = session.dialect().syntax().quote(column.name());
            columns.add(columns.text().isEmpty() ? "" : ", ")
                    .add(
                            written == null
                                    ? Sql.of("t." + quoted)
                                    : session.dialect().syntax().typed(traversal.value(written, table), column.type()))
                    .add(" AS " + quoted);
        }
        Sql successor = Sql.of("SELECT ")
                .add(columns)
                .add(" FROM " + session.dialect().syntax().table(name) + " t WHERE ")
                .add(traversal.rowsToDelete(name).contains("t"));
        Sql outside = traversal
                .rowsToDelete(name)
                .contains("t")
                .add(" AND 0 < (SELECT COUNT(*) FROM (")
                .add(successor)
                .add(") n WHERE NOT ")
                .add(inside)
                .add(")");
        found.add(FoundBlocker.of(name, outside, "its successor would be outside your scope"));
    }

    /** Rows of several tables that no order of statements can remove on this engine. */
    private void circles() {
        if (session.dialect().foreignKeys().closedCircle() != ClosedCircle.LEAVES_FIRST) {
            return;
        }
        for (DeleteStep removal : traversal.program().removals()) {
            CyclePlan circle = CyclePlan.of(removal, traversal.schema(), session.dialect());
            for (Relation relation : circle.closed() ? circle.left() : List.<Relation>of()) {
                boolean affected = !relation.toItself()
                        && traversal.rowsToDelete(relation.child()).size() > 0
                        && traversal.rowsToDelete(relation.parent()).size() > 0;
                if (affected) {
                    found.add(FoundBlocker.through(
                            relation,
                            traversal.rowsToDelete(relation.child()).contains("t"),
                            session.dialect().name() + " cannot remove rows of several tables that refer to one another"
                                    + " in a circle through columns which cannot be NULL"));
                }
            }
        }
    }

    /** Rows that somebody has put a hold on. */
    private void held(Hold hold) {
        for (TableName name : traversal.program().tables()) {
            Table table = traversal.schema().table(name);
            if (name.toString().equals(hold.table())
                    && loses(traversal.program().mode(name))
                    && traversal.rowsToDelete(name).size() > 0) {
                Sql which = traversal
                        .rowsToDelete(name)
                        .contains("t")
                        .add(" AND ")
                        .add(HeldRows.which(hold, table, session.dialect(), "t"));
                found.add(FoundBlocker.of(name, which, HeldRows.reason(hold)));
            }
        }
        traversal.changed().forEach((branch, rows) -> {
            Table child = rows.table();
            if (branch.action() instanceof RuleAction.Blank
                    && child.name().toString().equals(hold.table())
                    && rows.size() > 0) {
                Sql which = rows.contains("t").add(" AND ").add(HeldRows.which(hold, child, session.dialect(), "t"));
                found.add(FoundBlocker.through(branch.relation(), which, HeldRows.reason(hold), List.of()));
            }
        });
    }

    private static boolean loses(OperationKind mode) {
        return mode == OperationKind.ERASE || mode == OperationKind.BLANK;
    }

    private void holding(RelationStep branch) {
        if (traversal.rowsToDelete(branch.relation().parent()).size() == 0
                || !(branch.action() instanceof RuleAction.Block block)) {
            return;
        }
        Sql which = traversal.conditions().outside(branch);
        Sql scope = traversal.terms().inScope(branch.relation().child());
        if (scope != null) {
            which.add(" AND ").add(scope);
        }
        found.add(FoundBlocker.through(branch.relation(), which, block.reason(), branch.permittedRules()));
    }

    /** Rows outside the scope that would be touched, or would be left behind without a parent. */
    private void crossing(Relation relation) {
        Sql outside = traversal.rowsToDelete(relation.parent()).size() == 0
                ? null
                : traversal.conditions().outOfScope(relation);
        if (outside != null) {
            found.add(FoundBlocker.outsideScope(relation, outside));
        }
    }
}
