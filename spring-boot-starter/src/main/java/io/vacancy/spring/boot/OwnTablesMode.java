// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

/** What is done about Vacancy's own tables at start-up. */
public enum OwnTablesMode {
    /** Nothing: without them nothing is kept, and receipts say so. */
    NEVER,
    /** They are made or upgraded where they are missing or old. */
    CREATE,
    /** The application does not start without them; a migration makes them from {@code vacancy setup print}. */
    VALIDATE
}
