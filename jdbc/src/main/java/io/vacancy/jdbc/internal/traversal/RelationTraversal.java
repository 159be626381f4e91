// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.SkippedRow;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Component;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * One run of a program: finds the rows that would go, those that stand in the way and those that would be
 * changed. The number of statements depends on the relations on the way and on the depth of cycles, never
 * on the number of rows.
 */
public final class RelationTraversal {

    private static final int SELECTED = Selecting.SELECTED;

    private final Session session;
    private final Schema schema;
    private final Program program;
    private final ExecutionPlan deletion;
    private final ConditionCompiler terms;
    private final KeySets sets;
    private final TraversalConditions conditions;
    private final ArchivedMarks marks;
    private final Finding finding;
    private final boolean compared;
    private final boolean skipping;
    private final Map<TableName, KeySet> rowsToDelete = new LinkedHashMap<>();
    private final Map<RelationStep, KeySet> changed = new LinkedHashMap<>();
    private final SelectedRows selected;
    private @Nullable BlockedRowExclusion skipped;
    /** Whether some of the selected rows were left out since. */
    private final Map<TableName, List<RelationStep>> leaves = new LinkedHashMap<>();

    private final Map<RelationStep, Long> wentBefore = new LinkedHashMap<>();
    private final List<@Nullable RelationStep> ways = new ArrayList<>();

    /**
     * @param finding what is to hold of the rows that are found
     */
    public RelationTraversal(Session session, ExecutionPlan deletion, Finding finding) {
        this(session, deletion, finding, ArchivedMarks.NONE);
    }

    /**
     * @param finding what is to hold of the rows that are found
     * @param marks what the archive has of rows that are marked, for some that come back
     */
    public RelationTraversal(Session session, ExecutionPlan deletion, Finding finding, ArchivedMarks marks) {
        this.marks = marks;
        this.session = session;
        this.deletion = deletion;
        this.program = deletion.program();
        this.schema = program.schema();
        this.terms = new ConditionCompiler(session, schema, deletion.scopes(), deletion.now());
        this.sets = new KeySets(session, program, terms);
        this.conditions = new TraversalConditions(this);
        this.compared = deletion.compared();
        this.skipping = deletion.skipping();
        this.finding = finding;
        this.selected = new SelectedRows(this);
        ways.add(SELECTED, null);
    }

    /** Finds everything. To be called once. */
    public void run() {
        select();
        program.roots().forEach(root -> marks.of(rowsToDelete(root)));
        follow();
        if (skipping) {
            skipped = new BlockedRowExclusion(this);
            skipped.run();
        }
    }

    private void follow() {
        for (Component component : program.components()) {
            if (areLeaves(component)) {
                leaves.put(component.tables().get(0), component.entering());
            } else {
                reach(component);
            }
        }
        for (RelationStep branch : program.changes()) {
            KeySet rows = sets.of(branch.relation().child());
            rows.add(outside(branch), SELECTED, 0, finding.kept(), context("looking for rows to change in", branch));
            changed.put(branch, rows);
        }
    }

    /** A row that is blanked, or kept, through two relations is so by the first. */
    private Sql outside(RelationStep branch) {
        Sql outside = conditions.outside(branch);
        if (branch.action() instanceof RuleAction.Blank || branch.action() instanceof RuleAction.Keep) {
            changed.forEach((before, rows) -> {
                boolean same = before.action().getClass() == branch.action().getClass()
                        && before.relation().child().equals(branch.relation().child());
                if (same && rows.size() > 0) {
                    outside.add(" AND NOT ").add(rows.contains("t"));
                }
            });
        }
        return outside;
    }

    /** Begins anew with those of the selected rows that are not in a set. */
    void restart(KeySet without) {
        KeySet before = rowsToDelete(program.root());
        Sql which = before.containsVia("t", List.of(SELECTED)).add(" AND NOT ").add(without.contains("t"));
        rowsToDelete.clear();
        changed.clear();
        leaves.clear();
        selected.restarted();
        for (TableName name : program.tables()) {
            rowsToDelete.put(name, sets.referredTo(name));
        }
        rowsToDelete(program.root())
                .add(which, SELECTED, 0, finding.kept(), StatementContext.of("selecting from", program.root()));
        follow();
    }

    /** The selected rows t, without those that were found through relations. */
    Sql selected() {
        return rowsToDelete(program.root()).containsVia("t", List.of(SELECTED));
    }

