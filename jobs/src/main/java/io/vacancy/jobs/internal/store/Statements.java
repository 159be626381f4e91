// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Types;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Statements in standard SQL with bound values: texts, whole numbers, points in time, NULL. */
final class Statements {

    /** Of one length, so that texts sort as times do. */
    private static final DateTimeFormatter TIME =
            DateTimeFormatter.ofPattern("uuuu-MM-dd'T'HH:mm:ss.SSSSSS'Z'").withZone(ZoneOffset.UTC);

    private Statements() {}

    interface Reader<T> {
        T read(ResultSet row) throws SQLException;
    }

    static int update(Connection connection, String sql, @Nullable Object... values) throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            bind(statement, values);
            return statement.executeUpdate();
        }
    }

    static <T> List<T> query(Connection connection, String sql, Reader<T> reader, @Nullable Object... values)
            throws SQLException {
        try (PreparedStatement statement = connection.prepareStatement(sql)) {
            bind(statement, values);
            List<T> found = new ArrayList<>();
            try (ResultSet rows = statement.executeQuery()) {
                while (rows.next()) {
                    found.add(reader.read(rows));
                }
            }
            return found;
        }
    }

    private static void bind(PreparedStatement statement, @Nullable Object[] values) throws SQLException {
        for (int i = 0; i < values.length; i++) {
            Object value = values[i];
            if (value == null) {
                statement.setNull(i + 1, Types.VARCHAR);
            } else if (value instanceof Number number) {
                statement.setLong(i + 1, number.longValue());
            } else if (value instanceof Boolean truth) {
                statement.setBoolean(i + 1, truth);
            } else if (value instanceof Instant time) {
                statement.setString(i + 1, TIME.format(time));
            } else {
                statement.setString(i + 1, value.toString());
            }
        }
    }

    static @Nullable Instant time(ResultSet row, String column) throws SQLException {
        String written = row.getString(column);
        return written == null ? null : Instant.parse(written);
    }

    static @Nullable Long number(ResultSet row, String column) throws SQLException {
        long number = row.getLong(column);
        return row.wasNull() ? null : number;
    }
}
