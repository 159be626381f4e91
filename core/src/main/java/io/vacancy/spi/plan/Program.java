// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A request compiled against schema and rule book, for any selection from its table.
 *
 * @param schema what it was compiled for
 * @param root the table of the selected rows
 * @param others further tables of which rows are selected
 * @param mode how the selected rows of the first table go, or come back
 * @param modes the same of each table, since what depends on a marked row may be removed
 * @param components what to find, parents first
 * @param holds the branches whose child rows stand in the way
 * @param changes the branches whose child rows stay and are changed
 * @param removals what to remove, children first
 */
public record Program(
        Schema schema,
        TableName root,
        List<TableName> others,
        OperationKind mode,
        Map<TableName, OperationKind> modes,
        List<Component> components,
        List<RelationStep> holds,
        List<RelationStep> changes,
        List<DeleteStep> removals) {

    public Program {
        others = List.copyOf(others);
        modes = Map.copyOf(modes);
        components = List.copyOf(components);
        holds = List.copyOf(holds);
        changes = List.copyOf(changes);
        removals = List.copyOf(removals);
    }

    /** The program that follows nothing: for rows, or images of rows, of one table. */
    public static Program alone(Schema schema, TableName table, OperationKind mode) {
        Component only = new Component(List.of(table), List.of(), List.of());
        List<DeleteStep> removals = List.of(new DeleteStep(List.of(table), List.of()));
        return new Program(
                schema, table, List.of(), mode, Map.of(table, mode), List.of(only), List.of(), List.of(), removals);
    }

    /** Everything that happens to child rows of parents that go. */
    public List<RelationStep> branches() {
        List<RelationStep> branches = new ArrayList<>();
        for (Component part : components) {
            branches.addAll(part.entering());
            branches.addAll(part.within());
        }
        branches.addAll(holds);
        branches.addAll(changes);
        return branches;
    }

    /** The tables of which rows are selected. */
    public List<TableName> roots() {
        List<TableName> roots = new ArrayList<>(List.of(root));
        roots.addAll(others);
        return roots;
    }

    /** How rows of a table go. */
    public OperationKind mode(TableName table) {
        return modes.getOrDefault(table, mode);
    }

    /** The relations along which anything happens. */
    public List<Relation> relations() {
        Set<Relation> relations = new LinkedHashSet<>();
        branches().forEach(branch -> relations.add(branch.relation()));
        return List.copyOf(relations);
    }

    /** The tables that rows may go from, parents first. */
    public List<TableName> tables() {
        List<TableName> tables = new ArrayList<>();
        components.forEach(part -> tables.addAll(part.tables()));
        return tables;
    }
}
