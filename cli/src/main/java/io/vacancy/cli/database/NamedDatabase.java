// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.database;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.FileTrouble;
import io.vacancy.internal.text.Secrets;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Properties;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/** The database that the user named: a JDBC URL, or the path of an SQLite file that exists. */
public final class NamedDatabase {

    private static final String JDBC = "jdbc:";
    private static final String SQLITE = "jdbc:sqlite:";
    private static final Map<String, String> ENGINES =
            Map.of("sqlite", "SQLite", "h2", "H2", "postgresql", "PostgreSQL", "mariadb", "MariaDB");
    private static final byte[] SQLITE_HEADER = "SQLite format 3\0".getBytes(StandardCharsets.US_ASCII);

    private NamedDatabase() {}

    /**
     * A data source for it. A database that does not exist is never made.
     *
     * @param drivers the jars of drivers that do not come with the tool
     * @throws MisuseException if nothing is named, no driver is there for it, or the file does not exist or is no database
     */
    public static DataSource open(
            @Nullable String named, @Nullable String user, @Nullable String password, List<Path> drivers) {
        if (named == null || named.isBlank()) {
            throw new MisuseException(
                    "No database is named.",
                    "Give --db with a JDBC URL or the path of an SQLite file, or set VACANCY_DB.");
        }
        Properties properties = new Properties();
        if (user != null) {
            properties.setProperty("user", user);
        }
        if (password != null) {
            properties.setProperty("password", password);
        }
        String url = named;
        if (!named.startsWith("jdbc:") || named.startsWith(SQLITE)) {
            url = named.startsWith(SQLITE) ? named : SQLITE + named;
            String path = url.substring(SQLITE.length());
            int parameters = path.indexOf('?');
            checkFile(parameters < 0 ? path : path.substring(0, parameters));
            // Open for reading and writing, without the flag that creates.
            properties.setProperty("open_mode", "2");
        }
        String existing = existing(url);
        return new OneConnection(Drivers.forUrl(existing, drivers), existing, properties);
    }

    /** What it is called in front of people: engine, host and name, without user, password and parameters. */
    public static String named(String url) {
        if (!url.startsWith(JDBC)) {
            return "SQLite, " + url;
        }
        int engine = url.indexOf(':', JDBC.length());
        String word = engine < 0 ? url.substring(JDBC.length()) : url.substring(JDBC.length(), engine);
        String rest = engine < 0 ? "" : url.substring(engine + 1).replaceAll("[?;].*", "");
        String address = rest.startsWith("//") ? rest.substring(2).replaceAll("^[^/@]*@", "") : rest;
        return ENGINES.getOrDefault(word, word) + ", " + Secrets.hidden(address);
    }

    /** Engines that would make a database for a mistyped name are told not to. */
    private static String existing(String url) {
        boolean makes = url.startsWith("jdbc:h2:") || url.startsWith("jdbc:hsqldb:");
        boolean said = url.toLowerCase(Locale.ROOT).contains(";ifexists=");
        return makes && !said ? url + ";IFEXISTS=TRUE" : url;
    }

    private static void checkFile(String named) {
        Path path;
        try {
            path = Path.of(named);
        } catch (InvalidPathException notAPath) {
            throw new MisuseException(
                    "\"" + Secrets.hidden(named) + "\" is neither a JDBC URL nor the path of a file.");
        }
        if (!Files.exists(path)) {
            throw new MisuseException(
                    "The database file " + Secrets.hidden(named) + " does not exist, and none was made.",
                    "Check the path; `vacancy demo` makes a database to try things on.");
        }
        if (!Files.isRegularFile(path)) {
            throw new MisuseException(named + " is not a file, so it is no SQLite database.");
        }
        try (InputStream in = Files.newInputStream(path)) {
            byte[] start = in.readNBytes(SQLITE_HEADER.length);
            if (start.length > 0 && !Arrays.equals(start, SQLITE_HEADER)) {
                throw new MisuseException("The file " + named + " is not an SQLite database.");
            }
        } catch (IOException failed) {
            throw new MisuseException("The file " + named + " cannot be read: " + FileTrouble.message(failed) + ".");
        }
    }
}
