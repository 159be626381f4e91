// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spi.plan;

import io.vacancy.condition.Condition;
import io.vacancy.rules.RuleAction;
import io.vacancy.schema.Relation;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * One rule of one relation: what becomes of those child rows, of parents that go, for which it is the first
 * that holds.
 *
 * @param which the condition on the child row that says so, never unknown; null for every row
 * @param underOneReceipt whether only those child rows are meant that were marked under the receipt under which their
 *     parent was, as the archive has it
 * @param permittedRules of a branch that blocks, the rules that a request may put in its place, as they are written
 */
public record RelationStep(
        Relation relation,
        RuleAction action,
        @Nullable Condition which,
        boolean underOneReceipt,
        List<String> permittedRules) {

    public RelationStep {
        permittedRules = List.copyOf(permittedRules);
    }
}
