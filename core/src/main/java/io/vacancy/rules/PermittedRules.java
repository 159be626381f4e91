// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.request.OperationKind;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** The rules that a request may put in the place of those that hold on relations. Immutable. */
public final class PermittedRules {

    private final ResolvedRules rules;
    private final Map<String, List<String>> said;

    /** @param said the words that the rule book permits, by relation; where it does not mention one, any that fits */
    PermittedRules(ResolvedRules rules, Map<String, List<String>> said) {
        this.rules = rules;
        this.said = said;
    }

    /** What the rule book permits on a relation; where it does not mention it, any that fits. */
    private List<String> words(Relation relation) {
        List<String> permits = said.get(relation.name());
        if (permits != null) {
            return permits;
        }
        boolean nullable = rules.schema().table(relation.child()).anyNullable(relation.childColumns());
        List<String> any = new ArrayList<>(List.of("cascade"));
        any.addAll(nullable ? List.of("set-null", "reassign", "block") : List.of("reassign", "block"));
        if (!relation.enforced() || rules.marker(relation.parent()) != null) {
            any.add("leave");
        }
        if (rules.canBlank(rules.schema().table(relation.child())) && (nullable || !relation.enforced())) {
            any.add("blank");
        }
        return any;
    }

    /**
     * The rules that hold on a relation where a request asks for this one.
     *
     * @throws MisuseException if it is not permitted, or does not fit
     */
    List<Rule> instead(Relation relation, Rule rule, OperationKind mode) {
        Rule fitted = RelationRules.fitted(rule, relation, rules.schema(), mode);
        boolean names = fitted.action() instanceof RuleAction.Reassign to && to.to() instanceof NewParent.Given;
        if (names && rules.rulesFor(relation, mode).stream().anyMatch(PermittedRules::asksForParent)) {
            // What the rule book left to the request is filled in, and the other rules stay.
            return rules.rulesFor(relation, mode).stream()
                    .map(old -> asksForParent(old) ? new Rule(fitted.action(), old.when()) : old)
                    .toList();
        }
        String word = rule.action().word();
        if (!words(relation).contains(word)) {
            throw new MisuseException(
                    "The rule book does not permit " + word + " on " + relation + ".",
                    words(relation).isEmpty()
                            ? "It permits nothing in the place of its own rules there."
                            : "It permits " + String.join(", ", words(relation)) + ".");
        }
        if (fitted.action() instanceof RuleAction.Blank) {
            rules.blanks(relation.child());
        }
        return List.of(fitted);
    }

    private static boolean asksForParent(Rule rule) {
        return rule.action() instanceof RuleAction.Reassign reassign && reassign.to() instanceof NewParent.FromRequest;
    }

    /** The rules by which a request could go ahead though child rows of a relation block it, as they are written. */
    public List<String> forms(Relation relation) {
        boolean asks = rules.rulesFor(relation).stream().anyMatch(PermittedRules::asksForParent);
        Stream<String> ways = words(relation).stream()
                .filter(word -> !word.equals("block"))
                .filter(word -> !(word.equals("cascade") && rules.neverDeleted(relation.child())));
        return Stream.concat(asks ? Stream.of("reassign") : Stream.empty(), ways)
                .distinct()
                .map(word -> word.equals("reassign") ? "reassign:KEY" : word)
                .toList();
    }
}
