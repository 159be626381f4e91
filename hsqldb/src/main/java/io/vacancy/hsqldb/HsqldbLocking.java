// SPDX-License-Identifier: Apache-2.0
package io.vacancy.hsqldb;

import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.schema.TableName;
import java.sql.Connection;

/** In its usual model a statement locks the tables that it writes until the transaction ends. */
record HsqldbLocking(Syntax syntax) implements Locking {

    @Override
    public Integer connectionIsolation(String level) {
        return level.equals("READ COMMITTED")
                ? Connection.TRANSACTION_READ_COMMITTED
                : Connection.TRANSACTION_REPEATABLE_READ;
    }

    @Override
    public String lockWhole(TableName table) {
        return "LOCK TABLE " + syntax().table(table) + " WRITE";
    }

    @Override
    public String forUpdate() {
        return "";
    }

    /** A row that refers to a parent can only be inserted by reading the parent's table, which is locked. */
    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }
}
