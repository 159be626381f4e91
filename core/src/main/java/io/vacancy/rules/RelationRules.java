// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.condition.NullSemanticsCheck;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.NearestName;
import io.vacancy.request.Key;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Holds single rules against the relation that they are on. */
final class RelationRules {

    private static final List<String> WORDS = List.of("cascade", "set-null", "reassign", "blank", "block", "leave");

    private RelationRules() {}

    /** The rule with names and values of the schema; refused if it could never work. */
    static Rule fitted(Rule rule, Relation relation, Schema schema, OperationKind mode) {
        Table child = schema.table(relation.child());
        Condition written = rule.when();
        Condition when = written == null ? null : written.readFor(child, schema);
        if (rule.action() instanceof RuleAction.Block) {
            lettingNoNullPast(when, "block on " + relation, child);
        }
        return new Rule(fitted(rule.action(), relation, schema, mode), when);
    }

    /** Refuses a condition of what protects rows that is unknown, and so not true, where a column is NULL. */
    static void lettingNoNullPast(@Nullable Condition when, String of, Table table) {
        String column = when == null ? null : NullSemanticsCheck.in(when, table);
        if (column != null) {
            throw new MisuseException(
                    "The condition of " + of + " is unknown where " + table + "." + column
                            + " is NULL, so such rows would slip past it.",
                    "Say what NULL means, as in " + column + " IS NOT TRUE or " + column + " IS NULL OR ….");
        }
    }

    private static RuleAction fitted(RuleAction action, Relation relation, Schema schema, OperationKind mode) {
        boolean writes = action instanceof RuleAction.SetNull
                || action instanceof RuleAction.Reassign
                || (action instanceof RuleAction.Blank loses && !loses.columns().isEmpty());
        if (relation.list() && writes) {
            throw new MisuseException(
                    action.word() + " on " + relation + " is impossible: no key is taken out of a list.",
                    "Write block, cascade, blank or leave.");
        }
        if (action instanceof RuleAction.SetNull setNull) {
            return new RuleAction.SetNull(nulled(setNull.word(), setNull.columns(), relation, schema));
        }
        if (action instanceof RuleAction.Blank blank) {
            boolean unlinked = mode == OperationKind.ERASE
                    && (relation.enforced() || !blank.columns().isEmpty());
            return new RuleAction.Blank(unlinked ? nulled(blank.word(), blank.columns(), relation, schema) : List.of());
        }
        if (action instanceof RuleAction.Keep) {
            throw new MisuseException(
                    "keep on " + relation + " is for the forget of a table.",
                    "Say it of " + relation.child() + ", or write leave or set-null here.");
        }
        if (action instanceof RuleAction.Erase && mode == OperationKind.ERASE) {
            throw new MisuseException(
                    "erase on " + relation + " is for parents that are soft-deleted.", "Write cascade here.");
        }
        if (action instanceof RuleAction.Leave && relation.enforced() && mode == OperationKind.ERASE) {
            throw new MisuseException("Rows of " + relation + " cannot be left: the database enforces the relation.");
        }
        if (action instanceof RuleAction.Reassign reassign) {
            writable(relation, schema.table(relation.child()));
            return new RuleAction.Reassign(target(reassign.to(), relation, schema));
        }
        return action;
    }

    private static void writable(Relation relation, Table child) {
        for (String name : relation.childColumns()) {
            Column column = child.column(name);
            if (column.generated()) {
                throw new MisuseException("reassign on " + relation + " is impossible: the database computes " + child
                        + "." + name + ".");
            }
        }
    }

    private static NewParent target(NewParent to, Relation relation, Schema schema) {
        Table parent = schema.table(relation.parent());
        if (to instanceof NewParent.Given given) {
            List<Object> values = given.key().valuesFor(parent, relation.parentColumns());
            return new NewParent.Given(Key.of(relation.parentColumns(), values));
        }
        if (to instanceof NewParent.OfParent of) {
            List<String> columns = of.columns().stream()
                    .map(column -> parent.column(column).name())
                    .toList();
            if (columns.size() != 1 || relation.childColumns().size() != 1) {
                throw new MisuseException("reassign on " + relation
                        + " to the parent's own parent takes one column, for a relation of one column.");
            }
            Column from = parent.column(columns.get(0));
            Column into = schema.table(relation.child())
                    .column(relation.childColumns().get(0));
            if (from.type().kind() != into.type().kind()) {
                throw new MisuseException("reassign on " + relation + " takes " + parent + "." + from.name()
                        + ", which holds another kind of value than " + relation.child() + "." + into.name() + ".");
            }
            return new NewParent.OfParent(columns);
        }
        return to;
    }

