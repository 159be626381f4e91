// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.condition.Condition;
import io.vacancy.preview.Action;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Impact;
import io.vacancy.preview.RowSample;
import io.vacancy.preview.SkipReason;
import io.vacancy.preview.SkippedRow;
import io.vacancy.request.OperationKind;
import io.vacancy.request.Order;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.Fingerprint;
import io.vacancy.spi.plan.Component;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Follows a program over rows in memory, row by row. */
final class MemoryTraversal {

    private static final int SAMPLE = 3;
    private static final int RECORDS = 20;

    private final MemoryRows rows;
    private final ExecutionPlan plan;
    private final Program program;
    private final List<Row> missing = new ArrayList<>();
    private final Map<Row, SkippedRow> skipped = new LinkedHashMap<>();
    private final Set<Row> selected = new LinkedHashSet<>();
    private long leftOut;
    private List<Line> lines = List.of();
    private List<Block> blocks = List.of();

    /** Rows to which the same happens for the same reason; the first line has the selected rows. */
    record Line(TableName table, Action action, @Nullable RelationStep step, List<Row> rows) {}

    /** Rows that block, each with the parent that it blocks. */
    private record Block(RelationStep step, String reason, Map<Row, Row> parents) {}

    MemoryTraversal(MemoryRows rows, ExecutionPlan plan) {
        this.rows = rows;
        this.plan = plan;
        this.program = plan.program();
    }

    MemoryTraversal run() {
        select();
        follow(selected);
        while (plan.skipping() && !blocks.isEmpty()) {
            Map<Row, SkippedRow> more = blockedSelections();
            skipped.putAll(more);
            selected.removeAll(more.keySet());
            follow(selected);
        }
        return this;
    }

    List<Line> lines() {
        return lines;
    }

    Collection<SkippedRow> skipped() {
        return skipped.values();
    }

    List<Row> missing() {
        return missing;
    }

    private boolean holds(@Nullable Condition condition, Row row) {
        Table table = rows.schema().table(row.table());
        return new ConditionEvaluator(table, rows, plan.now()).holds(condition, row);
    }

    private void select() {
        for (TableName root : program.roots()) {
            select(root, Objects.requireNonNull(plan.target(root)));
        }
    }

    private void select(TableName root, Target target) {
        List<Row> found = new ArrayList<>();
        if (target.keys() == null) {
            found.addAll(rows.all(root));
        } else {
            Set<List<Object>> asked = new LinkedHashSet<>();
            target.keys().each().forEach(asked::add);
            for (List<Object> key : asked) {
                Row row = rows.find(root, key);
                if (row == null || !holds(plan.scopes().get(root), row)) {
                    missing.add(keyRow(root, key));
                } else {
                    found.add(row);
                }
            }
        }
        Relation orphans = target.orphansOf();
        found.removeIf(row -> !holds(target.which(), row)
                || !holds(plan.scopes().get(root), row)
                || (orphans != null && (!MemoryRows.refers(row, orphans) || rows.parent(row, orphans) != null))
                || (target.filter() != null && !target.filter().test(row)));
        int before = found.size();
        found.removeIf(row -> !holds(target.seen(), row));
        if (root.equals(program.root())) {
            leftOut = before - found.size();
        }
        found.sort(order(target.order()));
        Long first = target.first();
        selected.addAll(first == null || first > found.size() ? found : found.subList(0, first.intValue()));
    }

    private Row keyRow(TableName table, List<Object> key) {
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        List<String> columns = rows.schema().table(table).identity().columns();
        for (int i = 0; i < columns.size(); i++) {
            values.put(columns.get(i), key.get(i));
        }
        return new Row(table, values);
    }

    private Comparator<Row> order(List<Order> by) {
        Comparator<Row> order = (one, other) -> 0;
        for (Order each : by) {
            Comparator<Row> column = Comparator.comparing(
                    row -> (Comparable<Object>) comparable(row.get(each.column())),
                    Comparator.nullsFirst(Comparator.naturalOrder()));
            order = order.thenComparing(each.descending() ? column.reversed() : column);
        }
        return order.thenComparing(row -> rows.key(row).toString());
    }

    @SuppressWarnings("unchecked")
    private static @Nullable Comparable<Object> comparable(@Nullable Object value) {
        return (Comparable<Object>) value;
    }

