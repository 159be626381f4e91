// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.schema.TableName;
import java.util.List;

/**
 * Tables that reach one another by cascading relations, or a single table that does not reach itself.
 *
 * @param tables in name order
 * @param entering cascades from earlier components, in program order
 * @param within cascades inside the component; repeated until they find nothing new
 */
public record Component(List<TableName> tables, List<RelationStep> entering, List<RelationStep> within) {

    public Component {
        tables = List.copyOf(tables);
        entering = List.copyOf(entering);
        within = List.copyOf(within);
    }
}