    private static List<String> nulled(String word, List<String> named, Relation relation, Schema schema) {
        Table child = schema.table(relation.child());
        List<String> columns =
                named.stream().map(column -> child.column(column).name()).toList();
        if (columns.isEmpty()) {
            if (relation.childColumns().size() > 1) {
                throw new MisuseException(
                        word + " on " + relation + " must name its columns, since there are several.");
            }
            columns = relation.childColumns();
        }
        for (String column : columns) {
            if (!relation.childColumns().contains(column)) {
                throw new MisuseException(word + " on " + relation + " names " + column + ", which is not part of it.");
            }
            if (!child.column(column).nullable()) {
                throw new MisuseException(
                        word + " on " + relation + " is impossible: " + child + "." + column + " cannot be NULL.");
            }
        }
        return columns;
    }

    /** Refuses to permit what no request could ask for. */
    static void permittable(String word, Relation relation, Schema schema) {
        if (!WORDS.contains(word)) {
            throw new MisuseException("There is no rule " + word + NearestName.question(word, WORDS));
        }
        if (word.equals("leave") && relation.enforced()) {
            throw new MisuseException(
                    "leave cannot be permitted on " + relation + ": the database enforces the relation.");
        }
        if (relation.list() && (word.equals("set-null") || word.equals("reassign"))) {
            throw new MisuseException(
                    word + " cannot be permitted on " + relation + ": no key is taken out of a list.");
        }
        boolean unlinks = word.equals("set-null") || (word.equals("blank") && relation.enforced());
        if (unlinks && !schema.table(relation.child()).anyNullable(relation.childColumns())) {
            throw new MisuseException(
                    word + " cannot be permitted on " + relation + ": none of its columns can be NULL.");
        }
    }

    /**
     * What two relations that share a column would both write into it, where only one of them could have its
     * way; a sentence for each.
     */
    static Map<String, Relation> contradictions(Schema schema, Map<Relation, List<Rule>> rules) {
        Map<String, Relation> told = new LinkedHashMap<>();
        for (Table table : schema.tables()) {
            Map<String, Relation> writers = new HashMap<>();
            for (Relation relation : schema.relationsFrom(table.name())) {
                List<Rule> own = rules.getOrDefault(relation, List.of());
                for (String column : written(relation, own)) {
                    Relation other = writers.put(column, relation);
                    // Both may empty it, but of two new values one would be lost.
                    if (other != null
                            && !apart(other, relation)
                            && (reassigns(own) || reassigns(rules.getOrDefault(other, List.of())))) {
                        told.put(
                                "The rules on " + other + " and on " + relation + " both write " + table + "." + column
                                        + ", and only one of them could have its way.",
                                relation);
                    }
                }
            }
        }
        return told;
    }

    /** No row refers by both. */
    private static boolean apart(Relation one, Relation other) {
        return one.discriminator() != null
                && other.discriminator() != null
                && one.discriminator()
                        .column()
                        .name()
                        .equals(other.discriminator().column().name())
                && !one.discriminator().value().equals(other.discriminator().value());
    }

    private static boolean reassigns(List<Rule> rules) {
        return rules.stream().anyMatch(rule -> rule.action() instanceof RuleAction.Reassign);
    }

    private static Set<String> written(Relation relation, List<Rule> rules) {
        Set<String> columns = new LinkedHashSet<>();
        for (Rule rule : rules) {
            if (rule.action() instanceof RuleAction.SetNull setNull) {
                columns.addAll(setNull.columns());
            } else if (rule.action() instanceof RuleAction.Blank blank) {
                columns.addAll(blank.columns());
            }
        }
        if (reassigns(rules)) {
            columns.addAll(relation.childColumns());
        }
        return columns;
    }
}
