// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.condition.Condition;
import io.vacancy.jdbc.internal.session.Session;
import io.vacancy.jdbc.internal.sql.Referring;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.Program;
import io.vacancy.spi.plan.RelationStep;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Conditions that say of rows where they stand to what a traversal has found. */
public final class TraversalConditions {

    private final RelationTraversal traversal;
    private final Session session;
    private final ConditionCompiler terms;

    TraversalConditions(RelationTraversal traversal) {
        this.traversal = traversal;
        this.session = traversal.session();
        this.terms = traversal.terms();
    }

    /** Which rows t a branch takes along from a table that is not looked at. */
    public Sql unseen(RelationStep branch) {
        Sql scope = terms.inScope(branch.relation().child());
        Sql condition = where(branch, null);
        return scope == null ? condition : condition.add(" AND ").add(scope);
    }

    /** Whether the child row t refers to a parent row that comes back, and was marked under the same receipt. */
    private Sql together(Relation relation, @Nullable Integer round) {
        Syntax syntax = session.dialect().syntax();
        return Sql.of("EXISTS (SELECT 1 FROM " + syntax.table(relation.parent()) + " p WHERE "
                        + syntax.joined(relation, "p", "t") + " AND ")
                .add(traversal.rowsToDelete(relation.parent()).contains("p", round))
                .add(" AND ")
                .add(traversal.marks().together(relation))
                .add(")");
    }

    /** Whether the child row t refers to a deleted parent row. */
    private Sql link(Relation relation, @Nullable Integer round) {
        KeySet parents = traversal.rowsToDelete(relation.parent());
        if (relation.followedByKeys()) {
            return parents.refersTo("t", relation.childColumns(), relation.parentColumns(), round);
        }
        Syntax syntax = session.dialect().syntax();
        return Sql.of("EXISTS (SELECT 1 FROM " + syntax.table(relation.parent()) + " p WHERE "
                        + syntax.joined(relation, "p", "t") + " AND ")
                .add(parents.contains("p", round))
                .add(")");
    }

    /** Whether the child row t refers to a deleted parent row and the branch is the one that holds for it. */
    Sql where(RelationStep branch, @Nullable Integer round) {
        Sql condition = branch.underOneReceipt() ? together(branch.relation(), round) : link(branch.relation(), round);
        Condition which = branch.which();
        return which == null
                ? condition
                : condition.add(" AND ").add(terms.condition(branch.relation().child(), which));
    }

    /** Whether the child row t is soft-deleted, refers to a row that comes back, and does not come back itself. */
    Sql stayMarked(RelationStep branch) {
        // A branch may match more than the link, namely the receipts that both were marked under.
        Relation relation = traversal.schema().relation(branch.relation().name());
        Sql condition = link(relation, null).add(" AND ").add(Objects.requireNonNull(meant(branch)));
        return notGoing(condition, relation.child());
    }

    /** Whether the child row t is meant by the branch, whatever it refers to; null where every row is. */
    @Nullable
    Sql meant(RelationStep branch) {
        return branch.which() == null ? null : terms.condition(branch.relation().child(), branch.which());
    }

    /** Whether the child row t is meant by the branch and does not go itself; one that is only marked still refers. */
    public Sql outside(RelationStep branch) {
        Sql condition = where(branch, null);
        return refersWhenMarked(branch.relation())
                ? condition
                : notGoing(condition, branch.relation().child());
    }

    /**
     * Whether the child row t was added since everything was found. A row that was found and blanked may be meant by
     * another rule now, since what it holds is another.
     */
    public Sql late(RelationStep branch) {
        TableName child = branch.relation().child();
        Sql late = notGoing(where(branch, null), child);
        traversal.changed().forEach((changing, rows) -> {
            boolean blanked = changing.action() instanceof RuleAction.Blank
                    && changing.relation().child().equals(child);
            if (blanked && rows.size() > 0) {
                late.add(" AND NOT ").add(rows.contains("t"));
            }
        });
        return late;
    }

    private boolean refersWhenMarked(Relation relation) {
        Program program = traversal.program();
        return traversal.found().containsKey(relation.child())
                && program.mode(relation.parent()) == OperationKind.ERASE
                && program.mode(relation.child()) != OperationKind.ERASE;
    }

    private Sql notGoing(Sql condition, TableName child) {
        KeySet going = traversal.found().get(child);
        return going == null || going.size() == 0
                ? condition
                : condition.add(" AND NOT ").add(going.contains("t"));
    }

    /** Which rows t of the parent are referred to by child rows that go, come back or are changed; null for none. */
    public @Nullable Sql touchedParents(Relation relation) {
        List<KeySet> touched = new ArrayList<>();
        traversal.changed().forEach((branch, rows) -> {
            if (branch.relation().child().equals(relation.child())) {
                touched.add(rows);
            }
        });
        KeySet going = traversal.found().get(relation.child());
        if (going != null) {
            touched.add(going);
        }
        touched.removeIf(rows -> rows.size() == 0);
        if (touched.isEmpty()) {
            return null;
        }
        Sql exists =
                Sql.of("EXISTS (SELECT 1 FROM " + session.dialect().syntax().table(relation.child()) + " c WHERE "
                        + session.dialect().syntax().joined(relation, "t", "c"));
        exists.add(Referring.andKind(relation, session.dialect().syntax(), "c")).add(" AND (");
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
                        .add(Referring.andKind(relation, session.dialect().syntax(), "t"))
                        .add(" AND NOT ")
                        .add(scope);
    }
}
