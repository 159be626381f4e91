// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import io.vacancy.cli.command.CommandReference;
import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.TextLayout;
import java.io.InputStream;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is written from the tool's own words: manual pages and the reference; and its settings. */
class ManualTest {

    @TempDir
    private Path folder;

    /** Written anew by {@code -Dvacancy.docs=write}. */
    @Test
    void theReferenceSaysWhatTheToolSays() throws Exception {
        PrintStream nowhere = new PrintStream(OutputStream.nullOutputStream());
        Screen screen = new Screen(InputStream.nullInputStream(), nowhere, nowhere, false, false, TextLayout.UNLIMITED);
        Path reference = Path.of("../docs/commands.md");
        String written = CommandReference.markdown(screen);
        if ("write".equals(System.getProperty("vacancy.docs"))) {
            Files.writeString(reference, written);
        }
        assertThat(reference).hasContent(written);
    }

    @Test
    void everyCommandHasAPageThatManCanSet() throws Exception {
        Path pages = folder.resolve("man/man1");
        Result result = new Tool(folder).run("setup", "manual", "--to", pages.toString());
        assertThat(result.exit()).as(result.err()).isZero();
        assertThat(pages.resolve("vacancy-jobs-start.1")).exists();
        String delete = Files.readString(pages.resolve("vacancy-delete.1"));
        assertThat(delete)
                .startsWith(".TH VACANCY-DELETE 1")
                .contains(".SH \"WHICH ROWS\"", "\\fB\\-\\-every\\-row\\fR", ".SH \"EXIT CODES\"", "\\fB130\\fR");
        // Nothing but macros of man(7) begins a line with a point, and nothing is beyond ASCII.
        List<String> macros = List.of(".TH", ".SH", ".TP", ".PP", ".nf", ".fi");
        try (var files = Files.list(pages)) {
            for (Path page : files.toList()) {
                assertThat(Files.readAllLines(page))
                        .as(page.toString())
                        .allMatch(line -> line.chars().allMatch(c -> c < 0x7f))
                        .filteredOn(line -> line.startsWith(".") || line.startsWith("'"))
                        .allMatch(line -> macros.contains(line.split(" ")[0]));
            }
        }
    }

    @Test
    void settingsSayWhatEveryCommandLineWouldAndNothingThatDeletes() throws Exception {
        Tool tool = Tool.onHarbourIn(folder);
        Path settings = Files.writeString(
                folder.resolve("vacancy.properties"), "db=" + tool.db() + "\nby=Mira Holm\nformat=json\n");
        assertThat(Tool.run(settings, "setup").exit()).isZero();
        assertThat(Tool.run(settings, "delete", "boat", "--key", "17", "--yes").exit())
                .isZero();
        assertThat(Tool.run(settings, "history").out()).contains("\"by\":\"Mira Holm\"");
        // What is said beside the file goes before it.
        assertThat(Tool.run(settings, "history", "--format", "text").out()).contains("erased");
        assertThat(Tool.run(settings, "history", "--db", folder + "/harbor.db").exit())
                .isEqualTo(2);
        Files.writeString(settings, "db=" + tool.db() + "\nyes=true\n");
        Result refused = Tool.run(settings, "delete", "boat", "--key", "16");
        assertThat(refused.exit()).isEqualTo(2);
        assertThat(refused.err()).contains("vacancy.properties sets yes, which is no setting");
        assertThat(tool.count("boat")).isEqualTo(7);
        // A file in the current folder comes from anybody, and sets nothing.
        assertThat(tool.process("history").err()).contains("No database is named");
    }
}
