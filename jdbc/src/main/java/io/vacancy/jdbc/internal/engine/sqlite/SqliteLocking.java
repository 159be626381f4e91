// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.engine.sqlite;

import io.vacancy.jdbc.spi.Locking;
import io.vacancy.jdbc.spi.Syntax;
import io.vacancy.jdbc.spi.WaitSetting;
import io.vacancy.schema.TableName;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** SQLite: how rows are locked, how long that is waited for, and what a transaction sees. */
record SqliteLocking(Syntax syntax) implements Locking {

    @Override
    public WaitSetting waitSetting() {
        return new WaitSetting("PRAGMA busy_timeout", "PRAGMA busy_timeout = %s", Duration.ofMillis(1));
    }

    @Override
    public @Nullable String prepare(Connection connection) throws SQLException {
        // Ignored inside a transaction, hence here; off by default on every connection.
        try (Statement statement = connection.createStatement()) {
            boolean on;
            try (ResultSet rows = statement.executeQuery("PRAGMA foreign_keys")) {
                on = rows.next() && rows.getBoolean(1);
            }
            statement.execute("PRAGMA foreign_keys = ON");
            return on ? null : "PRAGMA foreign_keys = OFF";
        }
    }

    @Override
    public @Nullable String lockWhole(TableName table) {
        // A write that changes nothing takes the only write lock there is, before anything is read.
        return "DELETE FROM " + syntax().table(table) + " WHERE 0";
    }

    @Override
    public String forUpdate() {
        return "";
    }

    @Override
    public boolean parentsLockOutChildren() {
        return true;
    }
}
