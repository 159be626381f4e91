package io.vacancy.jdbc.internal.traversal;

import io.vacancy.archive.Hold;
import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.ForeignKeys.ClosedCircle;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.DeleteStep;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.RelationStep;
import io.vacancy.spi.plan.Replacement;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** All that may stand in the way of what a walk found. */
final class BlockerQuery {

    private final RelationTraversal traversal;
    private final Session session;
    private final List<FoundBlocker> found = new ArrayList<>();

    private BlockerQuery(RelationTraversal traversal) {
        this.traversal = traversal;
        this.session = traversal.session();
    }

    static List<FoundBlocker> of(RelationTraversal traversal) {
        BlockerQuery obstacles = new BlockerQuery(traversal);
        Replacement replacement = traversal.replacement();
        if (replacement != null && replacement.start() != null) {
            obstacles.later(replacement, replacement.start());
        }
        if (traversal.program().mode() == OperationKind.RESTORE) {
            new MarkerRestoreChecks(traversal, obstacles.found::add).look();
        }
        traversal.holds().forEach(obstacles::held);
        traversal.program().holds().forEach(obstacles::holding);
        traversal.program().relations().forEach(obstacles::crossing);
        traversal.changed().forEach((branch, rows) -> {
            if (rows.size() > 0 && branch.action() instanceof RuleAction.Reassign reassign) {
                obstacles.target(branch, rows, reassign.to());
            }
        });
        traversal.changed().keySet().stream()
                .map(branch -> branch.relation().child())
                .distinct()
                .forEach(obstacles::collisions);
        obstacles.circles();
        return obstacles.found;
    }

    /** A version that begins no later than the one it is to follow, or no earlier than another one. */
    private void later(Replacement replacement, String start) {
        TableName name = traversal.program().root();
        Table table = traversal.schema().table(name);
        MarkerPredicates marked = traversal.marked(name);
        if (marked == null
                || traversal.rowsToDelete(name).size() == 0
                || !(marked.active() instanceof Condition.All all)) {
            return;
        }
        Condition.Latest latest = (Condition.Latest) all.parts().get(0);
        String begin = session.dialect().syntax().quote(start);
        Sql which = traversal
                .rowsToDelete(name)
                .contains("t")
                .add(" AND EXISTS (SELECT 1 FROM " + session.dialect().syntax().table(name) + " o WHERE ");
        for (String column : latest.of()) {
            String quoted = session.dialect().syntax().quote(column);
            which.add("o." + quoted + " = t." + quoted + " AND ");
        }
        which.add("o." + begin + " >= ")
                .bind(replacement.from(), table.column(start).type());
        found.add(new FoundBlocker(
                name,
                null,
                which.add(")"),
                "a version of it begins on " + replacement.from() + " or later",
                false,
                List.of()));
    }

    /** Rows of several tables that no order of statements can remove on this engine. */
    private void circles() {
        if (session.dialect().foreignKeys().closedCircle() != ClosedCircle.LEAVES_FIRST) {
            return;
        }
        for (DeleteStep removal : traversal.program().removals()) {
            CyclePlan circle = CyclePlan.of(removal, traversal.schema(), session.dialect());
            for (Relation relation : circle.closed() ? circle.left() : List.<Relation>of()) {
                boolean affected = !relation.toItself()
                        && traversal.rowsToDelete(relation.child()).size() > 0
                        && traversal.rowsToDelete(relation.parent()).size() > 0;
                if (affected) {
                    found.add(new FoundBlocker(
                            relation,
                            traversal.rowsToDelete(relation.child()).contains("t"),
                            session.dialect().name() + " cannot remove rows of several tables that refer to one another"
                                    + " in a circle through columns which cannot be NULL",
                            false,
                            List.of()));
                }
            }
        }
    }

    /** Rows that somebody has put a hold on. */
    private void held(Hold hold) {
        for (TableName name : traversal.program().tables()) {
            Table table = traversal.schema().table(name);
            if (name.toString().equals(hold.table())
                    && traversal.program().mode(name) == OperationKind.ERASE
                    && traversal.rowsToDelete(name).size() > 0) {
                Sql which = traversal
                        .rowsToDelete(name)
                        .contains("t")
                        .add(" AND ")
                        .add(HeldRows.which(hold, table, session.dialect(), "t"));
                found.add(new FoundBlocker(name, null, which, HeldRows.reason(hold), false, List.of()));
            }
        }
    }

