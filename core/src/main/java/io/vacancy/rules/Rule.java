// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.condition.Condition;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Key;
import io.vacancy.rules.RuleAction.NewParent;
import io.vacancy.schema.Relation;
import java.time.Period;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What happens to child rows of a relation when their parent goes.
 *
 * @param when the condition on the child row under which the rule holds, or null for every row
 */
public record Rule(RuleAction action, @Nullable Condition when) {

    /** The child rows go too. */
    public static Rule cascade() {
        return new Rule(new RuleAction.Cascade(), null);
    }

    /** The child rows go for good though their parent is only marked as deleted. */
    public static Rule erase() {
        return new Rule(new RuleAction.Erase(), null);
    }

    /** The child rows stop the deletion, for this reason. */
    public static Rule block(String reason) {
        Arguments.notBlank(reason, "reason");
        return new Rule(new RuleAction.Block(reason), null);
    }

    /** The child rows stay and refer to nothing; columns must be named where the relation has several. */
    public static Rule setNull(String... columns) {
        Arguments.noneNull(columns, "columns");
        return new Rule(new RuleAction.SetNull(List.of(columns)), null);
    }

    /**
     * The child rows stay, and what is personal in them is emptied or replaced as the rule book says of their table; where
     * the parent is erased, they refer to nothing then, and columns must be named where the relation has several.
     */
    public static Rule blank(String... columns) {
        Arguments.noneNull(columns, "columns");
        return new Rule(new RuleAction.Blank(List.of(columns)), null);
    }

    /** The rows stay as they are when a person whom they belong to is forgotten, and what depends on them as well. */
    public static Rule keep(String reason) {
        return new Rule(new RuleAction.Keep(reason, null, List.of()), null);
    }

    /**
     * The same so long after a date that the rows hold; rows without that date are kept. The rules that follow are for
     * those of which the time is over.
     *
     * @param column that holds the date or time
     */
    public static Rule keep(String reason, String column, Period time) {
        return new Rule(new RuleAction.Keep(reason, new RuleAction.Until(column, time), List.of()), null);
    }

    /** The child rows get another parent, which the request names. */
    public static Rule reassign() {
        return new Rule(new RuleAction.Reassign(new NewParent.FromRequest()), null);
    }

    /**
     * The child rows get this parent.
     *
     * @param key the value of the column that the relation refers to, or a {@link Key} of several
     */
    public static Rule reassignTo(Object key) {
        return new Rule(new RuleAction.Reassign(new NewParent.Given(key(key))), null);
    }

    /** The child rows get the parent that their own one refers to by this column, such as its own parent. */
    public static Rule reassignToParents(String column) {
        Arguments.notBlank(column, "column");
        return new Rule(new RuleAction.Reassign(new NewParent.OfParent(List.of(column))), null);
    }

    private static Key key(Object given) {
        return given instanceof Key ready ? ready : Key.of(given);
    }

    /**
     * Reads a rule as it is written on a command line: {@code cascade}, {@code set-null}, {@code reassign:3},
     * {@code blank}, {@code block:reason} or {@code leave}.
     *
     * @throws MisuseException if it is none of them
     */
    public static Rule read(String written) {
        Arguments.notNull(written, "written");
        int colon = written.indexOf(':');
        String word = colon < 0 ? written : written.substring(0, colon);
        String rest = colon < 0 ? "" : written.substring(colon + 1);
        return switch (word.strip()) {
            case "cascade" -> cascade();
            case "set-null" -> rest.isBlank() ? setNull() : setNull(rest.split("\\s*,\\s*"));
            case "blank" -> rest.isBlank() ? blank() : blank(rest.split("\\s*,\\s*"));
            case "reassign" -> rest.isBlank() ? reassign() : reassignTo(rest);
            case "block" -> block(rest.isBlank() ? "this request says so" : rest);
            case "leave" -> leave();
            case "erase" -> erase();
            default ->
                throw new MisuseException(
                        "\"" + written + "\" is no rule.",
                        "A rule is cascade, set-null, reassign:KEY, blank, block:REASON or leave.");
        };
    }

    /** As {@link #read} reads it. */
    public String written() {
        if (action instanceof RuleAction.Reassign reassign) {
            return reassign.to() instanceof NewParent.Given given ? "reassign:" + given.key() : "reassign";
        }
        if (action instanceof RuleAction.SetNull setNull && !setNull.columns().isEmpty()) {
            return "set-null:" + String.join(",", setNull.columns());
        }
        if (action instanceof RuleAction.Blank blank && !blank.columns().isEmpty()) {
            return "blank:" + String.join(",", blank.columns());
        }
        if (action instanceof RuleAction.Keep keep) {
            return "keep:" + keep.said();
        }
        return action instanceof RuleAction.Block block ? "block:" + block.reason() : action.word();
    }

    /** The child rows stay as they are; only for relations that no engine enforces. */
    public static Rule leave() {
        return new Rule(new RuleAction.Leave(), null);
    }

    /** Starts a rule for those child rows for which a condition is true: {@code when(…).block("unpaid")}. */
    public static When when(Condition condition) {
        Arguments.notNull(condition, "condition");
        return new When(condition);
    }

    /** The condition of a rule that is yet to be named. */
    public record When(Condition condition) {

        public When {
            Arguments.notNull(condition, "condition");
        }

        public Rule cascade() {
            return new Rule(new RuleAction.Cascade(), condition);
        }

        public Rule block(String reason) {
            return new Rule(new RuleAction.Block(reason), condition);
        }

        public Rule setNull(String... columns) {
            return new Rule(new RuleAction.SetNull(List.of(columns)), condition);
        }

        public Rule blank(String... columns) {
            return new Rule(Rule.blank(columns).action(), condition);
        }

        public Rule keep(String reason) {
            return new Rule(Rule.keep(reason).action(), condition);
        }

        public Rule reassign() {
            return new Rule(Rule.reassign().action(), condition);
        }

        public Rule reassignTo(Object key) {
            return new Rule(Rule.reassignTo(key).action(), condition);
        }

        public Rule reassignToParents(String column) {
            return new Rule(Rule.reassignToParents(column).action(), condition);
        }

        public Rule leave() {
            return new Rule(new RuleAction.Leave(), condition);
        }
    }

    /**
     * What the schema itself declares. Anything but a declared CASCADE or SET NULL blocks, so that nothing
     * the schema protects is lost by silence.
     */
    static Rule declaredBy(Relation relation) {
        return switch (relation.onDelete()) {
            case CASCADE -> cascade();
            case SET_NULL -> new Rule(new RuleAction.SetNull(relation.childColumns()), null);
            case NO_ACTION, RESTRICT, SET_DEFAULT -> block("still refers to it");
        };
    }
}
