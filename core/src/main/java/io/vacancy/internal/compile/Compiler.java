// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.compile;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.graph.Components;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.ResolvedMarker;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Discriminator;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Component;
import io.vacancy.spi.plan.DeleteOrder;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;

/** Turns fitted rules into the program for deleting from a table. Immutable; serves all threads. */
public final class Compiler {

    private final Schema schema;
    private final ResolvedRules rules;
    private final DeleteOrder order;
    private final Map<Start, Program> compiled = new ConcurrentHashMap<>();

    /** What a program depends on besides the rules and the tables, which stay the same for a compiler. */
    private record Start(TableName root, List<TableName> others, Map<TableName, OperationKind> modes) {}

    public Compiler(ResolvedRules rules) {
        this.schema = rules.schema();
        this.rules = rules;
        this.order = new DeleteOrder(schema);
    }

    /**
     * The program for rows of this table.
     *
     * @throws MisuseException if rows of one table would have to be marked and removed at once
     */
    public Program compile(TableName root, OperationKind mode) {
        return compile(root, Map.of(root, mode));
    }

    /**
     * The program for rows of several tables.
     *
     * @param roots how the selected rows of each table go, that of the first one included
     * @throws MisuseException if rows of one table would have to be marked and removed at once
     */
    public Program compile(TableName first, Map<TableName, OperationKind> roots) {
        List<TableName> others =
                roots.keySet().stream().filter(table -> !table.equals(first)).toList();
        Start start = new Start(first, others, roots);
        Program known = compiled.get(start);
        if (known == null) {
            known = new Run(start).program();
            compiled.put(start, known);
        }
        return known;
    }

    /** The compilation of one program. */
    private final class Run {

        private final Start start;
        private final OperationKind mode;
        private final Map<TableName, OperationKind> modes = new LinkedHashMap<>();
        private final Map<TableName, String> reachedBy = new HashMap<>();

        Run(Start start) {
            this.start = start;
            this.mode = Objects.requireNonNull(start.modes().get(start.root()));
        }

        Program program() {
            reach();
            Set<TableName> reached = modes.keySet();
            List<Component> components = components(reached);
            List<RelationStep> holds = new ArrayList<>();
            List<RelationStep> changes = new ArrayList<>();
            for (Component component : components) {
                for (TableName parent : component.tables()) {
                    for (RelationStep branch : branches(parent)) {
                        if (branch.action() instanceof RuleAction.Block) {
                            holds.add(branch);
                        } else if (branch.action() instanceof RuleAction.SetNull
                                || (branch.action() instanceof RuleAction.Blank blank && !blank.followed())
                                || branch.action() instanceof RuleAction.Keep
                                || branch.action() instanceof RuleAction.Reassign) {
                            changes.add(branch);
                        }
                    }
                }
            }
            List<TableName> removed = reached.stream()
                    .filter(table -> modes.get(table) == OperationKind.ERASE)
                    .toList();
            return new Program(
                    schema,
                    start.root(),
                    start.others(),
                    mode,
                    modes,
                    components,
                    holds,
                    changes,
                    order.steps(removed));
        }

