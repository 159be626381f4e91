// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.schema.TableName;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** Somebody else holds what a statement needed. Caught inside the store and told as an outcome. */
public final class LockConflictException extends RuntimeException {

    private final StatementContext context;
    private final boolean deadlock;

    LockConflictException(StatementContext context, boolean deadlock, SQLException cause) {
        super(SqlExceptionTranslator.firstLine(cause), cause);
        this.deadlock = deadlock;
        this.context = context;
    }

    /** Whether this transaction lost against another one, so that another attempt may win. */
    public boolean deadlock() {
        return deadlock;
    }

    public StatementContext context() {
        return context;
    }

    /** The table that was waited for, or null if nobody knows. */
    public @Nullable String table() {
        TableName table = context.table();
        return table == null ? null : table.toString();
    }

    /** What was being done, and what the database says. */
    public String detail() {
        return "while " + context.step() + (context.table() == null ? ", " : " it, ") + getMessage();
    }
}
