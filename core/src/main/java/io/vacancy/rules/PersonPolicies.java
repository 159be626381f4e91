// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.condition.RelativeTime;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.OperationKind;
import io.vacancy.schema.Column;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.schema.ValueKind;
import java.time.Period;
import java.time.temporal.ChronoUnit;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * What becomes of rows that belong to a person who is forgotten. A row belongs to a person if it refers, directly or by way of
 * other such rows, to the person by relations whose rules let it go with its parent or block; not by those whose rules
 * only change its link. What happens to it then, its own table says.
 *
 * @param persons the tables whose rows are persons
 * @param policies by table, the last of each for every row
 * @param relations what is said of single relations for this
 */
record PersonPolicies(
        Set<TableName> persons, Map<TableName, List<Rule>> policies, Map<Relation, List<Rule>> relations) {

    PersonPolicies {
        persons = Set.copyOf(persons);
        policies = Map.copyOf(policies);
        relations = Map.copyOf(relations);
    }

    /** The tables in the order of their names. */
    Set<TableName> inOrder() {
        return new TreeSet<>(persons);
    }

    /** What becomes of a person's own row. */
    OperationKind mode(TableName table) {
        List<Rule> policy = persons.contains(table) ? policies.get(table) : null;
        if (policy == null) {
            throw new MisuseException(
                    "The rule book does not call rows of " + table + " persons, so none of them can be forgotten.",
                    "Say person: true of it, and by forget what becomes of its rows.");
        }
        return policy.get(0).action() instanceof RuleAction.Erase ? OperationKind.ERASE : OperationKind.BLANK;
    }

    /** What becomes of those rows of a table for which nothing else is said; null where it is not said at all. */
    private @Nullable RuleAction last(TableName table) {
        List<Rule> policy = policies.get(table);
        return policy == null ? null : policy.get(policy.size() - 1).action();
    }

    /** The policy of a table with its names and values; refused if it could never work. */
    static List<Rule> fitted(List<Rule> policy, boolean person, boolean neverDeleted, Table table, Schema schema) {
        List<Rule> fitted = new ArrayList<>();
        for (Rule rule : policy) {
            if (!fitted.isEmpty() && everyRow(fitted.get(fitted.size() - 1))) {
                throw new MisuseException(
                        "What stands after "
                                + fitted.get(fitted.size() - 1).action().word() + " in forget of " + table
                                + " can never hold.",
                        "Put what is for every row last.");
            }
            fitted.add(fitted(rule, table, schema));
        }
        if (fitted.isEmpty() || !everyRow(fitted.get(fitted.size() - 1))) {
            throw new MisuseException(
                    "It is not said what becomes of every row of " + table + " when a person is forgotten.",
                    "End forget with erase, blank or keep.");
        }
        RuleAction last = fitted.get(fitted.size() - 1).action();
        if (person && (fitted.size() > 1 || last instanceof RuleAction.Keep)) {
            throw new MisuseException(
                    "A person's own row in " + table + " can only be erased or blanked.",
                    "Write forget: erase or forget: blank.");
        }
        if (neverDeleted && last instanceof RuleAction.Erase) {
            throw new MisuseException(
                    "Rows of " + table + " are never deleted, so none is erased when a person is forgotten.",
                    "Write forget: blank or forget: {keep: \"reason\"}.");
        }
        return fitted;
    }

    private static boolean everyRow(Rule rule) {
        boolean ends = rule.action() instanceof RuleAction.Keep keep && keep.until() != null;
        return rule.when() == null && !ends;
    }

    private static Rule fitted(Rule rule, Table table, Schema schema) {
        RuleAction action = rule.action();
        boolean removes = action instanceof RuleAction.Erase || action instanceof RuleAction.Blank;
        boolean keeps = action instanceof RuleAction.Keep || action instanceof RuleAction.Block;
        if (!removes && !keeps) {
            throw new MisuseException(
                    "Rows of " + table + " that belong to a person are erased, blanked or kept, or block; "
                            + action.word() + " is none of these.",
                    "Write erase, blank, {keep: \"reason\"} or {block: \"reason\"}.");
        }
        if (removes && rule.when() != null) {
            throw new MisuseException(
                    action.word() + " in forget of " + table + " is for every row, and cannot have a condition.",
                    "Put keep or block before it, with the condition that excludes rows.");
        }
        Condition written = rule.when();
        Condition when = written == null ? null : written.readFor(table, schema);
        RelationRules.lettingNoNullPast(when, action.word() + " in forget of " + table, table);
        RuleAction.Until until = action instanceof RuleAction.Keep keep ? keep.until() : null;
        if (until == null) {
            return new Rule(action, when);
        }
        Column column = table.column(until.column());
        ValueKind kind = column.type().kind();
        if (kind != ValueKind.DATE && kind != ValueKind.TIMESTAMP && kind != ValueKind.INSTANT) {
            throw new MisuseException("Rows of " + table + " cannot be kept until some time after " + column.name()
                    + ", which holds " + column.type().declared() + ".");
        }
        RuleAction.Keep keep = (RuleAction.Keep) action;
        return new Rule(
                new RuleAction.Keep(keep.reason(), new RuleAction.Until(column.name(), until.time()), List.of()), when);
    }

    /** What can be said of a single relation: whether child rows belong to the person, and what else becomes of them. */
    static void sayable(List<Rule> rules, Relation relation) {
        for (Rule rule : rules) {
            boolean belongs = rule.action() instanceof RuleAction.Cascade || rule.action() instanceof RuleAction.Block;
            if (!belongs && !changesLink(rule.action())) {
                throw new MisuseException(
                        rule.action().word() + " in forget of " + relation + " is for the table " + relation.child()
                                + ".",
                        "Write cascade where the rows belong to the person; else set-null, reassign, leave or block.");
            }
        }
    }

    /** A row is kept while so much time has not passed since; also where nobody knows since when. */
    private static Condition stillKept(RuleAction.Until until, Table table) {
        Column column = table.column(until.column());
        Period time = until.time();
        RelativeTime now = RelativeTime.nowIn(column);
        RelativeTime since = time.getDays() != 0
                ? now.minus(time.getDays(), ChronoUnit.DAYS)
                : now.minus(time.toTotalMonths(), ChronoUnit.MONTHS);
        return new Condition.Any(List.of(
                new Condition.Compare(column.name(), Condition.Comparison.GREATER, since),
                new Condition.IsNull(column.name())));
    }

    /** The rules on all relations to tables of which a policy is known, where a person is forgotten. */
    RulesByMode rules(Schema schema, RulesByMode usual) {
        Map<Relation, List<Rule>> erased = new LinkedHashMap<>(usual.erased());
        Map<Relation, List<Rule>> blanked = new LinkedHashMap<>();
        for (Relation relation : schema.relations()) {
            RuleAction parents = last(relation.parent());
            if (parents instanceof RuleAction.Erase) {
                erased.put(relation, rules(relation, true, schema, usual));
            } else if (parents instanceof RuleAction.Blank) {
                blanked.put(relation, rules(relation, false, schema, usual));
            }
        }
        return new RulesByMode(erased, usual.softDeleted(), blanked);
    }

    /** What is said of a relation for this, else its usual rules. */
    private List<Rule> said(Relation relation, RulesByMode usual) {
        return relations.getOrDefault(relation, usual.of(relation));
    }

    private List<Rule> rules(Relation relation, boolean parentErased, Schema schema, RulesByMode usual) {
        List<Rule> rules = new ArrayList<>();
        for (Rule rule : said(relation, usual)) {
            RuleAction action = rule.action();
            if (changesLink(action)) {
                rules.add(parentErased ? unlinked(rule, relation) : new Rule(new RuleAction.Leave(), rule.when()));
            } else if (action instanceof RuleAction.Block && rule.when() != null) {
                rules.add(rule);
            } else {
                belonging(relation, parentErased, schema).forEach(each -> rules.add(both(rule.when(), each)));
            }
        }
        return rules;
    }

    /** The rules by which everything is found that belongs to a person, to be looked at; whatever becomes of it. */
    RulesByMode belonging(Schema schema, RulesByMode usual) {
        Map<Relation, List<Rule>> followed = new LinkedHashMap<>();
        for (Relation relation : schema.relations()) {
            boolean another = persons.contains(relation.child());
            followed.put(
                    relation,
                    said(relation, usual).stream()
                            .map(rule -> another || changesLink(rule.action())
                                    ? new Rule(new RuleAction.Leave(), rule.when())
                                    : new Rule(new RuleAction.Cascade(), rule.when()))
                            .toList());
        }
        return new RulesByMode(followed, Map.of(), Map.of());
    }

    private static Rule unlinked(Rule rule, Relation relation) {
        boolean impossible = rule.action() instanceof RuleAction.Leave && relation.enforced();
        return impossible
                ? new Rule(
                        new RuleAction.Block("they are to be left, and the database enforces the relation"),
                        rule.when())
                : rule;
    }

    private static boolean changesLink(RuleAction action) {
        return action instanceof RuleAction.SetNull
                || action instanceof RuleAction.Reassign
                || action instanceof RuleAction.Leave;
    }

    /** Relations by which rows belong to a person of which nothing is said, so that they block. */
    List<Relation> unsaid(Schema schema, RulesByMode usual) {
        List<Relation> unsaid = new ArrayList<>();
        Set<TableName> followed = new TreeSet<>(persons);
        Deque<TableName> waiting = new ArrayDeque<>(followed);
        for (TableName parent = waiting.poll(); parent != null; parent = waiting.poll()) {
            RuleAction parents = last(parent);
            boolean follows = parents instanceof RuleAction.Erase || parents instanceof RuleAction.Blank;
            for (Relation relation : follows ? schema.relationsTo(parent) : List.<Relation>of()) {
                boolean belongs = said(relation, usual).stream()
                        .anyMatch(rule -> !changesLink(rule.action())
                                && !(rule.action() instanceof RuleAction.Block && rule.when() != null));
                if (!belongs || persons.contains(relation.child())) {
                    continue;
                }
                if (!policies.containsKey(relation.child())) {
                    unsaid.add(relation);
                } else if (followed.add(relation.child())) {
                    waiting.add(relation.child());
                }
            }
        }
        return unsaid;
    }

    private static Rule both(@Nullable Condition outer, Rule rule) {
        Condition when = rule.when();
        return outer == null ? rule : new Rule(rule.action(), when == null ? outer : outer.and(when));
    }

    private List<Rule> belonging(Relation relation, boolean parentErased, Schema schema) {
        Table child = schema.table(relation.child());
        if (persons.contains(child.name())) {
            return List.of(
                    parentErased ? Rule.block("they are persons themselves, and still refer to it") : Rule.leave());
        }
        List<Rule> policy = policies.get(child.name());
        if (policy == null) {
            return List.of(Rule.block(
                    "they belong to the person, and the rule book does not say by forget what becomes of them"));
        }
        List<Rule> rules = new ArrayList<>();
        for (Rule each : policy) {
            rules.add(new Rule(action(each.action(), relation, parentErased, child), when(each, child)));
        }
        return rules;
    }

    private static @Nullable Condition when(Rule rule, Table table) {
        Condition when = rule.when();
        RuleAction.Until until = rule.action() instanceof RuleAction.Keep keep ? keep.until() : null;
        if (until == null) {
            return when;
        }
        Condition kept = stillKept(until, table);
        return when == null ? kept : when.and(kept);
    }

    private static RuleAction action(RuleAction action, Relation relation, boolean parentErased, Table child) {
        boolean loses = parentErased && relation.enforced();
        boolean stuck = loses
                && !relation.childColumns().stream()
                        .allMatch(column -> child.column(column).nullable());
        List<String> lost = loses ? relation.childColumns() : List.of();
        if (action instanceof RuleAction.Erase) {
            return parentErased ? new RuleAction.Cascade() : action;
        }
        if (action instanceof RuleAction.Blank) {
            return stuck
                    ? new RuleAction.Block("they are blanked, and cannot lose their link to what is erased")
                    : new RuleAction.Blank(lost, true);
        }
        if (action instanceof RuleAction.Keep keep) {
            return stuck
                    ? new RuleAction.Block(
                            "they are kept (" + keep.said() + "), and cannot lose their link to what is erased")
                    : new RuleAction.Keep(keep.reason(), keep.until(), lost);
        }
        return action;
    }
}
