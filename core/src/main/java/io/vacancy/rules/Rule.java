package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.schema.Relation;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What happens to child rows of a relation when their parent goes.
 *
 * @param when the condition on the child row under which the rule holds, or null for every row
 */
public record Rule(Fate fate, @Nullable Condition when) {

    /** The child rows go too. */
    public static Rule cascade() {
        return new Rule(new Fate.Cascade(), null);
    }

    /** The child rows stop the deletion, for this reason. */
    public static Rule block(String reason) {
        return new Rule(new Fate.Block(reason), null);
    }

    /** The child rows stay and refer to nothing; columns must be named where the relation has several. */
    public static Rule setNull(String... columns) {
        return new Rule(new Fate.SetNull(List.of(columns)), null);
    }

    /** The child rows stay as they are; only for relations that no engine enforces. */
    public static Rule leave() {
        return new Rule(new Fate.Leave(), null);
    }

    /** Starts a rule for those child rows for which a condition is true: {@code when(…).block("unpaid")}. */
    public static When when(Condition condition) {
        return new When(condition);
    }

    /** The condition of a rule that is yet to be named. */
    public record When(Condition condition) {

        public Rule cascade() {
            return new Rule(new Fate.Cascade(), condition);
        }

        public Rule block(String reason) {
            return new Rule(new Fate.Block(reason), condition);
        }

        public Rule setNull(String... columns) {
            return new Rule(new Fate.SetNull(List.of(columns)), condition);
        }

        public Rule leave() {
            return new Rule(new Fate.Leave(), condition);
        }
    }

    /**
     * What the schema itself declares. Anything but a declared CASCADE or SET NULL blocks, so that nothing
     * the schema protects is lost by silence.
     */
    static Rule declaredBy(Relation relation) {
        return switch (relation.onDelete()) {
            case CASCADE -> cascade();
            case SET_NULL -> new Rule(new Fate.SetNull(relation.childColumns()), null);
            case NO_ACTION, RESTRICT, SET_DEFAULT -> block("still refers to it");
        };
    }
}
