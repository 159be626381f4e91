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
            case LOCK_TIMEOUT -> Fault.BUSY;
            case DEADLOCK -> Fault.DEADLOCK;
            case 1142, 1044, 1143, 1227 -> Fault.NOT_ALLOWED;
            case 1317, 1969 -> Fault.CANCELLED;
            case 1792, 1290 -> Fault.READ_ONLY;
            default -> ErrorClasses.standard(String.valueOf(exception.getSQLState()));
        };
    }
}
