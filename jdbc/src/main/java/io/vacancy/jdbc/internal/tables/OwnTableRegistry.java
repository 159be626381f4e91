// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.internal.tables;

import io.vacancy.jdbc.OwnTables;
import io.vacancy.jdbc.spi.Dialect;
import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import io.vacancy.schema.TableName;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.ServiceLoader;
import java.util.TreeMap;

/**
 * Which tables of its own Vacancy has, and of which version. In the database that is the table {@code module}; before
 * there was one, a single number in the table {@code version} said it for all of them.
 */
public final class OwnTableRegistry {

    /** Whatever is written in the table version since there is a table module. */
    private static final int BY_MODULE = 4;

    private static final List<OwnTableModule> MODULES =
            ServiceLoader.load(OwnTableModule.class, OwnTableRegistry.class.getClassLoader()).stream()
                    .map(ServiceLoader.Provider::get)
                    .toList();

    private OwnTableRegistry() {}

    /** The modules that this program has. */
    public static List<OwnTableModule> modules() {
        return MODULES;
    }

    /** Whether a table is one of Vacancy's own. */
    public static boolean has(OwnTables own, TableName table) {
        return own.nameOf(table)
                .filter(name -> name.equals("version")
                        || name.equals("module")
                        || MODULES.stream().anyMatch(module -> module.tables().contains(name)))
                .isPresent();
    }

    /** Whether the table of the modules' versions is among these. */
    public static boolean hasModules(OwnTables own, Collection<TableName> tables) {
        return tables.stream()
                .anyMatch(table -> own.nameOf(table).filter("module"::equals).isPresent());
    }

    /** Whether the table of the one version for all is among these. */
    public static boolean hasVersion(OwnTables own, Collection<TableName> tables) {
        return tables.stream()
                .anyMatch(table -> own.nameOf(table).filter("version"::equals).isPresent());
    }

    /** The versions of the modules where one number stood for all of them. */
    public static Map<String, Integer> of(int version) {
        Map<String, Integer> versions = new TreeMap<>();
        List<String> inOrder = List.of("archive", "trail", "request");
        inOrder.subList(0, Math.min(version, inOrder.size())).forEach(module -> versions.put(module, 1));
        return versions;
    }

    /** What brings all modules up to date, from the versions that are there. */
    public static List<String> script(
            OwnTables own, Dialect dialect, Map<String, Integer> versions, boolean registered) {
        OwnTableScript script = new OwnTableScript(own, dialect);
        String now = Times.written(Instant.now());
        List<String> statements = new ArrayList<>();
        if (!registered) {
            if (versions.isEmpty()) {
                statements.add(script.create(
                        "version", "version INTEGER NOT NULL PRIMARY KEY", "made_at VARCHAR(30) NOT NULL"));
            }
            statements.add(script.create(
                    "module",
                    "name VARCHAR(40) NOT NULL PRIMARY KEY",
                    "version INTEGER NOT NULL",
                    "made_at VARCHAR(30) NOT NULL"));
            // A program that knows the one number only is told that it is too old.
            statements.add("INSERT INTO " + script.name("version") + " (version, made_at) VALUES (" + BY_MODULE + ", '"
                    + now + "')");
        }
        for (OwnTableModule module : MODULES) {
            int from = versions.getOrDefault(module.name(), 0);
            if (from == 0 && module.optional()) {
                continue;
            }
            if (from < module.version() || !registered) {
                statements.addAll(upgrade(module, script, from, registered, now));
            }
        }
        return statements;
    }

    /** What makes the tables of a module that only some databases have. */
    public static List<String> script(OwnTables own, Dialect dialect, OwnTableModule module) {
        return upgrade(module, new OwnTableScript(own, dialect), 0, true, Times.written(Instant.now()));
    }

    private static List<String> upgrade(
            OwnTableModule module, OwnTableScript script, int from, boolean registered, String now) {
        List<String> statements = new ArrayList<>(from < module.version() ? module.upgrade(from, script) : List.of());
        statements.add(
                registered && from > 0
                        ? "UPDATE " + script.name("module") + " SET version = " + module.version() + ", made_at = '"
                                + now + "' WHERE name = '" + module.name() + "'"
                        : "INSERT INTO " + script.name("module") + " (name, version, made_at) VALUES ('" + module.name()
                                + "', " + module.version() + ", '" + now + "')");
        return statements;
    }
}
