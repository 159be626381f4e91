// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.harbour.HarbourOffice;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Driver;
import java.util.jar.JarOutputStream;
import java.util.zip.ZipEntry;
import javax.tools.ToolProvider;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** The tool on each engine by its address alone, and what it does of addresses that lead nowhere. */
class EveryEngineTest {

    @TempDir
    private Path folder;

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void showsDeletesAndRestoresByAnAddress(Engine engine) throws Exception {
        Database database = engine.fresh();
        try (Connection connection = database.connect()) {
            HarbourOffice.build(connection);
        }
        Tool tool = new Tool(folder);
        String draft = folder.resolve("first.yaml").toString();
        assertThat(tool.run("init", "--db", database.url(), "--to", draft).exit())
                .isZero();
        assertThat(tool.run("check", "--db", database.url(), "--rules", draft).exit())
                .isZero();
        assertThat(tool.run("setup", "--db", database.url()).exit()).isZero();
        long before = database.count("power_reading");
        String key = String.valueOf(database.number("SELECT MIN(id) FROM power_reading"));
        Result done =
                tool.run("delete", "power_reading", "--key", key, "--yes", "--db", database.url(), "--by", "Mira Holm");
        assertThat(done.exit()).as(done.err()).isZero();
        assertThat(database.count("power_reading")).isEqualTo(before - 1);
        assertThat(tool.run("restore", "power_reading", "--key", key, "--yes", "--db", database.url())
                        .exit())
                .isZero();
        assertThat(database.count("power_reading")).isEqualTo(before);
        assertThat(tool.run("history", "--db", database.url()).out()).contains("Mira Holm");
        database.drop();
    }

    @Test
    void noDatabaseIsMadeForAMistypedName() throws Exception {
        Tool tool = new Tool(folder);
        for (String address : new String[] {
            "jdbc:h2:" + folder.resolve("harbor"),
            "jdbc:sqlite:" + folder.resolve("harbor.db?foreign_keys=on"),
            "harbor.db"
        }) {
            Result result = tool.run("relations", "--db", address);
            assertThat(result.exit()).as(address + result.err()).isNotZero();
        }
        try (var files = Files.list(folder)) {
            assertThat(files).isEmpty();
        }
    }

    @Test
    void anAddressWithoutADriverSaysWhereOneComesFrom() throws Exception {
        Tool tool = new Tool(folder);
        Result result = tool.run("relations", "--db", "jdbc:harbourmaster://office/boats?password=secret");
        assertThat(result.exit()).isEqualTo(2);
        assertThat(result.err())
                .contains("No driver is there for", "--driver JAR")
                .doesNotContain("secret");
        assertThat(tool.run("relations", "--driver", folder + "/none.jar", "--db", "jdbc:x:")
                        .err())
                .contains("does not exist");
    }

    /** A driver that is nowhere on the tool's own class path. */
    @Test
    void aDriverIsLoadedFromAJar() throws Exception {
        Path jar = folder.resolve("driver.jar");
        String name = "harbourmaster.Office";
        Path source = folder.resolve("Office.java");
        Files.writeString(source, """
                package harbourmaster;
                public class Office implements java.sql.Driver {
                    public boolean acceptsURL(String url) { return url.startsWith("jdbc:office:"); }
                    public java.sql.Connection connect(String url, java.util.Properties p) throws java.sql.SQLException {
                        throw new java.sql.SQLException("the office is closed");
                    }
                    public java.sql.DriverPropertyInfo[] getPropertyInfo(String u, java.util.Properties p) { return null; }
                    public int getMajorVersion() { return 1; }
                    public int getMinorVersion() { return 0; }
                    public boolean jdbcCompliant() { return false; }
                    public java.util.logging.Logger getParentLogger() { return null; }
                }
                """);
        assertThat(ToolProvider.getSystemJavaCompiler()
                        .run(null, null, null, "-d", folder.toString(), source.toString()))
                .isZero();
        try (JarOutputStream out = new JarOutputStream(Files.newOutputStream(jar))) {
            out.putNextEntry(new ZipEntry("harbourmaster/Office.class"));
            out.write(Files.readAllBytes(folder.resolve("harbourmaster/Office.class")));
            out.putNextEntry(new ZipEntry("META-INF/services/" + Driver.class.getName()));
            out.write(name.getBytes(StandardCharsets.UTF_8));
        }
        Tool tool = new Tool(folder);
        Result result = tool.run("relations", "--driver", jar.toString(), "--db", "jdbc:office:boats");
        assertThat(result.exit()).isEqualTo(1);
        assertThat(result.err()).contains("the office is closed");

        Path empty = folder.resolve("empty.jar");
        try (JarOutputStream out = new JarOutputStream(Files.newOutputStream(empty))) {
            out.putNextEntry(new ZipEntry("nothing"));
        }
        assertThat(tool.run("relations", "--driver", empty.toString(), "--db", "jdbc:office:boats")
                        .err())
                .contains("There is no JDBC driver in");
    }

    @Test
    void theEnvironmentNamesTheDatabase() throws Exception {
        Tool.onHarbourIn(folder);
        assertThat(relations(null)).contains("No database is named.", "VACANCY_DB");
        assertThat(relations("harbour.db")).contains("mooring.boat_id");
    }

    private String relations(String database) throws Exception {
        ProcessBuilder process = new ProcessBuilder(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        "io.vacancy.cli.Main",
                        "relations",
                        "boat")
                .directory(folder.toFile())
                .redirectErrorStream(true);
        if (database != null) {
            process.environment().put("VACANCY_DB", database);
        }
        Process begun = process.start();
        begun.getOutputStream().close();
        return new String(begun.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
    }

    /** What is offered to be copied goes into logs and pictures. */
    @Test
    void noCommandThatIsOfferedHoldsASecret() throws Exception {
        Tool tool = Tool.onHarbourIn(folder);
        String address = "jdbc:sqlite:" + folder.resolve("harbour.db") + "?password=walnut";
        for (String[] words : new String[][] {
            {"preview", "boat", "--key", "16", "--db", address},
            {"preview", "boat", "--key", "14", "--db=" + address},
            {"setup", "--db", address},
            {"delete", "boat", "--key", "16", "--yes", "--db", address},
            {"history", "--db", address},
            {"archive", "--db", address}
        }) {
            Result result = tool.run(words);
            assertThat(result.out() + result.err())
                    .as(words[0])
                    .doesNotContain("walnut")
                    .isNotEmpty();
            assertThat(result.exit()).as(result.err()).isIn(0, 4);
        }
    }
}
