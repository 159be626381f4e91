// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.condition.RelatedRows;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The rows whose column has one value, such as one tenant's. A table without the column is closed: nothing of it is there
 * for the caller, until it is said by which relations its rows belong to a table that has it, or that the table is open to
 * all. Immutable and for all threads.
 */
public final class ColumnScope implements Scope {

    private final String column;
    private final Object value;
    private final List<List<String>> paths;
    private final Set<String> open;

    ColumnScope(String column, Object value) {
        this(column, value, List.of(), Set.of());
    }

    private ColumnScope(String column, Object value, List<List<String>> paths, Set<String> open) {
        this.column = column;
        this.value = value;
        this.paths = List.copyOf(paths);
        this.open = Set.copyOf(open);
    }

    /**
     * Says to which rows those of a table without the column belong: they are inside where the row that they lead to is.
     * A row whose link is NULL is outside.
     *
     * @param relations in their written form, each from the table that the one before led to:
     *     {@code through("power_reading.mooring_id", "mooring.boat_id")}; the last one leads to a table that has the
     *     column, or that has a path or is open itself
     */
    public ColumnScope through(String... relations) {
        if (Arguments.noneNull(relations, "relations").length == 0) {
            throw new MisuseException("A path of no relations leads nowhere.", "Name at least one relation.");
        }
        List<List<String>> more = new ArrayList<>(paths);
        more.add(List.of(relations));
        return new ColumnScope(column, value, more, open);
    }

    /** Says that every row of these tables is inside, such as those of a price list that all share. */
    public ColumnScope open(String... tables) {
        Set<String> more = new LinkedHashSet<>(open);
        more.addAll(List.of(Arguments.noneNull(tables, "tables")));
        return new ColumnScope(column, value, paths, more);
    }

    /** Without a schema, only what the table itself has is known; all else is closed. */
    @Override
    public @Nullable Condition on(Table table) {
        return table.has(column) ? inside(table) : closed(table);
    }

    @Override
    public Scope in(Schema schema) {
        if (schema.tables().stream().noneMatch(table -> table.has(column))) {
            throw new MisuseException(
                    "No table has the column " + column + ", so the scope would hide everything or nothing.",
                    "Name the column by which rows belong to somebody as the tables have it.");
        }
        Map<TableName, @Nullable Condition> known = new HashMap<>();
        for (Table table : schema.tables()) {
            if (table.has(column)) {
                known.put(table.name(), inside(table).readFor(table));
            }
        }
        for (String name : open) {
            known.put(schema.table(name).name(), null);
        }
        // The last path first, so that one may lead to a table that another one speaks of.
        List<List<String>> left = new ArrayList<>(paths);
        while (!left.isEmpty()) {
            List<String> next = left.stream()
                    .filter(path -> known.containsKey(end(path, schema)))
                    .findFirst()
                    .orElseThrow(() -> leadsNowhere(left.get(0), schema));
            left.remove(next);
            along(next, schema, known);
        }
        return new Known(known);
    }

    private Condition inside(Table table) {
        return ColumnRef.column(table.column(column).name()).equalTo(value);
    }

    private static Condition closed(Table table) {
        return new Condition.OneOf(table.columns().get(0).name(), List.of());
    }

    private static TableName end(List<String> path, Schema schema) {
        return schema.relation(path.get(path.size() - 1)).parent();
    }

    private MisuseException leadsNowhere(List<String> path, Schema schema) {
        return new MisuseException(
                "The path " + String.join(", ", path) + " leads to " + end(path, schema) + ", which has no column "
                        + column + ".",
                "Go on to a table that has it, or say that " + end(path, schema) + " is open.");
    }

    private static void along(List<String> path, Schema schema, Map<TableName, @Nullable Condition> known) {
        Condition condition = known.get(end(path, schema));
        for (int i = path.size() - 1; i >= 0; i--) {
            Relation relation = schema.relation(path.get(i));
            if (i > 0 && !schema.relation(path.get(i - 1)).parent().equals(relation.child())) {
                throw new MisuseException(
                        "In the path " + String.join(", ", path) + ", " + path.get(i - 1) + " does not lead to "
                                + relation.child() + ".",
                        "Name the relations in order, from the child up.");
            }
            // Of an open parent, that it is there.
            condition = new Condition.Exists(
                    new RelatedRows.Resolved(relation, RelatedRows.Side.PARENT, schema.table(relation.parent())),
                    condition);
        }
        known.put(schema.relation(path.get(0)).child(), condition);
    }

    /** What is known of each table of a schema. */
    private record Known(Map<TableName, @Nullable Condition> conditions) implements Scope {

        @Override
        public @Nullable Condition on(Table table) {
            return closed(table.name()) ? ColumnScope.closed(table) : conditions.get(table.name());
        }

        @Override
        public boolean closed(TableName table) {
            return !conditions.containsKey(table);
        }
    }

    @Override
    public String toString() {
        return column + " = " + value;
    }
}
