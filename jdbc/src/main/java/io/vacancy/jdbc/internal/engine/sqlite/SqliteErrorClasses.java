// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.ErrorClasses;
import java.sql.SQLException;

/** SQLite: what a failed statement means. */
final class SqliteErrorClasses implements ErrorClasses {

    private static final int BUSY = 5;

    private static final int LOCKED = 6;

    private static final int CONSTRAINT = 19;

    private static final int READ_ONLY = 8;

    private static final int INTERRUPTED = 9;

    private static final int FULL = 13;

    @Override
    public Fault of(SQLException exception) {
        // The driver's codes are extended ones; the low byte is the plain one.
        return switch (exception.getErrorCode() & 0xff) {
            case BUSY, LOCKED -> Fault.BUSY;
            case CONSTRAINT -> Fault.CONSTRAINT;
            case READ_ONLY -> Fault.READ_ONLY;
            case INTERRUPTED -> Fault.CANCELLED;
            case FULL -> Fault.FULL;
            default -> Fault.OTHER;
        };
    }
}
