// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.DeleteStep;
import java.util.ArrayList;
import java.util.List;

/**
 * How rows that may refer to one another in a circle can go: the links that can be cut first, and the
 * order of tables by the links that are left.
 *
 * @param cut relations whose child columns are set to NULL before anything goes
 * @param left relations whose child columns cannot be NULL
 * @param order the tables, children first by what is left
 * @param closed whether what is left is still a circle, so that no order of statements is right
 */
public record CyclePlan(List<Relation> cut, List<Relation> left, List<TableName> order, boolean closed) {

    public static CyclePlan of(DeleteStep removal, Schema schema, Dialect dialect) {
        List<Relation> cut = new ArrayList<>();
        List<Relation> left = new ArrayList<>();
        for (Relation relation : removal.circle()) {
            // One DELETE that names all rows of a tree is enough where checks wait for its end, and where
            // the engine has no action of its own to run down the tree while the DELETE is at work.
            boolean harmless = relation.toItself()
                    && dialect.foreignKeys().checksAfterStatement(relation)
                    && !relation.onDelete().acts();
            if (!harmless) {
                boolean nullable = schema.table(relation.child()).anyNullable(relation.childColumns());
                (nullable ? cut : left).add(relation);
            }
        }
        List<TableName> order = new ArrayList<>();
        List<TableName> waiting = new ArrayList<>(removal.tables());
        boolean moved = true;
        while (moved) {
            moved = waiting.removeIf(table -> {
                boolean free = left.stream()
                        .noneMatch(relation -> relation.parent().equals(table) && waiting.contains(relation.child()));
                return free && order.add(table);
            });
        }
        boolean closed = !waiting.isEmpty();
        order.addAll(waiting);
        return new CyclePlan(cut, left, order, closed);
    }
}
