// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.rules.Assignment;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.List;
import java.util.Map;

/**
 * What is written into rows besides their links.
 *
 * @param marks into the rows that are marked or come back, by table
 * @param auditColumns into rows that stay and are changed, by table: who changed them, and when
 * @param blanks into rows that stay and are blanked, by table: what their personal columns hold then
 * @param parents into parents of rows that go, come back or are changed
 */
public record ColumnWrites(
        Map<TableName, List<Assignment>> marks,
        Map<TableName, List<Assignment>> auditColumns,
        Map<TableName, List<Assignment>> blanks,
        List<Parent> parents) {

    public static final ColumnWrites NONE = new ColumnWrites(Map.of(), Map.of(), Map.of(), List.of());

    public ColumnWrites {
        marks = Map.copyOf(marks);
        auditColumns = Map.copyOf(auditColumns);
        blanks = Map.copyOf(blanks);
        parents = List.copyOf(parents);
    }

    /** What is written into the rows that rows of a table refer to. */
    public record Parent(Relation relation, List<Assignment> auditColumns) {
        public Parent {
            auditColumns = List.copyOf(auditColumns);
        }
    }
}
