// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import org.jspecify.annotations.Nullable;

/**
 * On a caller's connection the database has rolled back the whole transaction, and with it what the caller did before:
 * there is no savepoint any more to go back to. Nothing of the transaction is left; it is to be begun anew.
 */
public final class TransactionLostException extends VacancyException {

    public TransactionLostException(String detail, @Nullable Throwable cause) {
        super(
                "The database has rolled back the whole transaction to end a deadlock, and with it everything that was"
                        + " done in it before: " + detail,
                "Roll back, and begin the transaction anew.",
                cause);
    }

    @Override
    public String kind() {
        return "transaction-lost";
    }
}
