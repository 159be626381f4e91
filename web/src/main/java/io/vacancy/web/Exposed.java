// SPDX-License-Identifier: Apache-2.0
package io.vacancy.web;

import io.vacancy.request.Operation;
import org.jspecify.annotations.Nullable;

/** What an application can open to clients, table by table. */
public enum Exposed {
    /** Deleting rows in the table's usual mode. */
    DELETE,
    /** Removing rows, whatever the table's usual mode is. */
    ERASE,
    /** Marking rows as deleted, whatever the table's usual mode is. */
    SOFT_DELETE,
    /** Emptying or replacing what is personal in rows that stay. */
    BLANK,
    /** Forgetting a person, with everything that belongs to the person. */
    FORGET,
    /** Bringing rows back. */
    RESTORE,
    /** Ending a row and opening its successor. */
    REPLACE,
    /** Removing for good what is archived. */
    PURGE,
    /** Approving what others have asked for, where the rule book says that it needs that. */
    APPROVE,
    /** Looking at receipts, and at what is archived. */
    ARCHIVE,
    /** Looking at what was done, and by whom. */
    HISTORY;

    /** What has to be open for an operation on a table; null where no client can ask for it. */
    static @Nullable Exposed by(Operation operation) {
        return switch (operation.word()) {
            case "delete" -> DELETE;
            case "erase" -> ERASE;
            case "soft-delete" -> SOFT_DELETE;
            case "blank" -> BLANK;
            case "forget" -> FORGET;
            case "restore" -> RESTORE;
            case "replace" -> REPLACE;
            case "purge" -> PURGE;
            default -> null;
        };
    }
}