        private void reach() {
            modes.put(start.root(), mode);
            modes.putAll(start.modes());
            modes.keySet().forEach(root -> reachedBy.put(root, "the selection"));
            Deque<TableName> waiting = new ArrayDeque<>(modes.keySet());
            for (TableName parent = waiting.poll(); parent != null; parent = waiting.poll()) {
                for (RelationStep branch : cascades(parent)) {
                    TableName child = branch.relation().child();
                    OperationKind childs = childs(branch.action(), parent);
                    OperationKind known = modes.putIfAbsent(child, childs);
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

        private OperationKind childs(RuleAction action, TableName parent) {
            return action instanceof RuleAction.Erase
                    ? OperationKind.ERASE
                    : action instanceof RuleAction.Blank ? OperationKind.BLANK : modeOf(parent);
        }

        private OperationKind modeOf(TableName table) {
            return modes.getOrDefault(table, mode);
        }

        private List<RelationStep> branches(TableName parent) {
            OperationKind parents = modeOf(parent);
            if (parents == OperationKind.REPLACE || parents == OperationKind.PURGE) {
                // What depends on a row that ends stays with it.
                return List.of();
            }
            return schema.relationsTo(parent).stream()
                    .flatMap(relation -> (parents == OperationKind.RESTORE
                                    ? returning(relation)
                                    : Compiler.this.branches(relation, parents))
                            .stream())
                    .toList();
        }

        private List<RelationStep> cascades(TableName parent) {
            return branches(parent).stream()
                    .filter(branch -> branch.action() instanceof RuleAction.Cascade
                            || branch.action() instanceof RuleAction.Erase
                            || (branch.action() instanceof RuleAction.Blank blank && blank.followed()))
                    .toList();
        }

        private List<Component> components(Set<TableName> reached) {
            List<List<TableName>> groups = Components.of(
                    reached,
                    parent -> cascades(parent).stream()
                            .map(branch -> branch.relation().child())
                            .toList(),
                    order.tables());
            List<Component> components = new ArrayList<>();
            List<TableName> earlier = new ArrayList<>();
            for (List<TableName> group : groups) {
                components.add(new Component(group, leadingTo(group, earlier), leadingTo(group, group)));
                earlier.addAll(group);
            }
            return components;
        }

        private List<RelationStep> leadingTo(List<TableName> group, List<TableName> parents) {
            return parents.stream()
                    .flatMap(parent -> cascades(parent).stream())
                    .filter(branch -> group.contains(branch.relation().child()))
                    .toList();
        }
    }

    /** Each child row takes the first rule that is true for it, so a later rule's rows exclude the earlier ones'. */
    private List<RelationStep> branches(Relation relation, OperationKind mode) {
        ResolvedMarker marker = mode == OperationKind.SOFT_DELETE ? rules.marker(relation.child()) : null;
        List<RelationStep> branches = new ArrayList<>();
        List<Condition> earlier = new ArrayList<>();
        for (Rule rule : rules.rulesFor(relation, mode)) {
            List<Condition> which = new ArrayList<>(earlier);
            Condition refers = refers(relation);
            if (refers != null) {
                which.add(refers);
            }
            if (marker != null) {
                // What is marked already neither changes nor stands in the way.
                which.add(new Condition.IsTrue(marker.active()));
            }
            Condition when = rule.when() == null ? null : judged(rule.when(), mode);
            if (when != null) {
                which.add(new Condition.IsTrue(when));
                earlier.add(new Condition.IsTrue(when).not());
            }
            RuleAction action = action(relation, rule.action(), mode);
            // No request can undo what is said of the table itself.
            boolean mayBeReplaced =
                    rule.action() instanceof RuleAction.Block || rule.action() instanceof RuleAction.Reassign;
            List<String> permittedRules = action instanceof RuleAction.Block && mayBeReplaced
                    ? rules.permitted().forms(relation)
                    : List.of();
            Condition whole = which.isEmpty() ? null : new Condition.All(which);
            List<String> unlinks = unlinks(action);
            if (!unlinks.isEmpty()) {
                // Two things at once: a row may lose a second link, and is blanked or told as kept once.
                RuleAction unlinked = new RuleAction.SetNull(unlinks);
                branches.add(new RelationStep(relation, unlinked, whole, false, List.of()));
            }
            branches.add(new RelationStep(relation, action, whole, false, permittedRules));
        }
        return branches;
    }

    /** The link that rows lose besides what the action says. */
    private static List<String> unlinks(RuleAction action) {
        return action instanceof RuleAction.Blank blank
                ? blank.columns()
                : action instanceof RuleAction.Keep keep ? keep.columns() : List.of();
    }

    /** Which child rows refer at all; null where all do. */
    private static @Nullable Condition refers(Relation relation) {
        Discriminator only = relation.discriminator();
        return only == null
                ? null
                : new Condition.IsTrue(
                        new Condition.Compare(only.column().name(), Condition.Comparison.EQUAL, only.value()));
    }

    /** In a soft delete, related rows that are marked already do not count; in an erasure they are ordinary rows. */
    private Condition judged(Condition when, OperationKind mode) {
        return when.restrictRelated(related -> {
            ResolvedMarker marker = mode == OperationKind.SOFT_DELETE ? rules.marker(related.name()) : null;
            return marker == null ? null : new Condition.IsTrue(marker.active());
        });
    }

    /** Child rows that were marked by the same receipt come back with their parent. */
    private List<RelationStep> returning(Relation relation) {
        ResolvedMarker child = rules.marker(relation.child());
        ResolvedMarker parent = rules.marker(relation.parent());
        boolean follows = rules.rulesFor(relation, OperationKind.SOFT_DELETE).stream()
                .anyMatch(rule -> rule.action() instanceof RuleAction.Cascade);
        if (!follows || child == null || parent == null) {
            return List.of();
        }
        String childs = child.receiptColumn();
        String parents = parent.receiptColumn();
        Condition refers = refers(relation);
        Condition marked = new Condition.IsTrue(child.deleted());
        Condition deleted = refers == null ? marked : marked.and(refers);
        if (childs == null || parents == null) {
            return List.of(new RelationStep(relation, new RuleAction.Cascade(), deleted, true, List.of()));
        }
        Relation together = new Relation(
                relation.name(),
                relation.child(),
                with(relation.childColumns(), childs),
                relation.parent(),
                with(relation.parentColumns(), parents),
                relation.onDelete(),
                false,
                false,
                relation.comparedByParent(),
                relation.discriminator(),
                relation.list());
        return List.of(new RelationStep(together, new RuleAction.Cascade(), deleted, false, List.of()));
    }

    private static List<String> with(List<String> columns, String more) {
        List<String> all = new ArrayList<>(columns);
        all.add(more);
        return all;
    }

    /** What would touch rows that may not go, or that cannot be told apart, is stopped by them instead. */
    private RuleAction action(Relation relation, RuleAction action, OperationKind mode) {
        boolean takes = action instanceof RuleAction.Cascade || action instanceof RuleAction.Erase;
        if (takes && rules.neverDeleted(relation.child())) {
            return new RuleAction.Block("rows of " + relation.child() + " are never deleted");
        }
        if (mode == OperationKind.SOFT_DELETE
                && action instanceof RuleAction.Cascade
                && rules.marker(relation.child()) == null) {
            return new RuleAction.Block("rows of " + relation.child()
                    + " have no marker, and the rule book does not say what becomes of them");
        }
        if (action instanceof RuleAction.Reassign reassign
                && reassign.to() instanceof RuleAction.NewParent.FromRequest) {
            return new RuleAction.Block(
                    "they get another row of " + relation.parent() + ", and the request does not say which");
        }
        if (!unlinks(action).isEmpty()
                && !schema.table(relation.child()).identity().lasts()) {
            return new RuleAction.Block("rows of " + relation.child()
                    + " have no key to find them again by, once they have lost their link");
        }
        boolean touches = !(action instanceof RuleAction.Block)
                && !(action instanceof RuleAction.Leave)
                && !(action instanceof RuleAction.Keep keep && keep.columns().isEmpty());
        return touches && !schema.table(relation.child()).identity().exists()
                ? new RuleAction.Block("rows of " + relation.child() + " have no key to tell them apart by")
                : action;
    }
}
