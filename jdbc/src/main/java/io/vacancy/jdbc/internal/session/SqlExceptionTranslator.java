// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import io.vacancy.failure.StoreException;
import io.vacancy.failure.TransactionLostException;
import io.vacancy.internal.text.Secrets;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import java.sql.SQLException;
import org.jspecify.annotations.Nullable;

/** What becomes of the driver's exceptions. */
public final class SqlExceptionTranslator {

    private SqlExceptionTranslator() {}

    /** {@link LockConflictException} if somebody else holds the rows, {@link TransactionLostException} after an earlier error, else a {@link StoreException} that tells step and table. */
    public static RuntimeException of(SQLException failed, StatementContext context, Dialect dialect) {
        Fault fault = dialect.errors().of(failed);
        if (fault == Fault.BUSY || fault == Fault.DEADLOCK) {
            return new LockConflictException(context, fault == Fault.DEADLOCK, failed);
        }
        if (fault == Fault.ABORTED) {
            return TransactionLostException.byEarlierError(firstLine(failed), failed);
        }
        String where = context.table() == null
                ? ""
                : " table " + context.table() + (context.relation() == null ? "" : " through " + context.relation());
        return new StoreException(
                "The database failed while " + context.step() + where + ": " + firstLine(failed),
                hint(fault),
                context.step(),
                context.table() == null ? null : context.table().toString(),
                context.relation(),
                failed);
    }

    private static @Nullable String hint(Fault fault) {
        return switch (fault) {
            case CONSTRAINT ->
                "A constraint that Vacancy does not know of stands against it, or a trigger changed more rows.";
            case NOT_ALLOWED -> "The database user lacks a right on this table; grant it, or connect as another user.";
            case CANCELLED -> "It was cancelled or took longer than a statement may take.";
            case READ_ONLY -> "The database can only be read over this connection.";
            case DISCONNECTED -> "The connection is gone; what was not committed is rolled back by the database.";
            case TOO_MUCH_AT_ONCE ->
                "The database does not take so much in one transaction. Delete it in several parts, with a limit each"
                        + " (`continuing` keeps them under one receipt).";
            case FULL -> "There is no room left; free some, then try again.";
            default -> null;
        };
    }

    /** A driver's message may carry a whole statement, with values in it; its first line tells enough. */
    public static String firstLine(SQLException failed) {
        // Drivers repeat the address, and with it what should be known to nobody.
        String message = Secrets.hidden(String.valueOf(failed.getMessage()).strip());
        int end = message.indexOf('\n');
        String line = end < 0 ? message : message.substring(0, end).strip();
        return line.endsWith(".") ? line : line + ".";
    }
}
