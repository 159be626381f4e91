// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.schedule;

import com.github.kagkarlsson.scheduler.jdbc.DefaultJdbcCustomization;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Has the scheduler keep points in time as milliseconds since 1970, which every engine and every zone of a session reads the
 * same, and limit its queries in the way that all four engines know.
 */
final class EpochTimes extends DefaultJdbcCustomization {

    EpochTimes() {
        super(true);
    }

    @Override
    public void setInstant(PreparedStatement statement, int index, @Nullable Instant value) throws SQLException {
        if (value == null) {
            statement.setNull(index, Types.BIGINT);
        } else {
            statement.setLong(index, value.toEpochMilli());
        }
    }

    @Override
    public @Nullable Instant getInstant(ResultSet rows, String column) throws SQLException {
        long millis = rows.getLong(column);
        return rows.wasNull() ? null : Instant.ofEpochMilli(millis);
    }

    @Override
    public void setTaskData(PreparedStatement statement, int index, byte @Nullable [] value) throws SQLException {
        statement.setNull(index, Types.VARCHAR);
    }

    @Override
    public byte @Nullable [] getTaskData(ResultSet rows, String column) {
        return null;
    }

    @Override
    public String getQueryLimitPart(int limit) {
        return " LIMIT " + limit;
    }

    @Override
    public String getName() {
        return "milliseconds";
    }
}
