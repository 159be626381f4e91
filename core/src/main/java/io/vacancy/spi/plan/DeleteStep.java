// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import java.util.List;

/**
 * A step of removing rows: one table, or several whose rows may refer to one another in a circle.
 *
 * @param circle the enforced relations among the tables; empty where the order of rows does not matter
 */
public record DeleteStep(List<TableName> tables, List<Relation> circle) {

    public DeleteStep {
        tables = List.copyOf(tables);
        circle = List.copyOf(circle);
    }
}
