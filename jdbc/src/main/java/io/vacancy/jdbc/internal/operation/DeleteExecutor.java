// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.operation;

import io.vacancy.jdbc.internal.session.ConcurrentChangeException;
import io.vacancy.jdbc.internal.session.KeptByTriggerException;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.internal.traversal.ArchivedMarks;
import io.vacancy.jdbc.internal.traversal.CyclePlan;
import io.vacancy.jdbc.internal.traversal.KeySet;
import io.vacancy.jdbc.internal.traversal.NewValue;
import io.vacancy.jdbc.internal.traversal.RelationTraversal;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.listener.Progress.Step;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Column;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ColumnWrites;
import io.vacancy.spi.plan.DeleteStep;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.LongConsumer;
import java.util.stream.Collectors;

/**
 * Carries out what a walk found: changes first, then removals, children before parents. Each statement
 * must affect exactly the rows that were found, else everything is given up.
 */
public final class DeleteExecutor {

    /** How many rows one statement removes where somebody looks on. */
    private static final long ROWS_AT_ONCE = 50_000;

    private final Session session;
    private final Dialect dialect;
    private final RelationTraversal traversal;
    private final ArchivedMarks marks;
    private final JoinedRemovals removals;

    public DeleteExecutor(Session session, RelationTraversal traversal, ArchivedMarks marks) {
        this.marks = marks;
        this.session = session;
        this.dialect = session.dialect();
        this.traversal = traversal;
        this.removals = new JoinedRemovals(session);
    }

    /** @throws ConcurrentChangeException if other rows were affected than those that were found */
    public void run() {
        session.pace().begin(Step.CHANGING, null);
        traversal.plan().writes().parents().forEach(this::stamp);
        traversal.changed().forEach(this::change);
        session.pace().begin(Step.REMOVING, traversal.compared() ? all() : null);
        succeed();
        traversal.plan().writes().marks().forEach(this::mark);
        for (DeleteStep removal : traversal.program().removals()) {
            if (removal.circle().isEmpty()) {
                removal.tables().forEach(this::remove);
            } else {
                removals.carryOut();
                remove(CyclePlan.of(removal, traversal.schema(), dialect));
            }
        }
        removals.carryOut();
    }

    private long all() {
        return traversal.program().tables().stream()
                .mapToLong(table -> traversal.rowsToDelete(table).size())
                .sum();
    }

    /**
     * Where no lock keeps others from adding child rows of what goes, a last look before a parent goes tells
     * whether somebody did. Otherwise such a row would be orphaned, or taken by the engine's own action.
     */
    private void lookForLatecomers(TableName parent) {
        for (RelationStep branch : traversal.program().branches()) {
            Relation relation = branch.relation();
            // What is blanked or kept stays, and where no engine enforces the relation it goes on referring.
            boolean refers = branch.action() instanceof RuleAction.Blank || branch.action() instanceof RuleAction.Keep;
            boolean unprotected = !relation.enforced() || !dialect.locking().parentsLockOutChildren();
            if (!relation.parent().equals(parent) || !unprotected || refers) {
                continue;
            }
            removals.carryOut();
            Sql late = Sql.of("SELECT COUNT(*) FROM " + dialect.syntax().table(relation.child()) + " t WHERE ")
                    .add(traversal.conditions().late(branch));
            StatementContext context =
                    StatementContext.of("looking for new rows in", relation.child(), relation.name());
            if (session.number(late, context) > 0) {
                throw new ConcurrentChangeException("Somebody is adding rows to " + relation.child()
                        + " that refer, through " + relation + ", to rows that were to go.");
            }
        }
    }

