// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.traversal;

import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.Sql;
import io.vacancy.preview.Action;
import io.vacancy.rules.Assignment;
import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.spi.plan.RelationStep;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;

/** What a change writes into the columns of a child row t. */
public final class NewValue {

    private NewValue() {}

    /** The new value by column; empty for a branch that changes nothing. */
    public static Map<String, Sql> of(RelationStep branch, RelationTraversal traversal) {
        Schema schema = traversal.schema();
        Dialect dialect = traversal.session().dialect();
        Map<String, Sql> values = new LinkedHashMap<>();
        Relation relation = branch.relation();
        if (branch.action() instanceof RuleAction.SetNull setNull) {
            setNull.columns().forEach(column -> values.put(column, Sql.of("NULL")));
        } else if (branch.action() instanceof RuleAction.Blank) {
            Table child = schema.table(relation.child());
            blanks(traversal, child).forEach(blank -> values.put(blank.column(), traversal.value(blank, child)));
        } else if (branch.action() instanceof RuleAction.Reassign reassign
                && reassign.to() instanceof NewParent.Given given) {
            Table parent = schema.table(relation.parent());
            Table child = schema.table(relation.child());
            List<Object> key = given.key().valuesFor(parent, relation.parentColumns());
            for (int i = 0; i < key.size(); i++) {
                String column = relation.childColumns().get(i);
                values.put(
                        column, new Sql().bind(key.get(i), child.column(column).type()));
            }
        } else if (branch.action() instanceof RuleAction.Reassign reassign
                && reassign.to() instanceof NewParent.OfParent of) {
            String column = relation.childColumns().get(0);
            values.put(
                    column,
                    Sql.of("(SELECT p." + dialect.syntax().quote(of.columns().get(0)) + " FROM "
                            + dialect.syntax().table(relation.parent()) + " p WHERE p."
                            + dialect.syntax().quote(relation.parentColumns().get(0)) + " = t."
                            + dialect.syntax().quote(column) + ")"));
        }
        return values;
    }

    private static List<Assignment> blanks(RelationTraversal traversal, Table child) {
        return traversal.plan().writes().blanks().getOrDefault(child.name(), List.of());
    }

    /** What a change does to the rows. */
    public static Action action(RelationStep branch) {
        if (branch.action() instanceof RuleAction.Reassign) {
            return Action.REASSIGN;
        }
        if (branch.action() instanceof RuleAction.Keep) {
            return Action.KEEP;
        }
        return branch.action() instanceof RuleAction.Blank ? Action.BLANK : Action.SET_NULL;
    }

    /** What columns will hold, for people: {@code name becomes skipper {id}, email becomes NULL}. */
    static String written(List<Assignment> assignments) {
        return assignments.stream()
                .map(set -> set.column() + " becomes " + (set.value() == null ? "NULL" : set.value()))
                .collect(Collectors.joining(", "));
    }

    /** The same for people and for the fingerprint: {@code NULL}, {@code 3}, {@code that of its parent's answers}. */
    public static String written(RelationStep branch, RelationTraversal traversal) {
        if (branch.action() instanceof RuleAction.Blank) {
            return written(
                    blanks(traversal, traversal.schema().table(branch.relation().child())));
        }
        if (branch.action() instanceof RuleAction.Keep keep) {
            return keep.said();
        }
        if (branch.action() instanceof RuleAction.Reassign reassign) {
            return reassign.to() instanceof NewParent.Given given
                    ? given.key().toString()
                    : reassign.to() instanceof NewParent.OfParent of
                            ? "its parent's " + of.columns().get(0)
                            : "";
        }
        return branch.action() instanceof RuleAction.SetNull setNull
                        && setNull.columns().size()
                                < branch.relation().childColumns().size()
                ? "NULL in " + String.join(", ", setNull.columns())
                : "NULL";
    }
}
