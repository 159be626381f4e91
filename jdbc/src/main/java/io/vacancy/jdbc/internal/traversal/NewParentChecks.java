// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.session.StatementContext;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.MarkerPredicates;
import io.vacancy.spi.plan.RelationStep;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/** Whether the parents that child rows are to get are there, and stay. */
final class NewParentChecks {

    private final RelationTraversal traversal;
    private final Session session;
    private final Consumer<FoundBlocker> found;

    NewParentChecks(RelationTraversal traversal, Consumer<FoundBlocker> found) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.found = found;
    }

    void look() {
        traversal.changed().forEach((branch, rows) -> {
            if (rows.size() > 0 && branch.action() instanceof RuleAction.Reassign reassign) {
                target(branch, rows, reassign.to());
            }
        });
    }

    /** The parent that child rows are to get has to be there and to stay. */
    private void target(RelationStep branch, KeySet rows, NewParent to) {
        Relation relation = branch.relation();
        if (to instanceof NewParent.Given given) {
            String why = standing(relation, given);
            if (why != null) {
                found.accept(FoundBlocker.through(relation, rows.contains("t"), why, branch.permittedRules()));
            }
        } else if (to instanceof NewParent.OfParent of) {
            TableName parent = relation.parent();
            String column = session.dialect().syntax().quote(of.columns().get(0));
            Sql own = Sql.of(" AND EXISTS (SELECT 1 FROM "
                            + session.dialect().syntax().table(parent) + " p WHERE ")
                    .add(session.dialect().syntax().joined(relation, "p", "t"));
            if (!traversal.schema().table(relation.child()).anyNullable(relation.childColumns())) {
                found.accept(FoundBlocker.through(
                        relation,
                        rows.contains("t").add(own).add(" AND p." + column + " IS NULL)"),
                        "the " + parent + " they refer to has no "
                                + of.columns().get(0) + " to give them to"));
            }
            Sql staying = Sql.of(" AND p." + column + " IS NOT NULL AND NOT EXISTS (SELECT 1 FROM "
                            + session.dialect().syntax().table(parent) + " q WHERE q."
                            + session.dialect()
                                    .syntax()
                                    .quote(relation.parentColumns().get(0)) + " = p." + column
                            + " AND NOT ")
                    .add(traversal.rowsToDelete(parent).contains("q"));
            Sql scope = traversal.terms().inScope(parent, "q");
            MarkerPredicates marked = traversal.plan().marked().get(parent);
            if (marked != null) {
                staying.add(" AND ").add(traversal.terms().condition(parent, marked.active(), "q"));
            }
            staying.add(scope == null ? new Sql() : Sql.of(" AND ").add(scope)).add("))");
            found.accept(FoundBlocker.through(
                    relation,
                    rows.contains("t").add(own).add(staying),
                    "the " + parent + " they would get is not there, or is deleted itself"));
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
        MarkerPredicates marked = traversal.plan().marked().get(parent.name());
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
}