    /** Finds the selected rows only. To be called once, instead of the whole run. */
    public void select() {
        session.pace().begin(Step.FINDING, null);
        for (TableName name : program.tables()) {
            rowsToDelete.put(name, sets.referredTo(name));
        }
        selected.select(selectedAre());
    }

    /** Of rows that somebody is shown, or on which something depends, or that are spoken of elsewhere, the keys are needed. */
    private Finding selectedAre() {
        TableName root = program.root();
        Table table = schema.table(root);
        boolean alone = !compared
                && program.others().isEmpty()
                && program.mode() == OperationKind.ERASE
                && program.tables().size() == 1
                && schema.relationsTo(root).isEmpty()
                && program.changes().isEmpty()
                && program.holds().isEmpty()
                && deletion.holds().isEmpty()
                && deletion.writes().parents().isEmpty()
                && deletion.visible() == null
                && table.heirs().isEmpty()
                && table.triggers().isEmpty()
                && !skipping;
        return alone ? finding : finding.kept();
    }

    /** Whether the selected rows were not looked at before they went, so that how many there were is known only then. */
    public boolean countedAsTheyGo() {
        return rowsToDelete(program.root()).described()
                && selected.of(program.root()).asked() == null;
    }

    /** The selected rows as they stand, where they are few; else empty. */
    List<Row> records() {
        return selected.records();
    }

    /**
     * Whether the rows of a component can be removed by their foreign keys, without their keys being kept: nothing depends
     * on them, and no other rule speaks of their table. Where what is found is compared, they are looked at once, and so
     * many have to go as were there; no more can come while their parents are locked, and what changes in them does not
     * matter where nothing is asked of them but to whom they refer.
     */
    private boolean areLeaves(Component component) {
        TableName table = component.tables().get(0);
        RelationStep first =
                component.entering().isEmpty() ? null : component.entering().get(0);
        boolean plain = component.entering().size() == 1
                && first != null
                && first.which() == null
                && terms.inScope(table) == null
                && !skipping;
        return (!compared || plain)
                && program.mode(table) == OperationKind.ERASE
                && component.within().isEmpty()
                && deletion.holds().stream().noneMatch(hold -> table.toString().equals(hold.table()))
                && (!(compared || deletion.archivePolicy().images())
                        || component.entering().stream().allMatch(this::locksOutLatecomers))
                && !program.roots().contains(table)
                && deletion.writes().parents().stream()
                        .noneMatch(parent -> parent.relation().child().equals(table))
                && schema.table(table).heirs().isEmpty()
                && schema.relationsTo(table).isEmpty()
                && Stream.concat(program.holds().stream(), program.changes().stream())
                        .noneMatch(branch -> branch.relation().child().equals(table));
    }

    /** Whether what is kept of rows that nobody looked at is what goes: no row is added in between. */
    private boolean locksOutLatecomers(RelationStep branch) {
        return branch.relation().enforced() && session.dialect().locking().parentsLockOutChildren();
    }

    private void reach(Component component) {
        for (RelationStep branch : component.entering()) {
            follow(branch, null, 0);
        }
        if (component.within().isEmpty()) {
            return;
        }
        long found = 1;
        for (int round = 0; found > 0; round++) {
            found = 0;
            for (RelationStep branch : component.within()) {
                found += follow(branch, round, round + 1);
            }
        }
    }

    private long follow(RelationStep branch, @Nullable Integer parents, int round) {
        KeySet from = rowsToDelete(branch.relation().parent());
        if (from.size() == 0) {
            return 0;
        }
        int via = way(branch);
        return rowsToDelete(branch.relation().child())
                .add(conditions.where(branch, parents), via, round, finding.kept(), context("following", branch));
    }

    /** The number of a branch among the ways that lead to rows. */
    public int way(RelationStep branch) {
        int known = ways.indexOf(branch);
        if (known >= 0) {
            return known;
        }
        ways.add(branch);
        return ways.size() - 1;
    }

    /** Which rows t of a table go; of one whose keys are not kept, those that refer to rows that go. */
    private Sql going(TableName table) {
        Sql going = new Sql();
        for (RelationStep branch : leavesBy(table)) {
            going.add(going.text().isEmpty() ? "(" : " OR ").add(conditions.unseen(branch));
        }
        return going.text().isEmpty() ? rowsToDelete(table).contains("t") : going.add(")");
    }

