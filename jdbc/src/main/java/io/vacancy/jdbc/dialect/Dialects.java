package io.vacancy.jdbc.dialect;

import io.vacancy.failure.MisuseException;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.Locale;

/** Finds the dialect of a connection: the one place where engines are told apart. */
public final class Dialects {

    private Dialects() {}

    /**
     * The dialect for the database behind this connection.
     *
     * @throws MisuseException if it is none of the known ones
     */
    public static Dialect of(Connection connection) throws SQLException {
        String product = connection.getMetaData().getDatabaseProductName();
        return switch (product.toLowerCase(Locale.ROOT)) {
            case "sqlite" -> new SqliteDialect();
            case "h2" -> new H2Dialect();
            case "postgresql" -> new PostgresqlDialect();
            case "mariadb" -> new MariadbDialect();
            default ->
                throw new MisuseException(
                        "Vacancy does not know the database " + product + ".",
                        "It works on SQLite, H2, PostgreSQL and MariaDB.");
        };
    }
}
