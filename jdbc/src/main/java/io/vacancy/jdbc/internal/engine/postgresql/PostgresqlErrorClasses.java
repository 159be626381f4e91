// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.ErrorClasses;
import java.sql.SQLException;

/** PostgreSQL: what a failed statement means. */
final class PostgresqlErrorClasses implements ErrorClasses {

    @Override
    public Fault of(SQLException exception) {
        String state = String.valueOf(exception.getSQLState());
        return switch (state) {
            case "55P03" -> Fault.BUSY;
            default -> ErrorClasses.standard(state);
        };
    }
}
