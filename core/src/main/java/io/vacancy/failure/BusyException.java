// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/** Looking was not possible because somebody else holds what was to be read. Trying again may help. */
public final class BusyException extends VacancyException {

    private final @Nullable String table;

    public BusyException(@Nullable String table, String detail, @Nullable Throwable cause) {
        super(
                (table == null ? "The database" : "Table " + table) + " is held by somebody else: " + detail,
                "Try again, or wait longer.",
                cause);
        this.table = table;
    }

    @Override
    public String kind() {
        return "busy";
    }

    /** The table that is held, or null where the database does not tell. */
    public @Nullable String table() {
        return table;
    }
}