    /** Which rows t of a set that goes these ways led to. */
    Sql going(KeySet rows, List<Integer> vias) {
        List<RelationStep> leaf = leavesBy(rows.table().name());
        return leaf.isEmpty() ? rows.containsVia("t", vias) : conditions.unseen(leaf.get(0));
    }

    /** Looks once at the rows whose keys are not kept, and counts them. */
    void eachLeaf(BiConsumer<Table, List<?>> taker) {
        leaves.forEach((name, branches) -> {
            KeySet rows = rowsToDelete(name);
            RelationStep branch = branches.get(0);
            if (rowsToDelete(branch.relation().parent()).size() > 0) {
                rows.countEach(
                        conditions.unseen(branch),
                        way(branch),
                        identity -> taker.accept(rows.table(), identity),
                        context("following", branch));
            }
        });
    }

    /** The branches by which rows of a table go without their keys being kept; none for other tables. */
    public List<RelationStep> leavesBy(TableName table) {
        return leaves.getOrDefault(table, List.of());
    }

    /** So many rows of a branch went already, while images of them were made. */
    public void wentBefore(RelationStep branch, long rows) {
        wentBefore.put(branch, rows);
    }

    /** How many rows of a branch went already; null where they are still to go. */
    public @Nullable Long wentBefore(RelationStep branch) {
        return wentBefore.get(branch);
    }

    /** What an assignment writes into a column of row t. */
    public Sql value(Assignment assignment, Table table) {
        return terms.value(assignment, table);
    }

    static StatementContext context(String step, RelationStep branch) {
        return StatementContext.of(
                step, branch.relation().child(), branch.relation().name());
    }

    ArchivedMarks marks() {
        return marks;
    }

    /** What is done by it. */
    public ExecutionPlan plan() {
        return deletion;
    }

    /** Where rows stand to what was found. */
    public TraversalConditions conditions() {
        return conditions;
    }

    KeySets sets() {
        return sets;
    }

    /** The rows that would go, by table, as far as they were looked for. */
    public Map<TableName, KeySet> found() {
        return rowsToDelete;
    }

    public Program program() {
        return program;
    }

    public Schema schema() {
        return schema;
    }

    /** The rows of a table that would go, whole and in no particular order. */
    public Stream<Row> rows(TableName table) {
        return new Rows(session, schema.table(table)).stream(going(table), StatementContext.of("reading", table));
    }

    /** The rows of a set that a way led to, whole and in no particular order. */
    Stream<Row> rows(KeySet rows, int via) {
        StatementContext context = StatementContext.of("reading", rows.table().name());
        return new Rows(session, rows.table()).stream(rows.containsVia("t", List.of(via)), context);
    }

    /** A few rows of a set, whole and in key order; of those that a way led to, or of all. */
    List<Row> few(KeySet rows, @Nullable Integer via, int limit) {
        Sql which = via == null ? rows.contains("t") : rows.containsVia("t", List.of(via));
        return new Rows(session, rows.table())
                .first(limit, which, StatementContext.of("reading", rows.table().name()));
    }

    /** The keys that were asked for and are not there. */
    public Stream<Row> missing() {
        return selected.missing();
    }

    /** Whether every row is looked at, since what was found is shown or compared with what was shown. */
    public boolean compared() {
        return compared;
    }

    /** The selected rows that were left out, or null where none may be. */
    @Nullable
    BlockedRowExclusion skipped() {
        return skipped;
    }

    /** Every selected row that was left out, with the reason. */
    public Stream<SkippedRow> skippedRows() {
        return skipped == null ? Stream.empty() : skipped.rows();
    }

    boolean locks() {
        return finding.locks();
    }

    /** How the rows that everything starts from were found. */
    SelectedRows selection() {
        return selected;
    }

    /** What the request means by conditions, scopes and values. */
    ConditionCompiler terms() {
        return terms;
    }

    Session session() {
        return session;
    }

    /** The rows of a table that would go. */
    public KeySet rowsToDelete(TableName table) {
        KeySet rows = rowsToDelete.get(table);
        if (rows == null) {
            throw new IllegalStateException("table " + table + " is not in the program");
        }
        return rows;
    }

    /** The rows that would be changed, by the branch that says so. */
    public Map<RelationStep, KeySet> changed() {
        return changed;
    }

    /** What led to rows, by number; the first is null and stands for the selection. */
    public List<@Nullable RelationStep> ways() {
        return ways;
    }
}
