// SPDX-License-Identifier: Apache-2.0
package io.vacancy.rules;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.request.Key;
import java.time.Period;
import java.util.List;
import org.jspecify.annotations.Nullable;

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
     * @param followed whether what depends on it is looked at as well, as where a person is forgotten
     */
    record Blank(List<String> columns, boolean followed) implements RuleAction {
        public Blank {
            Arguments.noneNull(columns, "columns");
            columns = List.copyOf(columns);
        }

        /** What depends on it stays as it is. */
        public Blank(List<String> columns) {
            this(columns, false);
        }

        @Override
        public String word() {
            return "blank";
        }
    }

    /**
     * It stays as it is, though the person that it belongs to is forgotten.
     *
     * @param reason why, for whoever is told
     * @param until when it need not be kept any longer; null for no such time
     * @param columns the child columns that become NULL, since the parent is erased; mostly none
     */
    record Keep(String reason, @Nullable Until until, List<String> columns) implements RuleAction {
        public Keep {
            Arguments.notBlank(reason, "reason");
            Arguments.noneNull(columns, "columns");
            columns = List.copyOf(columns);
        }

        @Override
        public String word() {
            return "keep";
        }

        /** "tax law, until 10 years after issued_on". */
        public String said() {
            return until == null ? reason : reason + ", until " + until;
        }
    }

    /**
     * So long after a date or time that a row holds.
     *
     * @param column that holds it
     */
    record Until(String column, Period time) {
        public Until {
            Arguments.notBlank(column, "column");
            Arguments.notNull(time, "time");
            boolean mixed = time.toTotalMonths() != 0 && time.getDays() != 0;
            if (time.isZero() || time.isNegative() || mixed) {
                throw new MisuseException(
                        "Nothing is kept until " + Retention.written(time) + " after " + column + ".",
                        "Give a number of days, or of months or years, more than none.");
            }
        }

        @Override
        public String toString() {
            return Retention.written(time) + " after " + column;
        }
    }

    /** It goes for good though its parent is only marked, or stays. */
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
