// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.command.CommandExamples;
import io.vacancy.cli.command.OptionGroup;
import io.vacancy.cli.command.VacancyCommand;
import io.vacancy.cli.screen.Screen;
import io.vacancy.cli.screen.TextLayout;
import java.io.ByteArrayOutputStream;
import java.io.InputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import picocli.CommandLine;
import picocli.CommandLine.Model.OptionSpec;

/** What the tool says of itself. */
class HelpTest {

    private static final Pattern WORD = Pattern.compile("\"([^\"]*)\"|(\\S+)");

    private final ByteArrayOutputStream out = new ByteArrayOutputStream();
    private final Screen screen = new Screen(
            InputStream.nullInputStream(),
            new PrintStream(out, true, StandardCharsets.UTF_8),
            new PrintStream(out, true, StandardCharsets.UTF_8),
            false,
            false,
            TextLayout.UNLIMITED);

    private String said(String... words) {
        out.reset();
        assertThat(VacancyCommand.run(screen, words))
                .as(out.toString(StandardCharsets.UTF_8))
                .isZero();
        return out.toString(StandardCharsets.UTF_8);
    }

    /** Every command and subcommand by its words. */
    private Map<String, CommandLine> commands() {
        Map<String, CommandLine> all = new LinkedHashMap<>();
        collect(VacancyCommand.described(screen), "", all);
        return all;
    }

    private static void collect(CommandLine of, String before, Map<String, CommandLine> all) {
        of.getSubcommands().forEach((name, command) -> {
            String words = (before + " " + name).strip();
            all.put(words, command);
            collect(command, words, all);
        });
    }

    @Test
    void withoutACommandItListsThemInTheOrderOfTheJob() {
        assertThat(said()).containsSubsequence("setup", "check", "preview", "delete", "restore", "history");
        assertThat(said()).isEqualTo(said("--help")).isEqualTo(said("help")).contains("130 interrupted");
    }

    /** The one that the build says, as the jar is called. */
    @Test
    void tellsTheVersionOfTheBuild() throws Exception {
        String pom = Files.readString(Path.of("pom.xml"));
        String version = pom.replaceAll("(?s).*?<version>([^<]+)</version>.*", "$1");
        assertThat(said("--version")).isEqualToIgnoringNewLines("vacancy " + version);
        assertThat(said("delete", "--version")).isEqualTo(said("--version"));
    }

    @Test
    void helpOfACommandIsTheCommandsHelp() {
        assertThat(said("help", "delete"))
                .isEqualTo(said("delete", "--help"))
                .containsSubsequence("Which rows:", "Limits:", "Confirmation:", "Who and why:", "Output:", "Database:");
        assertThat(said("help", "history", "verify")).contains("Usage: vacancy history verify");
    }

    /** By the shell itself. */
    @Test
    void aShellCompletesCommandsAndOptions(@TempDir Path folder) throws Exception {
        Path script = Files.writeString(folder.resolve("completion.sh"), said("setup", "completion"));
        assertThat(completed(script, "vacancy", "del")).containsExactly("delete");
        assertThat(completed(script, "vacancy", "delete", "--at-most-"))
                .containsExactlyInAnyOrder("--at-most-in-all", "--at-most-percent");
    }

    private static List<String> completed(Path script, String... words) throws Exception {
        String typed = String.join(" ", words);
        Process shell = new ProcessBuilder(
                        "bash",
                        "-c",
                        "source " + script + "; COMP_WORDS=(" + typed + "); COMP_CWORD=" + (words.length - 1)
                                + "; COMP_LINE='" + typed + "'; _complete_vacancy; printf '%s\\n' \"${COMPREPLY[@]}\"")
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        return new String(shell.getInputStream().readAllBytes(), StandardCharsets.UTF_8)
                .lines()
                .map(String::strip)
                .toList();
    }

    @Test
    void everyOptionStandsUnderOneHeading() {
        List<String> grouped = new ArrayList<>();
        Arrays.stream(OptionGroup.values()).forEach(group -> grouped.addAll(group.options()));
        assertThat(grouped).doesNotHaveDuplicates();
        TreeSet<String> used = new TreeSet<>();
        commands().values().forEach(command -> command.getCommandSpec().options().stream()
                .map(OptionSpec::longestName)
                .forEach(used::add));
        assertThat(used).containsExactlyInAnyOrderElementsOf(grouped);
    }

    @Test
    void everyCommandHasTwoExamplesThatItUnderstands() {
        commands().forEach((words, command) -> {
            List<String> examples = CommandExamples.of(words);
            assertThat(examples).as(words).hasSize(2);
            for (String example : examples) {
                List<String> parts = new ArrayList<>();
                Matcher word = WORD.matcher(example.replaceAll(" > .*", ""));
                while (word.find()) {
                    parts.add(word.group(1) == null ? word.group(2) : word.group(1));
                }
                parts.remove(0);
                VacancyCommand.described(screen).setExpandAtFiles(false).parseArgs(parts.toArray(String[]::new));
                assertThat(said(("help " + words).split(" "))).contains(example);
            }
        });
    }
}
