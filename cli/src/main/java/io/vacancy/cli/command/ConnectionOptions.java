// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.cli.database.NamedDatabase;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.Secrets;
import io.vacancy.json.JsonWriter;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Which database, and as whom. */
class ConnectionOptions {

    @Option(
            names = "--db",
            paramLabel = "URL",
            defaultValue = "${env:VACANCY_DB}",
            description =
                    "A JDBC URL, or the path of an existing SQLite file; VACANCY_DB of the environment unless given.")
    private @Nullable String database;

    @Option(
            names = "--driver",
            paramLabel = "JAR",
            description = "The JDBC driver of an engine whose driver does not come with the tool; repeatable.")
    private List<Path> drivers = new ArrayList<>();

    @Option(names = "--user", paramLabel = "NAME", description = "The database user.")
    private @Nullable String user;

    @Option(
            names = "--password-env",
            paramLabel = "VAR",
            description = "The environment variable that holds the password.")
    private @Nullable String passwordVariable;

    /** What the database is called in front of people: engine, host and name, without secrets. */
    String named() {
        return NamedDatabase.named(String.valueOf(database));
    }

    /** Writes documents that say which database they are about. */
    JsonWriter json() {
        return new JsonWriter(named());
    }

    /** The words that say again which database, and as whom; without secrets. */
    List<String> given() {
        List<String> words = new ArrayList<>();
        String url = String.valueOf(database);
        if (!url.equals(System.getenv("VACANCY_DB"))) {
            words.addAll(List.of("--db", Secrets.hidden(url)));
        }
        if (user != null) {
            words.addAll(List.of("--user", user));
        }
        if (passwordVariable != null) {
            words.addAll(List.of("--password-env", passwordVariable));
        }
        drivers.forEach(driver -> words.addAll(List.of("--driver", driver.toString())));
        return words;
    }

    DataSource source() {
        return NamedDatabase.open(database, user, password(), drivers);
    }

    private @Nullable String password() {
        return secret(passwordVariable);
    }

    static @Nullable String secret(@Nullable String variable) {
        if (variable == null) {
            return null;
        }
        String secret = System.getenv(variable);
        if (secret == null) {
            throw new MisuseException("The environment variable " + variable + " is not set.");
        }
        return secret;
    }
}
