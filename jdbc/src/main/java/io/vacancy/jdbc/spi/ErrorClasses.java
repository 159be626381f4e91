// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.spi;

import java.sql.SQLException;

/** What a failed statement means. The defaults are standard SQL. */
public interface ErrorClasses {

    /** What a failed statement means. */
    enum Fault {
        /** Somebody else holds the rows, or waiting for them was given up. */
        BUSY,
        /** The transaction lost against another one and may be tried again. */
        DEADLOCK,
        /** A constraint of the database stands against it. */
        CONSTRAINT,
        /** The database user may not do it. */
        NOT_ALLOWED,
        /** It was cancelled or took longer than it may. */
        CANCELLED,
        /** The database, or the transaction, can only be read. */
        READ_ONLY,
        /** A statement of the transaction has failed before, and it takes no other since. */
        ABORTED,
        /** The connection is gone. */
        DISCONNECTED,
        /** One transaction may not change so much, as on the nodes of a cluster. */
        TOO_MUCH_AT_ONCE,
        /** There is no room left to write. */
        FULL,
        /** Anything else. */
        OTHER
    }

    Fault of(SQLException exception);

    /** What the SQL standard's state says, where an engine keeps to it. */
    static Fault standard(String state) {
        if (state.startsWith("23")) {
            return Fault.CONSTRAINT;
        }
        if (state.startsWith("08") || state.equals("57P01") || state.equals("57P02") || state.equals("57P03")) {
            return Fault.DISCONNECTED;
        }
        return switch (state) {
            case "40001", "40P01" -> Fault.DEADLOCK;
            case "42501", "90096" -> Fault.NOT_ALLOWED;
            case "57014", "70100" -> Fault.CANCELLED;
            case "25006", "90097" -> Fault.READ_ONLY;
            case "53100" -> Fault.FULL;
            case "25P02" -> Fault.ABORTED;
            default -> Fault.OTHER;
        };
    }
}
