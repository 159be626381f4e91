package io.vacancy.program;

import io.vacancy.condition.Condition;
import io.vacancy.request.Mode;
import io.vacancy.rules.Fate;
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
import java.util.LinkedHashSet;
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

    /** The program for rows of this table. */
    public Program compile(TableName root, Mode mode) {
        Set<TableName> reached = reached(root);
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
        return new Program(schema, root, mode, components, holds, changes, removals(reached));
    }

    private List<Branch> branches(TableName parent) {
        return schema.relationsTo(parent).stream()
                .flatMap(relation -> branches(relation).stream())
                .toList();
    }

    /** Each child row takes the first rule that is true for it, so a later rule's rows exclude the earlier ones'. */
    private List<Branch> branches(Relation relation) {
        List<Branch> branches = new ArrayList<>();
        List<Condition> earlier = new ArrayList<>();
        for (Rule rule : rules.rulesFor(relation)) {
            List<Condition> which = new ArrayList<>(earlier);
            Condition when = rule.when();
            if (when != null) {
                which.add(new Condition.Certain(when));
                earlier.add(new Condition.Certain(when).not());
            }
            Fate fate = fate(relation, rule.fate());
            // No request can undo what is said of the table itself.
            boolean mayBeReplaced = rule.fate() instanceof Fate.Block || rule.fate() instanceof Fate.Reassign;
            List<String> waysOut = fate instanceof Fate.Block && mayBeReplaced ? rules.waysOut(relation) : List.of();
            branches.add(new Branch(relation, fate, which.isEmpty() ? null : new Condition.All(which), waysOut));
        }
        return branches;
    }

    /** What would touch rows that may not go, or that cannot be told apart, is stopped by them instead. */
    private Fate fate(Relation relation, Fate fate) {
        if (fate instanceof Fate.Cascade && rules.neverDeleted(relation.child())) {
            return new Fate.Block("rows of " + relation.child() + " are never deleted");
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

    private List<Branch> cascades(TableName parent) {
        return branches(parent).stream()
                .filter(branch -> branch.fate() instanceof Fate.Cascade)
                .toList();
    }

    private Set<TableName> reached(TableName root) {
        Set<TableName> reached = new LinkedHashSet<>(Set.of(root));
        Deque<TableName> waiting = new ArrayDeque<>(reached);
        for (TableName parent = waiting.poll(); parent != null; parent = waiting.poll()) {
            for (Branch branch : cascades(parent)) {
                if (reached.add(branch.relation().child())) {
                    waiting.add(branch.relation().child());
                }
            }
        }
        return reached;
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

    /** Children first by every enforced relation between the tables, not only those that cascade. */
    private List<Removal> removals(Set<TableName> reached) {
        List<List<TableName>> groups = Components.of(reached, parent -> children(enforcedTo(parent)), rank);
        List<Removal> removals = new ArrayList<>();
        for (List<TableName> group : groups) {
            List<Relation> circle = group.stream()
                    .flatMap(parent -> enforcedTo(parent).stream())
                    .filter(relation -> group.contains(relation.child()))
                    .toList();
            removals.add(0, new Removal(group, circle));
        }
        return removals;
    }

    private List<Relation> enforcedTo(TableName parent) {
        return schema.relationsTo(parent).stream().filter(Relation::enforced).toList();
    }
}
