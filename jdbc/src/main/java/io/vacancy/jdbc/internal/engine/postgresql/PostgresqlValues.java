// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.postgresql;

import io.vacancy.jdbc.spi.Values;
import io.vacancy.schema.ColumnType;
import io.vacancy.schema.ValueKind;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Types;

/** PostgreSQL: how values get through the driver. */
final class PostgresqlValues implements Values {

    @Override
    public void bind(PreparedStatement statement, int index, Object value, ColumnType type) throws SQLException {
        if (type.kind() == ValueKind.OTHER) {
            // Sent without a type, so that the server reads the text as whatever the column holds.
            statement.setObject(index, value, Types.OTHER);
        } else {
            Values.super.bind(statement, index, value, type);
        }
    }
}
