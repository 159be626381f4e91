package io.vacancy.program;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Mode;
import io.vacancy.rules.Fate;
import io.vacancy.rules.FittedMarker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.Rules;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** Turns fitted rules into the program for deleting from a table. Immutable; serves all threads. */
public final class Compiler {

    private final Schema schema;
    private final Rules rules;
    private final Comparator<TableName> rank;

    public Compiler(Rules rules) {
        this.schema = rules.schema();
        this.rules = rules;
        this.rank = rank(schema);
    }

    /**
     * One order of all tables for every program, parents before children. Programs that touch the same
     * tables then lock them in the same order, whichever table they start from.
     */
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
     * The program for rows of this table.
     *
     * @throws MisuseException if rows of one table would have to be marked and removed at once
     */
    public Program compile(TableName root, Mode mode) {
        return new Run(root, mode).program();
    }

    /** The compilation of one program. */
    private final class Run {

        private final TableName root;
        private final Mode mode;
        private final Map<TableName, Mode> modes = new LinkedHashMap<>();
        private final Map<TableName, String> reachedBy = new HashMap<>();

        Run(TableName root, Mode mode) {
            this.root = root;
            this.mode = mode;
        }

        Program program() {
            reach();
            Set<TableName> reached = modes.keySet();
            List<Component> components = components(reached);
            List<Branch> holds = new ArrayList<>();
            List<Branch> changes = new ArrayList<>();
            for (Component component : components) {
                for (TableName parent : component.tables()) {
                    for (Branch branch : branches(parent)) {
                        if (branch.fate() instanceof Fate.Block) {
                            holds.add(branch);
                        } else if (branch.fate() instanceof Fate.SetNull || branch.fate() instanceof Fate.Reassign) {
                            changes.add(branch);
                        }
                    }
                }
            }
            List<TableName> removed = reached.stream()
                    .filter(table -> modes.get(table) == Mode.ERASE)
                    .toList();
            return new Program(schema, root, mode, modes, components, holds, changes, removals(removed));
        }

        private void reach() {
            modes.put(root, mode);
            reachedBy.put(root, "the selection");
            Deque<TableName> waiting = new ArrayDeque<>(modes.keySet());
            for (TableName parent = waiting.poll(); parent != null; parent = waiting.poll()) {
                for (Branch branch : cascades(parent)) {
                    TableName child = branch.relation().child();
                    Mode childs = branch.fate() instanceof Fate.Erase ? Mode.ERASE : modeOf(parent);
                    Mode known = modes.putIfAbsent(child, childs);
                    if (known == null) {
                        reachedBy.put(child, branch.relation().name());
                        waiting.add(child);
                    } else if (known != childs) {
                        throw new MisuseException(
                                "Rows of " + child + " would be marked as deleted and removed at once: " + known.word()
                                        + " through " + reachedBy.get(child) + ", " + childs.word() + " through "
                                        + branch.relation() + ".",
                                "Have the rule book say the same of both for parents that are soft-deleted.");
                    }
                }
            }
        }

        private Mode modeOf(TableName table) {
            return modes.getOrDefault(table, mode);
        }

        private List<Branch> branches(TableName parent) {
            Mode parents = modeOf(parent);
            if (parents == Mode.REPLACE || parents == Mode.PURGE) {
                // What hangs on a row that ends stays with it.
                return List.of();
            }
            return schema.relationsTo(parent).stream()
                    .flatMap(relation -> (parents == Mode.RESTORE
                                    ? returning(relation)
                                    : Compiler.this.branches(relation, parents))
                            .stream())
                    .toList();
        }

        private List<Branch> cascades(TableName parent) {
            return branches(parent).stream()
                    .filter(branch -> branch.fate() instanceof Fate.Cascade || branch.fate() instanceof Fate.Erase)
                    .toList();
        }

        private List<Component> components(Set<TableName> reached) {
            List<List<TableName>> groups = Components.of(
                    reached,
                    parent -> cascades(parent).stream()
                            .map(branch -> branch.relation().child())
                            .toList(),
                    rank);
            List<Component> components = new ArrayList<>();
            List<TableName> earlier = new ArrayList<>();
            for (List<TableName> group : groups) {
                components.add(new Component(group, leadingTo(group, earlier), leadingTo(group, group)));
                earlier.addAll(group);
            }
            return components;
        }

        private List<Branch> leadingTo(List<TableName> group, List<TableName> parents) {
            return parents.stream()
                    .flatMap(parent -> cascades(parent).stream())
                    .filter(branch -> group.contains(branch.relation().child()))
                    .toList();
        }
    }

