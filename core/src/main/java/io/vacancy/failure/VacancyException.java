// SPDX-License-Identifier: Apache-2.0
package io.vacancy.failure;

import io.vacancy.internal.text.VisibleText;
import org.jspecify.annotations.Nullable;

/**
 * Something was asked that cannot be done as asked, or that failed while it was being done.
 *
 * <p>Endings that a caller has to expect, such as a blocked or a declined deletion, are outcomes and
 * never exceptions. Whatever executing a request throws, nothing has been changed: the transaction was rolled back, or on a
 * caller's connection taken back to its savepoint.
 */
public abstract sealed class VacancyException extends RuntimeException
        permits MisuseException,
                RuleBookException,
                StoreException,
                BusyException,
                CancelledException,
                TrailIntegrityException,
                TransactionLostException,
                NotDoneException {

    private final @Nullable String hint;

    /** For a message of several lines that are the library's own. */
    VacancyException(String message, @Nullable String hint) {
        super(VisibleText.lines(message));
        this.hint = hint == null ? null : VisibleText.line(hint);
    }

    VacancyException(String message, @Nullable String hint, @Nullable Throwable cause) {
        // Names and values of others stand in it, and it ends in logs and on terminals.
        super(VisibleText.line(message), cause);
        this.hint = hint == null ? null : VisibleText.line(hint);
    }

    /** A short word for the kind of error, the same in every release; it stands in JSON documents. */
    public abstract String kind();

    /** What to do next, or null where the message says all there is to say. */
    public @Nullable String hint() {
        return hint;
    }
}
