// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.NearestName;
import io.vacancy.internal.text.FileTrouble;
import java.io.IOException;
import java.io.Reader;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.Properties;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.IDefaultValueProvider;
import picocli.CommandLine.Model.ArgSpec;
import picocli.CommandLine.Model.OptionSpec;

/**
 * What somebody says on every command line, in a file of Java properties in their own configuration folder: one in the
 * current folder could come from anybody, and an address or a driver can run code. Which rows are meant, what happens to them and
 * how a question is answered is never said there: a file that somebody forgot would delete.
 */
final class SettingsFile implements IDefaultValueProvider {

    static final String NAME = "vacancy.properties";

    static final String DESCRIPTION =
            "Options that are the same for every command, by their names without the dashes, in the folder vacancy of"
                    + " XDG_CONFIG_HOME, else of ~/.config: db, rules, user, password-env, own-tables, scope, by, format, and the others of who and database.";

    static final String EXAMPLE = "db=jdbc:postgresql://localhost/harbour\nuser=office\npassword-env=HARBOUR_PASSWORD\n"
            + "own-tables=audit.vac_\n";

    private static final Map<String, String> ENVIRONMENT = Map.of("--db", "VACANCY_DB", "--rules", "VACANCY_RULES");
    private static final List<OptionGroup> GROUPS = List.of(OptionGroup.DATABASE, OptionGroup.WHO);

    private final Map<String, String> settings;

    private SettingsFile(Map<String, String> settings) {
        this.settings = settings;
    }

    /** Where the user of this machine has theirs, whether there is one or not. */
    static Path ofUser() {
        String configured = System.getenv("XDG_CONFIG_HOME");
        Path folder = configured == null || configured.isBlank()
                ? Path.of(System.getProperty("user.home", ""), ".config")
                : Path.of(configured);
        return folder.resolve("vacancy").resolve(NAME);
    }

    /** Reads a file; none, or one that is not there, sets nothing. */
    static SettingsFile read(@Nullable Path file) {
        if (file == null || !Files.isRegularFile(file)) {
            return new SettingsFile(Map.of());
        }
        Properties read = new Properties();
        try (Reader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
            read.load(in);
        } catch (IOException failed) {
            throw new MisuseException(file + " cannot be read: " + FileTrouble.message(failed) + ".");
        } catch (IllegalArgumentException malformed) {
            throw new MisuseException(
                    file + " cannot be read: " + malformed.getMessage() + ".", "A backslash is written twice.");
        }
        TreeSet<String> known = new TreeSet<>(List.of("format"));
        for (OptionGroup group : GROUPS) {
            group.options().stream()
                    .filter(option -> !option.equals("--because") && !option.equals("--id"))
                    .forEach(option -> known.add(option.substring(2)));
        }
        for (String name : read.stringPropertyNames()) {
            if (!known.contains(name)) {
                throw new MisuseException(
                        file + " sets " + name + ", which is no setting" + NearestName.question(name, known),
                        "Settings are " + String.join(", ", known) + "; anything else is said with the command.");
            }
        }
        Map<String, String> settings = new TreeMap<>();
        read.stringPropertyNames()
                .forEach(name -> settings.put(name, read.getProperty(name).strip()));
        return new SettingsFile(settings);
    }

    @Override
    public @Nullable String defaultValue(ArgSpec argument) {
        if (!(argument instanceof OptionSpec option)) {
            return null;
        }
        String name = option.longestName();
        String variable = ENVIRONMENT.get(name);
        String inEnvironment = variable == null ? null : System.getenv(variable);
        return inEnvironment != null ? inEnvironment : settings.get(name.substring(2));
    }
}
