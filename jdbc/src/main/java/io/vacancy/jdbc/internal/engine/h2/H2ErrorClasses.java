// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.h2;

import io.vacancy.jdbc.spi.ErrorClasses;
import java.sql.SQLException;

/** H2: what a failed statement means. */
final class H2ErrorClasses implements ErrorClasses {

    private static final int LOCK_TIMEOUT = 50200;

    @Override
    public Fault of(SQLException exception) {
        String state = String.valueOf(exception.getSQLState());
        return exception.getErrorCode() == LOCK_TIMEOUT ? Fault.BUSY : ErrorClasses.standard(state);
    }
}
