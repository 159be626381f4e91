// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.sql.SQLException;

/** Set in a transaction, and gone with it. */
@FunctionalInterface
public interface TransactionMark {

    /** @throws SQLException if the transaction in which it was set is over, or the database does not answer */
    void wantsThere() throws SQLException;
}
