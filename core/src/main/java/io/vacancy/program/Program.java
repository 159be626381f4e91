package io.vacancy.program;

import io.vacancy.request.Mode;
import io.vacancy.schema.TableName;
import java.util.List;

/**
 * A request compiled against schema and rule book, for any selection from its table.
 *
 * @param root the table of the selected rows
 * @param components what to find, parents first
 * @param holds the branches whose child rows stand in the way
 * @param changes the branches whose child rows stay and are changed
 * @param removals what to remove, children first
 */
public record Program(
        TableName root,
        Mode mode,
        List<Component> components,
        List<Branch> holds,
        List<Branch> changes,
        List<Removal> removals) {

    public Program {
        components = List.copyOf(components);
        holds = List.copyOf(holds);
        changes = List.copyOf(changes);
        removals = List.copyOf(removals);
    }

    /** The tables that rows may go from, parents first. */
    public List<TableName> tables() {
        return components.stream().flatMap(part -> part.tables().stream()).toList();
    }
}
