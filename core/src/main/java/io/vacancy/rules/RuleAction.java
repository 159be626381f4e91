// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Key;
import java.util.List;

/** What becomes of a child row when its parent goes. */
public sealed interface RuleAction {

    /** The word by which it is written in a rule book. */
    String word();

    /** It goes too. */
    record Cascade() implements RuleAction {
        @Override
        public String word() {
            return "cascade";
        }
    }

    /**
     * It stops the deletion.
     *
     * @param reason why, for the person who is told
     */
    record Block(String reason) implements RuleAction {

        public Block {
            Arguments.notBlank(reason, "reason");
        }

        @Override
        public String word() {
            return "block";
        }
    }

    /**
     * It stays and refers to nothing.
     *
     * @param columns the child columns that become NULL; empty for all columns of the relation
     */
    record SetNull(List<String> columns) implements RuleAction {
        public SetNull {
            Arguments.noneNull(columns, "columns");
            columns = List.copyOf(columns);
        }

        @Override
        public String word() {
            return "set-null";
        }
    }

    /**
     * It stays and gets another parent.
     *
     * @param to which one
     */
    record Reassign(NewParent to) implements RuleAction {
        @Override
        public String word() {
            return "reassign";
        }
    }

    /** Which parent a child row gets. */
    sealed interface NewParent {

        /** The one that the request names; where it names none, the child rows block. */
        record FromRequest() implements NewParent {}

        /**
         * This one.
         *
         * @param key the values of the columns that the relation refers to
         */
        record Given(Key key) implements NewParent {
            public Given {
                Arguments.notNull(key, "key");
            }
        }

        /**
         * The one that the parent which goes refers to, such as its own parent.
         *
         * @param columns one column of the parent; only for relations of one column
         */
        record OfParent(List<String> columns) implements NewParent {
            public OfParent {
                Arguments.noneNull(columns, "columns");
                columns = List.copyOf(columns);
            }
        }
    }

    /**
     * It stays, and what is personal in it is emptied or replaced, as the rule book says of its table.
     *
     * @param columns the child columns that become NULL where the parent is erased; empty for all columns of the relation
     */
    record Blank(List<String> columns) implements RuleAction {
        public Blank {
            Arguments.noneNull(columns, "columns");
            columns = List.copyOf(columns);
        }

        @Override
        public String word() {
            return "blank";
        }
    }

    /** It goes for good though its parent is only marked. */
    record Erase() implements RuleAction {
        @Override
        public String word() {
            return "erase";
        }
    }

    /** It stays as it is; for relations that no engine enforces. */
    record Leave() implements RuleAction {
        @Override
        public String word() {
            return "leave";
        }
    }
}