    /** Everything that is done where these are selected. */
    private void follow(Set<Row> from) {
        List<Line> found = new ArrayList<>();
        Map<TableName, Set<Row>> reached = reached(from, found);
        List<Block> standing = new ArrayList<>();
        for (RelationStep step : program.holds()) {
            String reason = ((RuleAction.Block) step.action()).reason();
            Block block = new Block(step, reason, children(step, reached));
            if (!block.parents().isEmpty()) {
                standing.add(block);
            }
        }
        for (RelationStep step : program.changes()) {
            Map<Row, Row> changed = children(step, reached);
            boolean keeps = step.action() instanceof RuleAction.Keep;
            boolean stays = step.action() instanceof RuleAction.Blank || keeps;
            Action once = keeps ? Action.KEEP : Action.BLANK;
            if (stays) {
                // A row that is blanked or kept through two relations is so by the first.
                found.stream().filter(line -> line.action() == once).forEach(line -> line.rows()
                        .forEach(changed::remove));
            }
            Map<Row, Row> lost = new LinkedHashMap<>();
            changed.forEach((child, parent) -> {
                if (!stays && !mayRefer(child, NewLink.of(step, parent, rows.schema()), step.relation(), reached)) {
                    lost.put(child, parent);
                }
            });
            if (!lost.isEmpty()) {
                standing.add(new Block(step, "the new parent is not there, or is deleted as well", lost));
            }
            if (!changed.isEmpty()) {
                Action action =
                        stays ? once : step.action() instanceof RuleAction.SetNull ? Action.SET_NULL : Action.REASSIGN;
                found.add(new Line(step.relation().child(), action, step, List.copyOf(changed.keySet())));
            }
        }
        lines = found;
        blocks = standing;
    }

    private Map<TableName, Set<Row>> reached(Set<Row> from, List<Line> found) {
        Map<TableName, Set<Row>> reached = new HashMap<>();
        program.tables().forEach(table -> reached.put(table, new LinkedHashSet<>()));
        for (TableName root : program.roots()) {
            List<Row> own =
                    from.stream().filter(row -> row.table().equals(root)).toList();
            Objects.requireNonNull(reached.get(root)).addAll(own);
            if (!own.isEmpty()) {
                found.add(new Line(root, action(root), null, own));
            }
        }
        for (Component component : program.components()) {
            component.entering().forEach(step -> cascade(step, reached, found));
            boolean more = !component.within().isEmpty();
            while (more) {
                more = false;
                for (RelationStep step : component.within()) {
                    more |= cascade(step, reached, found);
                }
            }
        }
        return reached;
    }

    private boolean cascade(RelationStep step, Map<TableName, Set<Row>> reached, List<Line> found) {
        TableName child = step.relation().child();
        List<Row> more = List.copyOf(children(step, reached).keySet());
        if (more.isEmpty()) {
            return false;
        }
        Objects.requireNonNull(reached.get(child)).addAll(more);
        for (int i = 0; i < found.size(); i++) {
            Line line = found.get(i);
            if (line.table().equals(child)
                    && line.step() != null
                    && line.step().relation().equals(step.relation())) {
                List<Row> all = new ArrayList<>(line.rows());
                all.addAll(more);
                found.set(i, new Line(child, line.action(), line.step(), all));
                return true;
            }
        }
        found.add(new Line(child, action(child), step, more));
        return true;
    }

    private Action action(TableName table) {
        return switch (program.mode(table)) {
            case SOFT_DELETE -> Action.SOFT_DELETE;
            case RESTORE -> Action.RESTORE;
            case BLANK -> Action.BLANK;
            default -> Action.DELETE;
        };
    }

    /** The child rows outside what is reached for which the step holds, each with its parent. */
    private Map<Row, Row> children(RelationStep step, Map<TableName, Set<Row>> reached) {
        Relation relation = step.relation();
        Set<Row> parents = reached.getOrDefault(relation.parent(), Set.of());
        // A row that is only marked still refers to a parent that is erased.
        boolean refersWhenMarked = reached.containsKey(relation.child())
                && program.mode(relation.parent()) == OperationKind.ERASE
                && program.mode(relation.child()) != OperationKind.ERASE;
        Set<Row> gone = refersWhenMarked ? Set.of() : reached.getOrDefault(relation.child(), Set.of());
        Map<Row, Row> children = new LinkedHashMap<>();
        for (Row child : rows.all(relation.child())) {
            if (gone.contains(child) || step.underOneReceipt() || !holds(step.which(), child)) {
                continue;
            }
            parents.stream()
                    .filter(parent -> MemoryRows.joined(parent, child, relation))
                    .findFirst()
                    .ifPresent(parent -> children.put(child, parent));
        }
        return children;
    }

    private boolean mayRefer(
            Row child, Map<String, @Nullable Object> link, Relation relation, Map<TableName, Set<Row>> reached) {
        Row changed = MemoryRows.with(child, link);
        if (!MemoryRows.refers(changed, relation)) {
            return true;
        }
        Row parent = rows.parent(changed, relation);
        return parent != null
                && !reached.getOrDefault(relation.parent(), Set.of()).contains(parent);
    }

