// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test;

import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Relation;
import java.util.List;
import org.assertj.core.api.AbstractAssert;
import org.jspecify.annotations.Nullable;

/** Assertions on the rules in force. */
public final class RulesAssert extends AbstractAssert<RulesAssert, ResolvedRules> {

    RulesAssert(@Nullable ResolvedRules actual) {
        super(actual, RulesAssert.class);
    }

    /**
     * The rule book decides every relation, so that none follows what the schema happens to declare; a table that is
     * added later makes this fail until somebody has thought of it.
     */
    public RulesAssert decideEveryRelation() {
        isNotNull();
        List<String> open = actual.schema().relations().stream()
                .filter(relation -> !actual.mentions(relation))
                .map(Relation::name)
                .toList();
        if (!open.isEmpty()) {
            failWithMessage("Expected the rule book to decide every relation, but it says nothing of %s", open);
        }
        return this;
    }

    /** The rule book has nothing wrong and nothing to note. */
    public RulesAssert haveNoProblems() {
        isNotNull();
        if (!actual.problems().isEmpty()) {
            failWithMessage("Expected no problems with the rule book, but there are %s", actual.problems());
        }
        return this;
    }
}