    private void remove(CyclePlan circle) {
        List<TableName> affected = circle.order().stream()
                .filter(table -> traversal.rowsToDelete(table).size() > 0)
                .toList();
        for (Relation relation : circle.cut()) {
            if (affected.contains(relation.child())) {
                cut(relation);
            }
        }
        if (!circle.closed() || affected.isEmpty()) {
            affected.forEach(this::remove);
            return;
        }
        affected.forEach(this::lookForLatecomers);
        session.pace().at(affected.get(0));
        switch (dialect.foreignKeys().closedCircle()) {
            case DEFERRED -> {
                session.update(
                        Sql.of(dialect.foreignKeys().deferChecks()),
                        StatementContext.of("putting off checks on", affected.get(0)));
                affected.forEach(
                        table -> session.update(delete(table), StatementContext.of("removing rows of", table)));
            }
            case TOGETHER -> together(affected);
            case UNCHECKED ->
                affected.forEach(table -> session.update(
                        Sql.of(dialect.foreignKeys().unchecked("")).add(delete(table)),
                        StatementContext.of("removing rows of", table)));
            case LEAVES_FIRST -> affected.forEach(this::leavesFirst);
        }
        for (TableName table : affected) {
            // The engine's own actions may take some of the rows first, so what counts is that none is left.
            KeySet rows = traversal.rowsToDelete(table);
            Sql count = Sql.of("SELECT COUNT(*) FROM " + dialect.syntax().table(table) + " t WHERE ")
                    .add(rows.contains("t"));
            long left = session.number(count, StatementContext.of("looking for rows left in", table));
            expect(rows, rows.size() - left);
            session.pace().did(table, rows.size());
        }
    }

    private Sql delete(TableName table) {
        KeySet rows = traversal.rowsToDelete(table);
        return delete(rows, rows.mayTouch());
    }

    /** In one statement, whose parts all see the rows as they were before it. */
    private void together(List<TableName> tables) {
        Sql statement = new Sql();
        for (int i = 0; i < tables.size() - 1; i++) {
            statement
                    .add(i == 0 ? "WITH " : ", ")
                    .add("circle" + i + " AS (")
                    .add(delete(tables.get(i)))
                    .add(")");
        }
        TableName last = tables.get(tables.size() - 1);
        session.update(statement.add(" ").add(delete(last)), StatementContext.of("removing rows of", last));
    }

    /** Again and again those rows that no other row refers to, for tables whose rows refer to their own table. */
    private void leavesFirst(TableName table) {
        Sql leaves = new Sql();
        for (Relation relation : traversal.schema().relationsTo(table)) {
            if (relation.toItself() && relation.enforced()) {
                leaves.add(" AND NOT EXISTS (SELECT 1 FROM " + dialect.syntax().table(table) + " c WHERE ");
                String and = "";
                for (int i = 0; i < relation.childColumns().size(); i++) {
                    leaves.add(and + "c."
                            + dialect.syntax().quote(relation.childColumns().get(i)) + " = t."
                            + dialect.syntax().quote(relation.parentColumns().get(i)));
                    and = " AND ";
                }
                // A row that refers to itself is in nobody's way.
                String same = relation.parentColumns().stream()
                        .map(column -> "c." + dialect.syntax().quote(column) + " = t."
                                + dialect.syntax().quote(column))
                        .collect(Collectors.joining(" AND "));
                leaves.add(" AND NOT (" + same + "))");
            }
        }
        long removed = 1;
        while (removed > 0) {
            removed = session.update(delete(table).add(leaves), StatementContext.of("removing rows of", table));
        }
    }

    /** Takes links out of deleted rows, so that no order of removing them is wrong. */
    private void cut(Relation relation) {
        KeySet rows = traversal.rowsToDelete(relation.child());
        List<String> columns = relation.childColumns().stream()
                .filter(column -> rows.table().column(column).nullable())
                .toList();
        Sql update = update(rows, columns).add(" AND " + dialect.syntax().quote(columns.get(0)) + " IS NOT NULL");
        session.update(update, StatementContext.of("cutting links in", relation.child(), relation.name()));
    }

