package io.vacancy.access;

import io.vacancy.request.Mode;
import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/** Decides who may do what to which table. Asked before anything of the table is shown. */
@FunctionalInterface
public interface Permission {

    /** What somebody wants to do to rows of a table. */
    enum Act {
        LOOK("look at"),
        ERASE("erase rows of"),
        CHANGE("change rows of"),
        SOFT_DELETE("soft-delete rows of"),
        RESTORE("restore rows of"),
        PURGE("purge what is kept of");

        /** What it is to have rows go, or come back, in a mode. */
        public static Act of(Mode mode) {
            return switch (mode) {
                case ERASE -> ERASE;
                case SOFT_DELETE -> SOFT_DELETE;
                case RESTORE -> RESTORE;
                case REPLACE -> CHANGE;
                case PURGE -> PURGE;
            };
        }

        private final String words;

        Act(String words) {
            this.words = words;
        }

        /** As it stands in a message: "erase rows of". */
        public String words() {
            return words;
        }
    }

    /** Why the actor may not do it, in a sentence, or null if the actor may. */
    @Nullable
    String refusal(String actor, TableName table, Act act);
}
