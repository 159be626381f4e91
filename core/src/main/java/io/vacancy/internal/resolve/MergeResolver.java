// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.resolve;

import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.request.Key;
import io.vacancy.request.Operation;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What a merge means for each relation to the table: its child rows get the row that stays.
 *
 * @param into the row that stays
 */
record MergeResolver(Schema schema, Table table, Operation.Merge merge, Row into) {

    ResolvedMerge resolve() {
        Set<Relation> duplicates = new LinkedHashSet<>();
        for (String written : merge.deletingDuplicates()) {
            Relation relation = schema.relation(written);
            if (!relation.parent().equals(table.name())) {
                throw new MisuseException(
                        "Rows of " + table + " have no child rows by " + relation + ", so it has no duplicates.",
                        "Name a relation whose parent is " + table + ".");
            }
            duplicates.add(relation);
        }
        Map<Relation, List<Rule>> rules = new LinkedHashMap<>();
        for (Relation relation : schema.relationsTo(table.name())) {
            rules.put(relation, rules(relation, duplicates.contains(relation)));
        }
        List<Object> key = new ArrayList<>();
        table.identity().columns().forEach(column -> key.add(Objects.requireNonNull(into.get(column))));
        return new ResolvedMerge(into, key, rules, List.copyOf(duplicates));
    }

    private List<Rule> rules(Relation relation, boolean deletesDuplicates) {
        if (relation.list()) {
            return List.of(Rule.block("they name it in a list, and no key is taken out of a list"));
        }
        Key parent = parent(relation);
        if (parent == null) {
            return List.of(Rule.block("the " + table + " that stays has no value for them to refer to"));
        }
        List<Rule> rules = new ArrayList<>();
        Condition duplicate = deletesDuplicates ? duplicate(relation, parent) : null;
        if (duplicate != null) {
            rules.add(new Rule(new RuleAction.Cascade(), duplicate));
        }
        if (relation.toItself()) {
            rules.add(new Rule(new RuleAction.Block("it would refer to itself"), own()));
        }
        rules.add(new Rule(new RuleAction.Reassign(new RuleAction.NewParent.Given(parent)), null));
        return rules;
    }

    /** The values that child rows get, or null where the row that stays has NULL there. */
    private @Nullable Key parent(Relation relation) {
        List<Object> values = new ArrayList<>();
        for (String column : relation.parentColumns()) {
            Object value = into.get(column);
            if (value == null) {
                return null;
            }
            values.add(value);
        }
        return Key.of(relation.parentColumns(), values);
    }

    /** The child row is the row that stays. */
    private Condition own() {
        List<Condition> parts = new ArrayList<>();
        for (String column : table.identity().columns()) {
            parts.add(ColumnRef.column(column).equalTo(Objects.requireNonNull(into.get(column))));
        }
        return new Condition.All(parts);
    }

    /** Another child row has, in some unique key, what this one would have; null where no key can collide. */
    private @Nullable Condition duplicate(Relation relation, Key parent) {
        Table child = schema.table(relation.child());
        List<Object> values = parent.valuesFor(table, relation.parentColumns());
        List<Condition> any = new ArrayList<>();
        for (List<String> key : child.keys()) {
            Map<String, Object> becomes = new LinkedHashMap<>();
            for (int i = 0; i < values.size(); i++) {
                String column = relation.childColumns().get(i);
                if (key.contains(column)) {
                    becomes.put(column, values.get(i));
                }
            }
            if (!becomes.isEmpty()) {
                List<String> same = key.stream()
                        .filter(column -> !becomes.containsKey(column))
                        .toList();
                any.add(new Condition.Duplicate(becomes, same));
            }
        }
        return any.isEmpty() ? null : new Condition.Any(any);
    }
}