    private void holding(RelationStep branch) {
        if (traversal.rowsToDelete(branch.relation().parent()).size() == 0
                || !(branch.action() instanceof RuleAction.Block block)) {
            return;
        }
        Sql which = traversal.outside(branch);
        Sql scope = traversal.terms().inScope(branch.relation().child());
        if (scope != null) {
            which.add(" AND ").add(scope);
        }
        found.add(new FoundBlocker(branch.relation(), which, block.reason(), false, branch.permittedRules()));
    }

    /** Rows outside the scope that would be touched, or would be left behind without a parent. */
    private void crossing(Relation relation) {
        Sql outside = traversal.rowsToDelete(relation.parent()).size() == 0 ? null : traversal.outOfScope(relation);
        if (outside != null) {
            found.add(new FoundBlocker(relation, outside, "rows outside the scope of who asks", true, List.of()));
        }
    }

    /** The parent that child rows are to get has to be there and to stay. */
    private void target(RelationStep branch, KeySet rows, NewParent to) {
        Relation relation = branch.relation();
        if (to instanceof NewParent.Given given) {
            String why = standing(relation, given);
            if (why != null) {
                found.add(new FoundBlocker(relation, rows.contains("t"), why, false, branch.permittedRules()));
            }
        } else if (to instanceof NewParent.OfParent of) {
            TableName parent = relation.parent();
            String column = session.dialect().syntax().quote(of.columns().get(0));
            Sql own = Sql.of(" AND EXISTS (SELECT 1 FROM "
                            + session.dialect().syntax().table(parent) + " p WHERE ")
                    .add(session.dialect().syntax().joined(relation, "p", "t"));
            if (!traversal.schema().table(relation.child()).anyNullable(relation.childColumns())) {
                found.add(new FoundBlocker(
                        relation,
                        rows.contains("t").add(own).add(" AND p." + column + " IS NULL)"),
                        "the " + parent + " they refer to has no "
                                + of.columns().get(0) + " to give them to",
                        false,
                        List.of()));
            }
            Sql staying = Sql.of(" AND p." + column + " IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "
                            + session.dialect().syntax().table(parent) + " q WHERE q."
                            + session.dialect()
                                    .syntax()
                                    .quote(relation.parentColumns().get(0)) + " = p." + column
                            + " AND NOT ")
                    .add(traversal.rowsToDelete(parent).contains("q"));
            Sql scope = traversal.terms().inScope(parent, "q");
            MarkerPredicates marked = traversal.marked(parent);
            if (marked != null) {
                staying.add(" AND ").add(traversal.terms().condition(parent, marked.active(), "q"));
            }
            staying.add(scope == null ? new Sql() : Sql.of(" AND ").add(scope)).add("))");
            found.add(new FoundBlocker(
                    relation,
                    rows.contains("t").add(own).add(staying),
                    "the " + parent + " they would get is not there, or is deleted itself",
                    false,
                    List.of()));
        }
    }

    /** Why the given parent cannot take rows over, or null if it can. */
    private @Nullable String standing(Relation relation, NewParent.Given given) {
        Table parent = traversal.schema().table(relation.parent());
        Sql select = Sql.of("SELECT 1 FROM " + session.dialect().syntax().table(parent.name()) + " t WHERE 1 = 1");
        List<Object> values = given.key().valuesFor(parent, relation.parentColumns());
        for (int i = 0; i < values.size(); i++) {
            String column = relation.parentColumns().get(i);
            select.add(" AND t." + session.dialect().syntax().quote(column) + " = ")
                    .bind(values.get(i), parent.column(column).type());
        }
        Sql scope = traversal.terms().inScope(parent.name());
        if (scope != null) {
            select.add(" AND ").add(scope);
        }
        MarkerPredicates marked = traversal.marked(parent.name());
        if (marked != null) {
            select.add(" AND ").add(traversal.terms().condition(parent.name(), marked.active(), "t"));
        }
        StatementContext context = StatementContext.of("looking for the new parent in", parent.name(), relation.name());
        Sql staying = new Sql().add(select);
        boolean goesToo = traversal.program().tables().contains(parent.name());
        if (goesToo) {
            staying.add(" AND NOT ").add(traversal.rowsToDelete(parent.name()).contains("t"));
        }
        // Held until the end, since nothing else keeps it there where no foreign key does.
        staying.add(traversal.locks() ? session.dialect().locking().forUpdate() : "");
        if (!session.query(staying, context, row -> 1).isEmpty()) {
            return null;
        }
        String named = parent + " " + given.key();
        return goesToo && !session.query(select, context, row -> 1).isEmpty()
                ? named + ", which they are to get, is deleted itself"
                : named + ", which they are to get, is not there" + (marked == null ? "" : ", or is marked as deleted");
    }

