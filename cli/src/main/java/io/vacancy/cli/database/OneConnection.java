// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.database;

import io.vacancy.failure.MisuseException;
import java.io.PrintWriter;
import java.sql.Connection;
import java.sql.Driver;
import java.sql.SQLException;
import java.sql.SQLFeatureNotSupportedException;
import java.util.Properties;
import java.util.Set;
import java.util.logging.Logger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/** A data source for one command: a new connection each time, straight from the driver. */
final class OneConnection implements DataSource {

    private static final Pattern SECRET =
            Pattern.compile("//[^/@:]*:([^/@]*)@|password=([^&;]*)", Pattern.CASE_INSENSITIVE);

    private final Driver driver;
    private final String url;
    private final Properties properties;

    OneConnection(Driver driver, String url, Properties properties) {
        this.driver = driver;
        this.url = url;
        this.properties = properties;
    }

    /** What engines say of a database that is not there: PostgreSQL by state; H2 and MariaDB by number. */
    private static final Set<String> NO_SUCH_DATABASE_STATES = Set.of("3D000");

    private static final Set<Integer> NO_SUCH_DATABASE_CODES = Set.of(90146, 1049);

    @Override
    public Connection getConnection() throws SQLException {
        return connected(properties);
    }

    @Override
    public Connection getConnection(String username, String password) throws SQLException {
        Properties others = new Properties();
        others.putAll(properties);
        others.setProperty("user", username);
        others.setProperty("password", password);
        return connected(others);
    }

    private Connection connected(Properties with) throws SQLException {
        Connection connection;
        try {
            connection = driver.connect(url, with);
        } catch (SQLException failed) {
            if (NO_SUCH_DATABASE_STATES.contains(String.valueOf(failed.getSQLState()))
                    || NO_SUCH_DATABASE_CODES.contains(failed.getErrorCode())) {
                throw new MisuseException(
                        "There is no database " + NamedDatabase.named(url) + ", and none was made.",
                        "Check its name and its address.");
            }
            throw withoutSecrets(failed);
        }
        if (connection == null) {
            throw new SQLException("The driver " + driver.getClass().getName() + " does not connect to this address.");
        }
        return connection;
    }

    /** Some drivers repeat what they could not read of an address, which may be the password. */
    private SQLException withoutSecrets(SQLException failed) {
        String message = String.valueOf(failed.getMessage());
        String hidden = message;
        for (Matcher secret = SECRET.matcher(url); secret.find(); ) {
            String word = secret.group(1) == null ? secret.group(2) : secret.group(1);
            hidden = word.isEmpty() ? hidden : hidden.replace(word, "…");
        }
        return hidden.equals(message) ? failed : new SQLException(hidden, failed.getSQLState(), failed.getErrorCode());
    }

    @Override
    public @Nullable PrintWriter getLogWriter() {
        return null;
    }

    @Override
    public void setLogWriter(PrintWriter out) throws SQLException {
        throw new SQLFeatureNotSupportedException();
    }

    @Override
    public void setLoginTimeout(int seconds) throws SQLException {
        throw new SQLFeatureNotSupportedException();
    }

    @Override
    public int getLoginTimeout() {
        return 0;
    }

    @Override
    public Logger getParentLogger() throws SQLFeatureNotSupportedException {
        throw new SQLFeatureNotSupportedException();
    }

    @Override
    public <T> T unwrap(Class<T> type) throws SQLException {
        throw new SQLException("wraps nothing");
    }

    @Override
    public boolean isWrapperFor(Class<?> type) {
        return false;
    }
}