    private void change(RelationStep branch, KeySet rows) {
        if (rows.size() == 0 || branch.action() instanceof RuleAction.Keep) {
            return;
        }
        Sql update = Sql.of(
                dialect.syntax().update(dialect.syntax().table(rows.table().name())));
        String comma = "";
        for (Map.Entry<String, Sql> value : NewValue.of(branch, traversal).entrySet()) {
            update.add(comma + dialect.syntax().quote(value.getKey()) + " = ").add(value.getValue());
            comma = ", ";
        }
        for (Assignment stamp : traversal
                .plan()
                .writes()
                .auditColumns()
                .getOrDefault(rows.table().name(), List.of())) {
            update.add(comma + dialect.syntax().quote(stamp.column()) + " = ")
                    .add(traversal.value(stamp, rows.table()));
        }
        StatementContext context = StatementContext.of(
                branch.action() instanceof RuleAction.Blank ? "blanking rows of" : "changing links in",
                rows.table().name(),
                branch.relation().name());
        expect(rows, session.update(update.add(" WHERE ").add(rows.mayTouch()), context));
    }

    /** The successor takes over from the row as it stands, before that one ends. */
    private void succeed() {
        Replacement replacement = traversal.plan().replacement();
        KeySet rows = traversal.rowsToDelete(traversal.program().root());
        if (replacement == null || rows.size() == 0) {
            return;
        }
        Map<String, Sql> values = new LinkedHashMap<>();
        for (Column column : rows.table().columns()) {
            if (!replacement.omitted().contains(column.name())) {
                values.put(column.name(), Sql.of("t." + dialect.syntax().quote(column.name())));
            }
        }
        for (Assignment opening : replacement.opening()) {
            ColumnType type = rows.table().column(opening.column()).type();
            Sql value = traversal.value(opening, rows.table());
            values.put(
                    opening.column(),
                    opening.value() == null ? value : dialect.syntax().typed(value, type));
        }
        TableName name = rows.table().name();
        Sql insert = Sql.of("INSERT INTO " + dialect.syntax().table(name) + " ("
                + values.keySet().stream().map(dialect.syntax()::quote).collect(Collectors.joining(", "))
                + ") SELECT ");
        String comma = "";
        for (Sql value : values.values()) {
            insert.add(comma).add(value);
            comma = ", ";
        }
        insert.add(" FROM " + dialect.syntax().table(name) + " t WHERE ").add(rows.mayTouch());
        expect(rows, session.update(insert, StatementContext.of("adding the successor of a row of", name)));
    }

    /** While the rows that refer to them still do. */
    private void stamp(ColumnWrites.Parent parent) {
        TableName name = parent.relation().parent();
        Sql which = traversal.conditions().touchedParents(parent.relation());
        if (which == null) {
            return;
        }
        Table table = traversal.schema().table(name);
        Sql update = Sql.of(dialect.syntax().update(dialect.syntax().table(name)))
                .add(set(parent.auditColumns(), table))
                .add(" WHERE ")
                .add(which);
        session.update(
                update,
                StatementContext.of("stamping rows of", name, parent.relation().name()));
    }

    private Sql set(List<Assignment> assignments, Table table) {
        return set(assignments, table, List.of());
    }

    /** @param restored columns that get back what they held */
    private Sql set(List<Assignment> assignments, Table table, List<String> restored) {
        Sql set = new Sql();
        for (Assignment assignment : assignments) {
            set.add(set.text().isEmpty() ? "" : ", ")
                    .add(dialect.syntax().quote(assignment.column()) + " = ")
                    .add(
                            restored.contains(assignment.column())
                                    ? marks.held(table, assignment.column(), traversal.value(assignment, table))
                                    : traversal.value(assignment, table));
        }
        return set;
    }

    /** Rows that are marked, or that come back, stay where they are. */
    private void mark(TableName table, List<Assignment> assignments) {
        KeySet rows = traversal.rowsToDelete(table);
        if (rows.size() == 0 || assignments.isEmpty()) {
            return;
        }
        MarkerPredicates marker = traversal.plan().marked().get(table);
        boolean back = traversal.program().mode(table) == OperationKind.RESTORE;
        Sql set = set(assignments, rows.table(), back && marker != null ? marker.columns() : List.of());
        long marked = 0;
        for (Sql run : traversal.compared() ? rows.runs(ROWS_AT_ONCE) : List.of(rows.mayTouch())) {
            session.pace().at(table);
            Sql update = Sql.of(dialect.syntax().update(dialect.syntax().table(table)))
                    .add(set)
                    .add(" WHERE ")
                    .add(run);
            long more = session.update(update, StatementContext.of("marking rows of", table));
            session.pace().did(table, more);
            marked += more;
        }
        expect(rows, marked);
    }

