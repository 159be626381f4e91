// SPDX-License-Identifier: Apache-2.0
package io.vacancy.access;

import io.vacancy.request.OperationKind;
import io.vacancy.schema.TableName;
import org.jspecify.annotations.Nullable;

/** Decides who may do what to which table. Asked before anything of the table is shown. */
@FunctionalInterface
public interface Permission {

    /** What somebody wants to do to rows of a table. */
    enum Act {
        LOOK("look at"),
        ERASE("erase rows of"),
        SOFT_DELETE("soft-delete rows of"),
        /** Setting links to NULL, giving rows to another parent, putting links back. */
        CHANGE_LINKS("change links of"),
        REPLACE("replace rows of"),
        /** Deleting a row whose child rows another one gets. */
        MERGE("merge rows of"),
        /** Emptying or replacing what is personal in rows that stay, and putting it back. */
        BLANK("blank rows of"),
        RESTORE("restore rows of"),
        PURGE("purge archived rows of"),
        TRUNCATE("empty"),
        /** Removing the table, or a column of it, from the database itself. */
        DROP("drop, or drop a column of,"),
        /** Forgetting a person, who is a row of the table. */
        FORGET("forget persons of"),
        /** Approving what somebody else has asked for, where the rule book says that it needs that. */
        APPROVE("approve requests for rows of"),
        /** Holding rows or what is archived of them. */
        HOLD("hold rows of"),
        /** Ending a hold. */
        RELEASE("release holds on"),
        /** Looking at what is archived, and at receipts. */
        READ_ARCHIVE("look at archived rows of"),
        /** Looking at what was done, by whom. */
        READ_HISTORY("look at the history of");

        /** What an operation does to rows of the selected table. */
        public static Act of(OperationKind operation) {
            return switch (operation) {
                case ERASE -> ERASE;
                case TRUNCATE -> TRUNCATE;
                case DROP -> DROP;
                case SOFT_DELETE -> SOFT_DELETE;
                case RESTORE -> RESTORE;
                case REPLACE -> REPLACE;
                case MERGE -> MERGE;
                case BLANK -> BLANK;
                case FORGET -> FORGET;
                case UNLINK_ORPHANS -> CHANGE_LINKS;
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

    /**
     * Why the actor may not do it, in a sentence, or null if the actor may.
     *
     * @param table as the database has it; {@link TableName#is} compares it with a name in any case
     */
    @Nullable
    String refusal(String actor, TableName table, Act act);
}
