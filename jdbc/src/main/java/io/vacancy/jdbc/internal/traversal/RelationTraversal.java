package io.vacancy.jdbc.internal.traversal;

import io.vacancy.archive.Hold;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.KeyColumn;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.preview.ActiveCounts;
import io.vacancy.preview.SkippedRow;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Assignment;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.RowIdentity;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ColumnWrites;
import io.vacancy.spi.plan.Component;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import io.vacancy.spi.plan.Target;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
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
    private final Target target;
    private final ExecutionPlan deletion;
    private final ConditionCompiler terms;
    private final Set<TableName> counted;
    private final boolean lock;
    private final boolean shown;
    private final boolean skipping;
    private final Map<TableName, KeySet> rowsToDelete = new LinkedHashMap<>();
    private final Map<RelationStep, KeySet> changed = new LinkedHashMap<>();
    private @Nullable Selecting selecting;
    private @Nullable BlockedRowExclusion skipped;
    private @Nullable List<Row> records;
    /** Whether some of the selected rows were left out since. */
    private boolean restarted;

    private final Map<TableName, List<RelationStep>> leaves = new LinkedHashMap<>();
    private final Map<RelationStep, Long> wentBefore = new LinkedHashMap<>();
    private final List<@Nullable RelationStep> ways = new ArrayList<>();

    /**
     * @param lock whether the rows found are to be locked until the transaction ends
     */
    public RelationTraversal(Session session, ExecutionPlan deletion, boolean lock) {
        this.session = session;
        this.deletion = deletion;
        this.program = deletion.program();
        this.schema = program.schema();
        this.terms = new ConditionCompiler(session, schema, deletion.scopes(), deletion.now());
        this.counted = deletion.counted();
        this.shown = deletion.shown();
        this.skipping = deletion.skipping();
        this.target = deletion.target();
        this.lock = lock;
        ways.add(SELECTED, null);
    }

    /** Finds everything. To be called once. */
    public void run() {
        select();
        follow();
        if (skipping) {
            skipped = new BlockedRowExclusion(this);
            skipped.run();
        }
    }

    private void follow() {
        for (Component component : program.components()) {
            if (mayGoUnseen(component)) {
                leaves.put(component.tables().get(0), component.entering());
            } else {
                reach(component);
            }
        }
        for (RelationStep branch : program.changes()) {
            KeySet rows = rowSet(schema.table(branch.relation().child()), false);
            rows.add(outside(branch), SELECTED, 0, lock, context("looking for rows to change in", branch));
            changed.put(branch, rows);
        }
    }

    /** Begins anew with those of the selected rows that are not in a set. */
    void restart(KeySet without) {
        KeySet before = rowsToDelete(program.root());
        Sql which = before.containsVia("t", List.of(SELECTED)).add(" AND NOT ").add(without.contains("t"));
        rowsToDelete.clear();
        changed.clear();
        leaves.clear();
        records = null;
        restarted = true;
        for (TableName name : program.tables()) {
            rowsToDelete.put(name, rowSet(schema.table(name), true));
        }
        rowsToDelete(program.root())
                .add(which, SELECTED, 0, lock, StatementContext.of("selecting from", program.root()));
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
            rowsToDelete.put(name, rowSet(schema.table(name), true));
        }
        selecting = new Selecting(session, terms, target, rowsToDelete(program.root()), lock);
        selecting.run();
    }

    /** The selected rows as they stand, where they are few; else empty. */
    List<Row> records() {
        KeySet selected = rowsToDelete(program.root());
        List<Row> whole = selecting == null || restarted ? null : selecting.records();
        if (records == null) {
            Rows reading = new Rows(session, selected.table());
            records = whole != null
                    ? whole
                    : selected.size() <= Samples.RECORDS
                            ? reading.all(selected.contains("t"), StatementContext.of("reading", program.root()))
                            : List.of();
        }
        return records;
    }

    /**
     * Whether the rows of a component can be removed by their foreign keys without having been looked at:
     * nobody is to be shown them, nothing hangs on them, and no other rule speaks of their table.
     */
    private boolean mayGoUnseen(Component component) {
        TableName table = component.tables().get(0);
        return !shown
                && program.mode(table) == OperationKind.ERASE
                && component.within().isEmpty()
                && holds().stream().noneMatch(hold -> table.toString().equals(hold.table()))
                && (!keeps() || component.entering().stream().allMatch(this::locksOutLatecomers))
                && !table.equals(program.root())
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
                .add(where(branch, parents), via, round, lock, context("following", branch));
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

    /** The branches by which rows of a table go without having been looked at; none for other tables. */
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

    /** Which rows t a branch takes along from a table that is not looked at. */
    public Sql unseen(RelationStep branch) {
        Sql scope = terms.inScope(branch.relation().child());
        Sql condition = where(branch, null);
        return scope == null ? condition : condition.add(" AND ").add(scope);
    }

    /** Whether the child row t refers to a deleted parent row. */
    private Sql link(Relation relation, @Nullable Integer round) {
        return rowsToDelete(relation.parent()).refersTo("t", relation.childColumns(), relation.parentColumns(), round);
    }

    /** Whether the child row t refers to a deleted parent row and the branch is the one that holds for it. */
    private Sql where(RelationStep branch, @Nullable Integer round) {
        Sql condition = link(branch.relation(), round);
        Condition which = branch.which();
        return which == null
                ? condition
                : condition.add(" AND ").add(terms.condition(branch.relation().child(), which));
    }

    /** Whether the child row t is meant by the branch, whatever it refers to; null where every row is. */
    @Nullable
    Sql meant(RelationStep branch) {
        return branch.which() == null ? null : terms.condition(branch.relation().child(), branch.which());
    }

    /** Whether the child row t is meant by the branch and does not go itself. */
    public Sql outside(RelationStep branch) {
        return notGoing(where(branch, null), branch.relation().child());
    }

    private Sql notGoing(Sql condition, TableName child) {
        KeySet going = rowsToDelete.get(child);
        return going == null || going.size() == 0
                ? condition
                : condition.add(" AND NOT ").add(going.contains("t"));
    }

    /** What is to be known of a table whose rows can be soft-deleted; null where they cannot. */
    @Nullable
    MarkerPredicates marked(TableName table) {
        return deletion.marked().get(table);
    }

    /** What an assignment writes into a column of row t. */
    public Sql value(Assignment assignment, Table table) {
        return terms.value(assignment, table);
    }

    /** Which rows t of the parent are referred to by child rows that go, come back or are changed; null for none. */
    public @Nullable Sql touchedParents(Relation relation) {
        List<KeySet> touched = new ArrayList<>();
        changed.forEach((branch, rows) -> {
            if (branch.relation().child().equals(relation.child())) {
                touched.add(rows);
            }
        });
        KeySet going = rowsToDelete.get(relation.child());
        if (going != null) {
            touched.add(going);
        }
        touched.removeIf(rows -> rows.size() == 0);
        if (touched.isEmpty()) {
            return null;
        }
        Sql exists =
                Sql.of("EXISTS (SELECT 1 FROM " + session.dialect().syntax().table(relation.child()) + " c WHERE "
                        + session.dialect().syntax().joined(relation, "t", "c") + " AND (");
        for (int i = 0; i < touched.size(); i++) {
            exists.add(i == 0 ? "" : " OR ").add(touched.get(i).contains("c"));
        }
        exists.add("))");
        Sql scope = terms.inScope(relation.parent());
        // Parents that go or are marked themselves get their auditColumns, if any, with that.
        return scope == null
                ? notGoing(exists, relation.parent())
                : notGoing(exists.add(" AND ").add(scope), relation.parent());
    }

    /** Whether the child row t refers to a parent row that is deleted, stays, and is outside the scope. */
    @Nullable
    Sql outOfScope(Relation relation) {
        Sql scope = terms.inScope(relation.child());
        return scope == null
                ? null
                : notGoing(link(relation, null), relation.child())
                        .add(" AND NOT ")
                        .add(scope);
    }

    static StatementContext context(String step, RelationStep branch) {
        return StatementContext.of(
                step, branch.relation().child(), branch.relation().name());
    }

    private KeySet rowSet(Table table, boolean referred) {
        Set<String> referredTo = new LinkedHashSet<>();
        if (referred) {
            // A program may follow a relation by more columns than its own.
            Stream.concat(schema.relationsTo(table.name()).stream(), program.relations().stream())
                    .filter(relation -> relation.parent().equals(table.name()))
                    .forEach(relation -> referredTo.addAll(relation.parentColumns()));
        }
        return rowSet(table, referredTo, terms.inScope(table.name()));
    }

    /** A set of rows of a table, inside the scope or not, that keeps what they refer to. */
    KeySet referringRows(TableName name) {
        Set<String> referring = new LinkedHashSet<>();
        schema.relationsFrom(name).forEach(relation -> referring.addAll(relation.childColumns()));
        return rowSet(schema.table(name), referring, null);
    }

    private KeySet rowSet(Table table, Set<String> besides, @Nullable Sql scope) {
        RowIdentity identity = table.identity();
        Set<String> names = new LinkedHashSet<>(identity.columns());
        if (!identity.exists()) {
            table.columns().forEach(column -> names.add(column.name()));
        }
        int identityWidth = names.size();
        names.addAll(besides);
        List<KeyColumn> columns =
                names.stream().map(name -> keyColumn(table, name)).toList();
        return new KeySet(session, table, columns, identityWidth, scope);
    }

    private KeyColumn keyColumn(Table table, String name) {
        boolean rowId = !table.has(name);
        ColumnType type = rowId
                ? session.dialect().catalogue().rowIdType()
                : table.column(name).type();
        return new KeyColumn(name, type, rowId);
    }

    /** How the selected row ends and its successor begins; null where rows go or come back. */
    public @Nullable Replacement replacement() {
        return deletion.replacement();
    }

    /** What is written into rows. */
    public ColumnWrites writes() {
        return deletion.writes();
    }

    public Program program() {
        return program;
    }

    public Schema schema() {
        return schema;
    }

    /** How many rows of a table there are, inside the scope. */
    long count(TableName table) {
        Condition seen = table.equals(program.root()) ? target.seen() : null;
        return count(table, seen == null ? Sql.of("1 = 1") : terms.condition(table, seen));
    }

    long count(TableName table, Sql which) {
        Sql scope = terms.inScope(table);
        Sql count = Sql.of("SELECT COUNT(*) FROM " + session.dialect().syntax().table(table) + " t WHERE ")
                .add(which);
        return session.number(
                scope == null ? count : count.add(" AND ").add(scope), StatementContext.of("counting rows of", table));
    }

    /** What is seen and what is stored of the selected table; null where it has no marker. */
    @Nullable
    ActiveCounts activeCounts() {
        ExecutionPlan.Visible visible = deletion.visible();
        if (visible == null) {
            return null;
        }
        TableName root = program.root();
        long stored = count(root, Sql.of("1 = 1"));
        long active = count(root, terms.condition(root, visible.active()));
        long going = rowsToDelete(root).size();
        return switch (program.mode()) {
            case SOFT_DELETE ->
                new ActiveCounts(
                        active, stored, active - going, stored, selecting().leftOut(visible.leftOut()));
            case RESTORE ->
                new ActiveCounts(
                        active, stored, active + going, stored, selecting().leftOut(visible.leftOut()));
            case REPLACE, PURGE ->
                new ActiveCounts(
                        active, stored, active, stored + going, selecting().leftOut(visible.leftOut()));
            case ERASE, TRUNCATE, UNLINK_ORPHANS -> {
                Sql activeGoing =
                        rowsToDelete(root).contains("t").add(" AND ").add(terms.condition(root, visible.active()));
                yield new ActiveCounts(
                        active,
                        stored,
                        active - count(root, activeGoing),
                        stored - going,
                        selecting().leftOut(visible.leftOut()));
            }
        };
    }

    /** The rows of a table that would go, whole and in no particular order. */
    public Stream<Row> rows(TableName table) {
        KeySet rows = rowsToDelete(table);
        return new Rows(session, rows.table()).stream(rows.contains("t"), StatementContext.of("reading", table));
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
        RequestedKeys asked = selecting().asked();
        return asked == null ? Stream.empty() : asked.streamMissing(terms.inScope(program.root()), null);
    }

    /** What may not go. */
    List<Hold> holds() {
        return deletion.holds();
    }

    /** Whether images of what goes are kept. */
    boolean keeps() {
        return deletion.archivePolicy().images();
    }

    /** Whether what was found is shown to somebody. */
    public boolean shown() {
        return shown;
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
        return lock;
    }

    /** How the selected rows were found. */
    Selecting selecting() {
        return Objects.requireNonNull(selecting, "nothing has been selected yet");
    }

    /** What the request means by conditions, scopes and values. */
    ConditionCompiler terms() {
        return terms;
    }

    /** Tables whose rows are to be counted, those that stay included. */
    Set<TableName> counted() {
        return counted;
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
