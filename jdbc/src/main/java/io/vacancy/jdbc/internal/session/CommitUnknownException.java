// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.session;

import java.sql.SQLException;

/**
 * A commit was sent, and no answer came that tells what became of it. Caught inside the store, which finds out or says
 * that nobody knows.
 */
public final class CommitUnknownException extends RuntimeException {

    public CommitUnknownException(SQLException cause) {
        super(SqlExceptionTranslator.firstLine(cause), cause);
    }
}
