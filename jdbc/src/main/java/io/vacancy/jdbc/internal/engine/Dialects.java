package io.vacancy.jdbc.internal.engine;

import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.internal.engine.h2.H2Dialect;
import io.vacancy.jdbc.internal.engine.mariadb.MariadbDialect;
import io.vacancy.jdbc.internal.engine.postgresql.PostgresqlDialect;
import io.vacancy.jdbc.internal.engine.sqlite.SqliteDialect;
import io.vacancy.jdbc.spi.Dialect;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;

/** Finds the dialect of a connection: the one place where engines are told apart. */
public final class Dialects {

    private static final Map<String, Supplier<Dialect>> KNOWN = new TreeMap<>(Map.of(
            "SQLite", SqliteDialect::new,
            "H2", H2Dialect::new,
            "PostgreSQL", PostgresqlDialect::new,
            "MariaDB", MariadbDialect::new));

    private Dialects() {}

    /** The names of the engines that are known. */
    public static List<String> names() {
        return List.copyOf(KNOWN.keySet());
    }

    /**
     * The dialect for the database behind this connection.
     *
     * @throws MisuseException if it is none of the known ones
     */
    public static Dialect of(Connection connection) throws SQLException {
        String product = connection.getMetaData().getDatabaseProductName();
        Supplier<Dialect> known = KNOWN.get(product);
        if (known == null) {
            throw new MisuseException(
                    "Vacancy does not know the database " + product + ".",
                    "It works on " + String.join(", ", KNOWN.keySet()) + ".");
        }
        return known.get();
    }
}
