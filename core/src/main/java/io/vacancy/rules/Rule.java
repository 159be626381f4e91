package io.vacancy.rules;

import io.vacancy.schema.Relation;
import java.util.List;

/** What happens to the child rows of a relation when their parent goes. */
public sealed interface Rule {

    /** The word by which the rule is written. */
    String word();

    /** The child rows go too. */
    record Cascade() implements Rule {
        @Override
        public String word() {
            return "cascade";
        }
    }

    /**
     * The child rows stop the deletion.
     *
     * @param reason why, for the person who is told
     */
    record Block(String reason) implements Rule {
        @Override
        public String word() {
            return "block";
        }
    }

    /**
     * The child rows stay and refer to nothing.
     *
     * @param columns the child columns that become NULL
     */
    record SetNull(List<String> columns) implements Rule {
        public SetNull {
            columns = List.copyOf(columns);
        }

        @Override
        public String word() {
            return "set-null";
        }
    }

    /**
     * What the schema itself declares for a relation that no rule book mentions. Anything but a declared
     * CASCADE or SET NULL blocks, so that nothing the schema protects is lost by silence.
     */
    static Rule declaredBy(Relation relation) {
        return switch (relation.onDelete()) {
            case CASCADE -> new Cascade();
            case SET_NULL -> new SetNull(relation.childColumns());
            case NO_ACTION, RESTRICT, SET_DEFAULT -> new Block("still refers to it");
        };
    }
}