    /** Each child row takes the first rule that is true for it, so a later rule's rows exclude the earlier ones'. */
    private List<Branch> branches(Relation relation, Mode mode) {
        FittedMarker marker = mode == Mode.SOFT_DELETE ? rules.marker(relation.child()) : null;
        List<Branch> branches = new ArrayList<>();
        List<Condition> earlier = new ArrayList<>();
        for (Rule rule : rules.rulesFor(relation, mode)) {
            List<Condition> which = new ArrayList<>(earlier);
            if (marker != null) {
                // What is marked already neither changes nor stands in the way.
                which.add(new Condition.Certain(marker.active()));
            }
            Condition when = rule.when();
            if (when != null) {
                which.add(new Condition.Certain(when));
                earlier.add(new Condition.Certain(when).not());
            }
            Fate fate = fate(relation, rule.fate(), mode);
            // No request can undo what is said of the table itself.
            boolean mayBeReplaced = rule.fate() instanceof Fate.Block || rule.fate() instanceof Fate.Reassign;
            List<String> waysOut = fate instanceof Fate.Block && mayBeReplaced ? rules.waysOut(relation) : List.of();
            branches.add(new Branch(relation, fate, which.isEmpty() ? null : new Condition.All(which), waysOut));
        }
        return branches;
    }

    /** Child rows that were marked by the same receipt come back with their parent. */
    private List<Branch> returning(Relation relation) {
        FittedMarker child = rules.marker(relation.child());
        FittedMarker parent = rules.marker(relation.parent());
        boolean follows = rules.rulesFor(relation, Mode.SOFT_DELETE).stream()
                .anyMatch(rule -> rule.fate() instanceof Fate.Cascade);
        if (!follows || child == null || parent == null) {
            return List.of();
        }
        String childs = child.receiptColumn();
        String parents = parent.receiptColumn();
        if (childs == null || parents == null) {
            return List.of();
        }
        Relation together = new Relation(
                relation.name(),
                relation.child(),
                with(relation.childColumns(), childs),
                relation.parent(),
                with(relation.parentColumns(), parents),
                relation.onDelete(),
                false,
                false);
        return List.of(new Branch(together, new Fate.Cascade(), new Condition.Certain(child.deleted()), List.of()));
    }

    private static List<String> with(List<String> columns, String more) {
        List<String> all = new ArrayList<>(columns);
        all.add(more);
        return all;
    }

    /** What would touch rows that may not go, or that cannot be told apart, is stopped by them instead. */
    private Fate fate(Relation relation, Fate fate, Mode mode) {
        boolean takes = fate instanceof Fate.Cascade || fate instanceof Fate.Erase;
        if (takes && rules.neverDeleted(relation.child())) {
            return new Fate.Block("rows of " + relation.child() + " are never deleted");
        }
        if (mode == Mode.SOFT_DELETE && fate instanceof Fate.Cascade && rules.marker(relation.child()) == null) {
            return new Fate.Block("rows of " + relation.child()
                    + " have no marker, and the rule book does not say what becomes of them");
        }
        if (fate instanceof Fate.Reassign reassign && reassign.to() instanceof Fate.NewParent.Asked) {
            return new Fate.Block(
                    "they get another row of " + relation.parent() + ", and the request does not say which");
        }
        boolean touches = !(fate instanceof Fate.Block) && !(fate instanceof Fate.Leave);
        return touches && !schema.table(relation.child()).identity().exists()
                ? new Fate.Block("rows of " + relation.child() + " have no key to tell them apart by")
                : fate;
    }

    private List<Removal> removals(Collection<TableName> reached) {
        return removals(schema, reached, rank);
    }

    /** The order in which rows of these tables can be removed; the other way round it is that of adding them. */
    public static List<Removal> removals(Schema schema, Collection<TableName> tables) {
        return removals(schema, tables, rank(schema));
    }

    /** Children first by every enforced relation between the tables, not only those that cascade. */
    private static List<Removal> removals(Schema schema, Collection<TableName> tables, Comparator<TableName> rank) {
        List<List<TableName>> groups = Components.of(tables, parent -> children(enforcedTo(schema, parent)), rank);
        List<Removal> removals = new ArrayList<>();
        for (List<TableName> group : groups) {
            List<Relation> circle = group.stream()
                    .flatMap(parent -> enforcedTo(schema, parent).stream())
                    .filter(relation -> group.contains(relation.child()))
                    .toList();
            removals.add(0, new Removal(group, circle));
        }
        return removals;
    }

    private static List<Relation> enforcedTo(Schema schema, TableName parent) {
        return schema.relationsTo(parent).stream().filter(Relation::enforced).toList();
    }
}
