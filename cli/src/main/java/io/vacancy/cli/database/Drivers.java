// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.database;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.text.Secrets;
import java.net.MalformedURLException;
import java.net.URL;
import java.net.URLClassLoader;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Driver;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.ServiceLoader.Provider;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Finds the JDBC driver that a URL is for: one of those that come with the tool, or one that the user has named. */
final class Drivers {

    private static final Map<String, String> PREFIXES = Map.of(
            "org.sqlite.JDBC", "jdbc:sqlite:",
            "org.h2.Driver", "jdbc:h2:",
            "org.postgresql.Driver", "jdbc:postgresql:",
            "org.mariadb.jdbc.Driver", "jdbc:mariadb:");

    private Drivers() {}

    /** @throws MisuseException if there is none */
    static Driver forUrl(String url, List<Path> jars) {
        for (Path jar : jars) {
            for (Driver driver : in(jar)) {
                if (accepts(driver, url)) {
                    return driver;
                }
            }
        }
        Driver bundled = bundled(url);
        return bundled != null
                ? bundled
                : DriverManager.drivers()
                        .filter(driver -> accepts(driver, url))
                        .findFirst()
                        .orElseThrow(() -> new MisuseException(
                                "No driver is there for " + Secrets.hidden(url) + ".",
                                "Drivers of SQLite, H2, PostgreSQL and MariaDB come with the tool; name another one by"
                                        + " --driver JAR."));
    }

    /** Only the one that is meant: loading all of them takes longer than most commands do. */
    private static @Nullable Driver bundled(String url) {
        for (Provider<Driver> provider :
                ServiceLoader.load(Driver.class).stream().toList()) {
            String prefix = PREFIXES.get(provider.type().getName());
            if (prefix != null && url.startsWith(prefix)) {
                return provider.get();
            }
        }
        return null;
    }

    private static List<Driver> in(Path jar) {
        if (!Files.isRegularFile(jar)) {
            throw new MisuseException("The driver's file " + jar + " does not exist.");
        }
        List<Driver> found;
        try {
            // Open as long as the command runs, since the driver reads its classes when it needs them.
            URLClassLoader loader = new URLClassLoader(new URL[] {jar.toUri().toURL()}, Drivers.class.getClassLoader());
            Stream<Provider<Driver>> providers = ServiceLoader.load(Driver.class, loader).stream();
            found = providers
                    .filter(provider -> provider.type().getClassLoader() == loader)
                    .map(Provider::get)
                    .toList();
        } catch (MalformedURLException notAnAddress) {
            throw new MisuseException("The driver's file " + jar + " cannot be read.");
        }
        if (found.isEmpty()) {
            throw new MisuseException("There is no JDBC driver in " + jar + ".", "Name the jar of a driver of JDBC 4.");
        }
        return found;
    }

    private static boolean accepts(Driver driver, String url) {
        try {
            return driver.acceptsURL(url);
        } catch (SQLException notIts) {
            return false;
        }
    }
}
