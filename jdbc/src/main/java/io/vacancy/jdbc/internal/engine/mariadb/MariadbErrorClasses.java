// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.mariadb;

import io.vacancy.jdbc.spi.ErrorClasses;
import java.sql.SQLException;

/** MariaDB: what a failed statement means. */
final class MariadbErrorClasses implements ErrorClasses {

    private static final int LOCK_TIMEOUT = 1205;

    private static final int DEADLOCK = 1213;

    @Override
    public Fault of(SQLException exception) {
        return switch (exception.getErrorCode()) {
            // A node of a cluster that has lost the others, until it finds them again.
            case LOCK_TIMEOUT, 1047 -> Fault.BUSY;
            case 1180 -> Fault.TOO_MUCH_AT_ONCE;
            case DEADLOCK -> Fault.DEADLOCK;
            case 1142, 1044, 1143, 1227 -> Fault.NOT_ALLOWED;
            case 1317, 1969 -> Fault.CANCELLED;
            case 1792, 1290 -> Fault.READ_ONLY;
            // What the commit of a node says has no code of its own.
            default ->
                String.valueOf(exception.getMessage()).contains("Maximum writeset size exceeded")
                        ? Fault.TOO_MUCH_AT_ONCE
                        : ErrorClasses.standard(String.valueOf(exception.getSQLState()));
        };
    }
}