    private Map<Row, SkippedRow> blockedSelections() {
        Map<Row, SkippedRow> blocked = new LinkedHashMap<>();
        for (Row row : selected) {
            Map<TableName, Set<Row>> alone = reached(Set.of(row), new ArrayList<>());
            for (Block block : blocks) {
                Set<Row> own = alone.getOrDefault(block.step().relation().parent(), Set.of());
                if (block.parents().values().stream().anyMatch(own::contains)) {
                    blocked.putIfAbsent(
                            row, new SkippedRow(row, block.step().relation().name(), block.reason()));
                }
            }
        }
        return blocked;
    }

    Impact impact() {
        List<Effect> effects = new ArrayList<>();
        Map<Action, Long> totals = new EnumMap<>(Action.class);
        Fingerprint fingerprint =
                new Fingerprint(program.mode(), plan.archivePolicy().images());
        for (Line line : lines) {
            RelationStep step = line.step();
            boolean link = line.action() == Action.SET_NULL || line.action() == Action.REASSIGN;
            String becomes = link && step != null ? NewLink.written(step) : null;
            effects.add(new Effect(
                    line.table(),
                    line.action(),
                    step == null ? null : step.relation().name(),
                    becomes,
                    line.rows().size(),
                    few(line.rows(), SAMPLE)));
            totals.merge(line.action(), (long) line.rows().size(), Long::sum);
            line.rows().forEach(row -> fingerprint.effect(line.action(), row.table(), rows.key(row), becomes));
        }
        selected.forEach(row ->
                fingerprint.content(row.table(), new ArrayList<>(row.values().values())));
        List<Row> records = selected.size() <= RECORDS ? List.copyOf(selected) : List.of();
        return Impact.builder()
                .records(records)
                .effects(effects, totals)
                .blockers(blockers())
                .skipped(sample(skipped.keySet()), reasons())
                .missing(sample(missing))
                .selectedFrom(program.others().isEmpty() ? List.of() : program.roots())
                .present(present())
                .fingerprint(fingerprint.shown())
                .activeCounts(activeCounts())
                .archived(plan.archivePolicy().images() && totals.containsKey(Action.DELETE))
                .build();
    }

    private List<Blocker> blockers() {
        List<Blocker> blockers =
                new ArrayList<>(blocks.stream().map(MemoryTraversal::blocker).toList());
        Condition into = plan.target().into();
        if (into != null && rows.all(program.root()).stream().noneMatch(row -> holds(into, row))) {
            blockers.add(new Blocker(
                    program.root(),
                    null,
                    selected.size(),
                    "the row that it would be merged into is gone",
                    few(List.copyOf(selected), SAMPLE),
                    List.of()));
        }
        for (Line line : lines) {
            boolean outside =
                    line.rows().stream().anyMatch(row -> !holds(plan.scopes().get(line.table()), row));
            if (outside) {
                blockers.add(Blocker.hidden(program.root()));
            }
        }
        return blockers;
    }

    private static Blocker blocker(Block block) {
        List<Row> blocking = List.copyOf(block.parents().keySet());
        return new Blocker(
                block.step().relation().child(),
                block.step().relation().name(),
                blocking.size(),
                block.reason(),
                few(blocking, SAMPLE),
                block.step().permittedRules());
    }

    private List<SkipReason> reasons() {
        Map<String, List<SkippedRow>> by = new TreeMap<>();
        skipped.values()
                .forEach(row -> by.computeIfAbsent(row.relation() + " " + row.reason(), key -> new ArrayList<>())
                        .add(row));
        return by.values().stream()
                .map(same -> new SkipReason(
                        same.get(0).relation(),
                        same.size(),
                        same.get(0).reason(),
                        few(same.stream().map(SkippedRow::row).toList(), SAMPLE)))
                .toList();
    }

    private Map<TableName, Long> present() {
        Map<TableName, Long> present = new HashMap<>();
        plan.counted()
                .forEach(table -> present.put(table, (long) rows.all(table).size()));
        return present;
    }

    private @Nullable ActiveCounts activeCounts() {
        ExecutionPlan.Visible visible = plan.visible();
        if (visible == null) {
            return null;
        }
        Collection<Row> all = rows.all(program.root());
        long active = all.stream().filter(row -> holds(visible.active(), row)).count();
        List<Row> own = selected.stream()
                .filter(row -> row.table().equals(program.root()))
                .toList();
        long changed = own.stream()
                .filter(row -> holds(visible.active(), row) == (action(program.root()) != Action.RESTORE))
                .count();
        boolean restores = action(program.root()) == Action.RESTORE;
        long stored = action(program.root()) == Action.DELETE ? all.size() - own.size() : all.size();
        return new ActiveCounts(active, all.size(), restores ? active + changed : active - changed, stored, leftOut);
    }

    private static RowSample sample(Collection<Row> of) {
        return of.isEmpty() ? RowSample.NONE : new RowSample(of.size(), few(List.copyOf(of), SAMPLE));
    }

    private static List<Row> few(List<Row> of, int most) {
        return of.subList(0, Math.min(most, of.size()));
    }
}
