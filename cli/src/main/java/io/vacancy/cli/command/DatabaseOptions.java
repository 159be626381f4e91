package io.vacancy.cli.command;

import io.vacancy.Vacancy;
import io.vacancy.cli.database.NamedDatabase;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** Which database, and as whom. */
final class DatabaseOptions {

    @Option(names = "--db", paramLabel = "URL", description = "A JDBC URL, or the path of an existing SQLite file.")
    private @Nullable String database;

    @Option(names = "--user", paramLabel = "NAME", description = "The database user.")
    private @Nullable String user;

    @Option(
            names = "--password-env",
            paramLabel = "VAR",
            description = "The environment variable that holds the password.")
    private @Nullable String passwordVariable;

    /** Opens it, in the name of the one who asks. */
    Vacancy open(@Nullable String by) {
        return Vacancy.on(JdbcStore.of(NamedDatabase.open(database, user, password())))
                .actor(() -> by != null ? by : System.getProperty("user.name") + " (user of this machine)")
                .open();
    }

    private @Nullable String password() {
        if (passwordVariable == null) {
            return null;
        }
        String password = System.getenv(passwordVariable);
        if (password == null) {
            throw new MisuseException("The environment variable " + passwordVariable + " is not set.");
        }
        return password;
    }
}
