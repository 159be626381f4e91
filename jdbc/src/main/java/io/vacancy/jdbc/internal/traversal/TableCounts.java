// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Target;
import org.jspecify.annotations.Nullable;

/** Counts rows of tables, those that stay included, as far as who asks may see them. */
final class TableCounts {

    private final RelationTraversal traversal;
    private final Session session;
    private final ConditionCompiler terms;
    private final TableName root;

    TableCounts(RelationTraversal traversal) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.terms = traversal.terms();
        this.root = traversal.program().root();
    }

    /** How many rows of a table there are, inside the scope. */
    long count(TableName table) {
        Target target = traversal.plan().target(table);
        Condition seen = target == null ? null : target.seen();
        return count(table, seen == null ? Sql.of("1 = 1") : terms.condition(table, seen));
    }

    long count(TableName table, Sql which) {
        Sql scope = terms.inScope(table);
        Sql count = Sql.of("SELECT COUNT(*) FROM " + session.dialect().syntax().table(table) + " t WHERE ")
                .add(which);
        return session.number(
                scope == null ? count : count.add(" AND ").add(scope), StatementContext.of("counting rows of", table));
    }

    /** What is seen and what is stored of the selected table; null where it has no marker. */
    @Nullable
    ActiveCounts activeCounts() {
        ExecutionPlan.Visible visible = traversal.plan().visible();
        if (visible == null) {
            return null;
        }
        long stored = count(root, Sql.of("1 = 1"));
        long active = count(root, terms.condition(root, visible.active()));
        long going = traversal.rowsToDelete(root).size();
        return switch (traversal.program().mode()) {
            case SOFT_DELETE ->
                new ActiveCounts(
                        active,
                        stored,
                        active - going,
                        stored,
                        traversal.selection().of(root).leftOut(visible.leftOut()));
            case RESTORE ->
                new ActiveCounts(
                        active,
                        stored,
                        active + going,
                        stored,
                        traversal.selection().of(root).leftOut(visible.leftOut()));
            case REPLACE, PURGE ->
                new ActiveCounts(
                        active,
                        stored,
                        active,
                        stored + going,
                        traversal.selection().of(root).leftOut(visible.leftOut()));
            case BLANK ->
                new ActiveCounts(
                        active,
                        stored,
                        active,
                        stored,
                        traversal.selection().of(root).leftOut(visible.leftOut()));
            case ERASE, TRUNCATE, DROP, MERGE, FORGET, UNLINK_ORPHANS -> {
                Sql activeGoing = traversal
                        .rowsToDelete(root)
                        .contains("t")
                        .add(" AND ")
                        .add(terms.condition(root, visible.active()));
                yield new ActiveCounts(
                        active,
                        stored,
                        active - count(root, activeGoing),
                        stored - going,
                        traversal.selection().of(root).leftOut(visible.leftOut()));
            }
        };
    }
}
