// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.internal.graph.Components;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/** The order in which rows can be removed; the other way round it is that of adding them. Immutable. */
public final class DeleteOrder {

    private final Schema schema;
    private final Comparator<TableName> tables;

    public DeleteOrder(Schema schema) {
        this.schema = schema;
        this.tables = rank(schema);
    }

    private static Comparator<TableName> rank(Schema schema) {
        List<TableName> names = schema.tables().stream().map(Table::name).toList();
        List<List<TableName>> components =
                Components.of(names, table -> children(schema.relationsTo(table)), Comparator.naturalOrder());
        Map<TableName, Integer> rank = new HashMap<>();
        components.forEach(component -> component.forEach(table -> rank.put(table, rank.size())));
        return Comparator.comparing(table -> rank.getOrDefault(table, -1));
    }

    private static Collection<TableName> children(List<Relation> relations) {
        return relations.stream().map(Relation::child).toList();
    }

    /**
     * One order of all tables for every program, parents before children. Programs that touch the same
     * tables then lock them in the same order, whichever table they start from.
     */
    public Comparator<TableName> tables() {
        return tables;
    }

    /** Children first by every enforced relation between the tables, not only those that cascade. */
    public List<DeleteStep> steps(Collection<TableName> of) {
        List<List<TableName>> groups = Components.of(of, parent -> children(enforcedTo(parent)), tables);
        List<DeleteStep> steps = new ArrayList<>();
        for (List<TableName> group : groups) {
            List<Relation> circle = group.stream()
                    .flatMap(parent -> enforcedTo(parent).stream())
                    .filter(relation -> group.contains(relation.child()))
                    .toList();
            steps.add(0, new DeleteStep(group, circle));
        }
        return steps;
    }

    private List<Relation> enforcedTo(TableName parent) {
        return schema.relationsTo(parent).stream().filter(Relation::enforced).toList();
    }
}
