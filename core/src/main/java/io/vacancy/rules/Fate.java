package io.vacancy.rules;

import java.util.List;

/** What becomes of a child row when its parent goes. */
public sealed interface Fate {

    /** The word by which it is written in a rule book. */
    String word();

    /** It goes too. */
    record Cascade() implements Fate {
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
    record Block(String reason) implements Fate {
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
    record SetNull(List<String> columns) implements Fate {
        public SetNull {
            columns = List.copyOf(columns);
        }

        @Override
        public String word() {
            return "set-null";
        }
    }

    /** It stays as it is; for relations that no engine enforces. */
    record Leave() implements Fate {
        @Override
        public String word() {
            return "leave";
        }
    }
}
