// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.query;

import io.vacancy.jdbc.internal.execute.OperationFactory;
import io.vacancy.jdbc.internal.execute.StoreContext;
import io.vacancy.jdbc.internal.operation.StoreOperation;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.traversal.Finding;
import io.vacancy.jdbc.internal.traversal.HiddenRows;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.preview.Impact;
import io.vacancy.preview.SkippedRow;
import io.vacancy.schema.Row;
import io.vacancy.schema.TableName;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Stream;

/** Looks at what a plan would do, without doing it. */
public record PlanQueries(StoreContext context, ExecutionPlan plan, ExecutionMonitor monitor) {

    public Impact impact() {
        return context.looking(plan.lockTimeout(), monitor, session -> {
            ExecutionPlan placed = context.archive().placed(plan, session);
            StoreOperation operation = operation(session, placed);
            return operation.impact().toBuilder()
                    .archived(operation.archives(placed))
                    .hiding(HiddenRows.in(session, placed))
                    .build();
        });
    }

    /** The rows of a table that it would be done to. */
    public Stream<Row> rows(TableName table) {
        return streaming(session -> {
            boolean followsRelations = plan.operation() instanceof PlannedOperation.Cascade;
            if (!followsRelations) {
                return operation(session, plan).rows();
            }
            RelationTraversal traversal = new RelationTraversal(session, plan.toBeShown(), Finding.LOOKED_AT);
            if (table.equals(plan.program().root())) {
                traversal.select();
            } else {
                traversal.run();
            }
            return traversal.rows(table);
        });
    }

    /** The rows of all tables that it would be done to, those of the selected table first. */
    public Stream<Row> rows() {
        return streaming(session -> {
            RelationTraversal traversal = new RelationTraversal(session, plan, Finding.LOOKED_AT);
            traversal.run();
            List<TableName> roots = plan.program().roots();
            Stream<TableName> others = plan.program().tables().stream().filter(table -> !roots.contains(table));
            return Stream.concat(roots.stream(), others).flatMap(traversal::rows);
        });
    }

    /** The keys that were asked for and are not there. */
    public Stream<Row> missing() {
        return streaming(session -> {
            RelationTraversal traversal = new RelationTraversal(session, plan, Finding.LOOKED_AT);
            traversal.select();
            return traversal.missing();
        });
    }

    /** Every selected row that would be left out, with the reason. */
    public Stream<SkippedRow> skipped() {
        return streaming(session -> {
            RelationTraversal traversal = new RelationTraversal(session, plan, Finding.LOOKED_AT);
            traversal.run();
            return traversal.skippedRows();
        });
    }

    private <T> Stream<T> streaming(Function<Session, Stream<T>> query) {
        return context.streaming(plan.lockTimeout(), monitor, query);
    }

    private StoreOperation operation(Session session, ExecutionPlan placed) {
        return new OperationFactory(session, context.archive(), placed, Finding.LOOKED_AT, null).operation();
    }
}
