// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.request.OperationKind;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Schema;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * The rules on relations, by what becomes of the parent. A relation that has none in a mode follows from what is said of
 * parents that are erased, and that from the schema.
 *
 * @param erased for parents that are removed
 * @param softDeleted for parents that are marked
 * @param blanked for parents that stay and are blanked; of a person who is forgotten only
 */
record RulesByMode(
        Map<Relation, List<Rule>> erased, Map<Relation, List<Rule>> softDeleted, Map<Relation, List<Rule>> blanked) {

    RulesByMode {
        erased = Map.copyOf(erased);
        softDeleted = Map.copyOf(softDeleted);
        blanked = Map.copyOf(blanked);
    }

    /** The rules for parents that are erased, in the order in which they are tried; the last one holds for every row. */
    List<Rule> of(Relation relation) {
        return erased.getOrDefault(relation, List.of(Rule.declaredBy(relation)));
    }

    List<Rule> of(Relation relation, OperationKind mode) {
        return switch (mode) {
            case ERASE -> of(relation);
            case BLANK -> {
                List<Rule> said = blanked.get(relation);
                // Nothing is lost that could block, and no link breaks.
                yield said != null
                        ? said
                        : of(relation).stream()
                                .map(rule -> rule.action() instanceof RuleAction.Blank
                                        ? new Rule(new RuleAction.Blank(List.of()), rule.when())
                                        : new Rule(new RuleAction.Leave(), rule.when()))
                                .toList();
            }
            default -> {
                List<Rule> said = softDeleted.get(relation);
                yield said != null
                        ? said
                        : of(relation).stream().map(RulesByMode::linkStays).toList();
            }
        };
    }

    /** Where nothing is said of parents that are soft-deleted, links stay, and all else holds for them too. */
    private static Rule linkStays(Rule rule) {
        if (rule.action() instanceof RuleAction.SetNull || rule.action() instanceof RuleAction.Reassign) {
            return new Rule(new RuleAction.Leave(), rule.when());
        }
        return rule.action() instanceof RuleAction.Blank
                ? new Rule(new RuleAction.Blank(List.of()), rule.when())
                : rule;
    }

    /** The same with others on some relations, each for parents that go in a mode. */
    RulesByMode with(Map<Relation, List<Rule>> instead, Function<Relation, OperationKind> mode) {
        Map<Relation, List<Rule>> removed = new LinkedHashMap<>(erased);
        Map<Relation, List<Rule>> marked = new LinkedHashMap<>(softDeleted);
        instead.forEach((relation, each) ->
                (mode.apply(relation) == OperationKind.ERASE ? removed : marked).put(relation, each));
        return new RulesByMode(removed, marked, blanked);
    }

    /** What two relations would both write, by mode; a sentence for each. */
    Map<String, Relation> contradictions(Schema schema) {
        Map<String, Relation> told = new LinkedHashMap<>(RelationRules.contradictions(schema, erased));
        told.putAll(RelationRules.contradictions(schema, softDeleted));
        return told;
    }
}
