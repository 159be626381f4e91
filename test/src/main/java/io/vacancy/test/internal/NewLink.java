// SPDX-License-Identifier: Apache-2.0
package io.vacancy.test.internal;

import io.vacancy.rules.RuleAction;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.spi.plan.RelationStep;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What the columns of a link become where its row stays. */
final class NewLink {

    private NewLink() {}

    static Map<String, @Nullable Object> of(RelationStep step, Row parent, Schema schema) {
        Relation relation = step.relation();
        Map<String, @Nullable Object> values = new LinkedHashMap<>();
        if (step.action() instanceof RuleAction.SetNull setNull) {
            setNull.columns().forEach(column -> values.put(column, null));
        } else if (step.action() instanceof RuleAction.Reassign reassign
                && reassign.to() instanceof NewParent.Given given) {
            List<Object> key = given.key().valuesFor(schema.table(relation.parent()), relation.parentColumns());
            for (int i = 0; i < key.size(); i++) {
                values.put(relation.childColumns().get(i), key.get(i));
            }
        } else if (step.action() instanceof RuleAction.Reassign reassign
                && reassign.to() instanceof NewParent.OfParent of) {
            values.put(relation.childColumns().get(0), parent.get(of.columns().get(0)));
        }
        return values;
    }

    /** The same for people and for the fingerprint. */
    static String written(RelationStep step) {
        return step.action() instanceof RuleAction.Reassign reassign
                ? reassign.to() instanceof NewParent.Given given ? given.key().toString() : "its parent's parent"
                : "NULL";
    }
}
