// SPDX-License-Identifier: Apache-2.0
package io.vacancy.engines;

import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import javax.sql.DataSource;

/**
 * An empty database of its own on one of the engines.
 *
 * @param url with user and password in it where the engine wants them
 */
public record Database(Engine engine, String url, DataSource source) {

    public Connection connect() throws SQLException {
        return engine.written(source.getConnection());
    }

    /** Gives up what it holds, for tests that make very many. */
    public void drop() {
        try {
            engine.drop(this);
        } catch (SQLException failed) {
            throw new IllegalStateException("dropping " + url, failed);
        }
    }

    /** Runs statements, each in a transaction of its own. */
    public void run(String... statements) {
        try (Connection connection = connect();
                Statement statement = connection.createStatement()) {
            for (String sql : statements) {
                statement.execute(sql);
            }
        } catch (SQLException failed) {
            throw new IllegalStateException("on " + engine + ": " + String.join("; ", statements), failed);
        }
    }

    /** The one number that a query returns. */
    public long number(String query) {
        try (Connection connection = connect();
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(query)) {
            rows.next();
            return rows.getLong(1);
        } catch (SQLException failed) {
            throw new IllegalStateException("on " + engine + ": " + query, failed);
        }
    }

    /** How many rows a table has, or those of it for which a condition holds: {@code "fee WHERE paid"}. */
    public long count(String what) {
        return number("SELECT COUNT(*) FROM " + what);
    }
}