    private void remove(TableName table) {
        KeySet rows = traversal.rowsToDelete(table);
        for (RelationStep branch : traversal.leavesBy(table)) {
            if (traversal.rowsToDelete(branch.relation().parent()).size() > 0) {
                session.pace().at(table);
                Sql delete = Sql.of(dialect.syntax().deleteFrom(dialect.syntax().table(table)) + " WHERE ")
                        .add(traversal.conditions().unseen(branch));
                StatementContext context = StatementContext.of(
                        "removing rows of", table, branch.relation().name());
                Long before = traversal.wentBefore(branch);
                LongConsumer counted = removed -> {
                    if (traversal.compared()) {
                        session.pace().did(table, removed);
                        expect(rows, removed);
                    } else {
                        rows.counted(traversal.way(branch), removed);
                    }
                };
                if (before == null) {
                    remove(
                            delete,
                            context,
                            traversal.rowsToDelete(branch.relation().parent()),
                            counted);
                } else {
                    counted.accept(before);
                }
            }
        }
        if (!traversal.leavesBy(table).isEmpty()) {
            return;
        }
        if (rows.size() == 0) {
            return;
        }
        lookForLatecomers(table);
        StatementContext context = StatementContext.of("removing rows of", table);
        boolean inRuns = traversal.compared() || rows.described();
        Iterator<Sql> runs = (inRuns ? rows.runs(ROWS_AT_ONCE) : List.of(rows.mayTouch())).iterator();
        AtomicLong all = new AtomicLong();
        while (runs.hasNext()) {
            Sql run = runs.next();
            boolean last = !runs.hasNext();
            session.pace().at(table);
            remove(delete(rows, run), context, rows, removed -> {
                session.pace().did(table, removed);
                long gone = all.addAndGet(removed);
                if (last && traversal.countedAsTheyGo()) {
                    rows.went(gone);
                } else if (last) {
                    expect(rows, gone);
                }
            });
        }
    }

    /** Together with others where they are few, since somebody may want to be told of each table otherwise. */
    private void remove(Sql delete, StatementContext context, KeySet by, LongConsumer counted) {
        removals.add(delete, context, counted);
        if (by.size() > session.keysInMemory()) {
            removals.carryOut();
        }
    }

    private Sql delete(KeySet rows, Sql which) {
        return Sql.of(dialect.syntax()
                                .deleteFrom(dialect.syntax().table(rows.table().name())) + " WHERE ")
                .add(which);
    }

    private Sql update(KeySet rows, List<String> columns) {
        String assignments = columns.stream()
                .map(column -> dialect.syntax().quote(column) + " = NULL")
                .collect(Collectors.joining(", "));
        return Sql.of(dialect.syntax()
                                .update(dialect.syntax().table(rows.table().name())) + assignments + " WHERE ")
                .add(rows.mayTouch());
    }

    private static void expect(KeySet rows, long affected) {
        List<String> triggers = rows.table().triggers();
        // The rows are locked, so that nobody else can have changed them meanwhile.
        if (affected != rows.size() && !triggers.isEmpty()) {
            throw new KeptByTriggerException("Of " + rows.size() + " rows of " + rows.table()
                    + ", the database has removed or"
                    + " changed " + affected + ": a trigger or rule of the table does otherwise, without an error ("
                    + String.join(", ", triggers) + ").");
        }
        if (affected != rows.size()) {
            throw new ConcurrentChangeException("Of " + rows.size() + " rows found in " + rows.table() + ", " + affected
                    + " were still the same when they were to go.");
        }
    }
}
