// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/**
 * On a caller's connection the whole transaction is lost, and with it what the caller did before: the database has rolled
 * it back, or an earlier error has made it unusable. There is no savepoint to go back to; it is to be rolled back and
 * begun anew.
 */
public final class TransactionLostException extends VacancyException {

    private TransactionLostException(String message, @Nullable Throwable cause) {
        super(message, "Roll back, and begin the transaction anew.", cause);
    }

    /** The database has rolled it back so that others can go on. */
    public static TransactionLostException byDeadlock(String detail, @Nullable Throwable cause) {
        return new TransactionLostException(
                "The database has rolled back the whole transaction to end a deadlock, and with it everything that was"
                        + " done in it before: " + detail,
                cause);
    }

    /** A statement failed in it before Vacancy was asked, and the database takes no other since. */
    public static TransactionLostException byEarlierError(String detail, @Nullable Throwable cause) {
        return new TransactionLostException(
                "A statement failed in this transaction before, and the database takes no other in it: " + detail,
                cause);
    }

    @Override
    public String kind() {
        return "transaction-lost";
    }
}