    /**
     * Rows that would have the same values in a unique key, once some of them have another parent. The values
     * are those after all changes, among all rows that stay.
     */
    private void collisions(TableName child) {
        Table table = traversal.schema().table(child);
        List<Map.Entry<RelationStep, KeySet>> changes = traversal.changed().entrySet().stream()
                .filter(change -> change.getKey().relation().child().equals(child)
                        && change.getValue().size() > 0)
                .toList();
        Set<String> written = new LinkedHashSet<>();
        changes.stream()
                .filter(change -> change.getKey().action() instanceof RuleAction.Reassign)
                .forEach(change -> written.addAll(change.getKey().relation().childColumns()));
        for (List<String> key : table.keys()) {
            if (key.stream().noneMatch(written::contains)) {
                continue;
            }
            Sql same = sameAfterwards(table, key, changes);
            changes.stream()
                    .filter(change ->
                            change.getKey().relation().childColumns().stream().anyMatch(key::contains))
                    .forEach(change -> placeTaken(table, key, change, changes));
            changes.stream()
                    .map(change -> change.getKey().relation())
                    .distinct()
                    .filter(relation -> relation.childColumns().stream().anyMatch(key::contains))
                    .forEach(relation -> found.add(new FoundBlocker(
                            relation,
                            new Sql().add(same),
                            "they would share " + String.join(", ", key) + " with other rows of " + child,
                            false,
                            List.of())));
        }
    }

    /** The place of a row that goes is free only once it has gone, and rows are changed before that. */
    private void placeTaken(
            Table table,
            List<String> key,
            Map.Entry<RelationStep, KeySet> change,
            List<Map.Entry<RelationStep, KeySet>> changes) {
        TableName name = table.name();
        if (!traversal.program().tables().contains(name)
                || traversal.rowsToDelete(name).size() == 0) {
            return;
        }
        Sql taken = change.getValue()
                .contains("t")
                .add(" AND 0 < (SELECT COUNT(*) FROM "
                        + session.dialect().syntax().table(name) + " d WHERE ")
                .add(traversal.rowsToDelete(name).contains("d"));
        for (String column : key) {
            taken.add(" AND d." + session.dialect().syntax().quote(column) + " = ")
                    .add(afterwards(table, column, changes));
        }
        found.add(new FoundBlocker(
                change.getKey().relation(),
                taken.add(")"),
                "they would take the place, by " + String.join(", ", key) + ", of rows of " + name
                        + " that go only after them",
                false,
                List.of()));
    }

    private Sql sameAfterwards(Table table, List<String> key, List<Map.Entry<RelationStep, KeySet>> changes) {
        Sql groups = Sql.of("SELECT ");
        Sql equal = new Sql();
        for (int i = 0; i < key.size(); i++) {
            groups.add(i == 0 ? "" : ", ")
                    .add(afterwards(table, key.get(i), changes))
                    .add(" AS a" + i);
            equal.add((i == 0 ? "" : " AND ") + "shared.a" + i + " = ").add(afterwards(table, key.get(i), changes));
        }
        groups.add(" FROM " + session.dialect().syntax().table(table.name()) + " t");
        Sql staying = new Sql();
        if (traversal.program().tables().contains(table.name())) {
            staying.add("NOT ").add(traversal.rowsToDelete(table.name()).contains("t"));
            groups.add(" WHERE ").add(staying);
            staying.add(" AND ");
        }
        String names = IntStream.range(0, key.size()).mapToObj(i -> "a" + i).collect(Collectors.joining(", "));
        // Not EXISTS, which MariaDB turns into a form that it then refuses where a value is a sub-query.
        // A NULL in a group's key makes the comparison with it unknown, so that no row is among its rows.
        return staying.add("0 < (SELECT COUNT(*) FROM (SELECT " + names + " FROM (")
                .add(groups)
                .add(") afterwards GROUP BY " + names + " HAVING COUNT(*) > 1) shared WHERE ")
                .add(equal)
                .add(")");
    }

    /** What a column of row t will hold. */
    private Sql afterwards(Table table, String column, List<Map.Entry<RelationStep, KeySet>> changes) {
        Sql now = Sql.of("t." + session.dialect().syntax().quote(column));
        Sql whens = new Sql();
        for (Map.Entry<RelationStep, KeySet> change : changes) {
            Sql then = NewValue.of(change.getKey(), traversal.schema(), session.dialect())
                    .get(column);
            if (then != null) {
                whens.add(" WHEN ")
                        .add(change.getValue().contains("t"))
                        .add(" THEN ")
                        .add(then);
            }
        }
        return whens.text().isEmpty()
                ? now
                : Sql.of("CASE").add(whens).add(" ELSE ").add(now).add(" END");
    }
}
