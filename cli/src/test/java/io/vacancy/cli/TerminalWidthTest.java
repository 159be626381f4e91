// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import io.vacancy.harbour.HarbourOffice;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.TimeUnit;
import java.util.regex.Pattern;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.condition.EnabledOnOs;
import org.junit.jupiter.api.condition.OS;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Every command on terminals of different widths: no line is longer, and no word is broken. */
class TerminalWidthTest {

    /** What may be copied stands alone on its line, however long it is. */
    private static final Pattern TO_COPY =
            Pattern.compile("\\s*(vacancy .*|\\$ vacancy .*|--\\S+ ?\\S*|(CREATE|ALTER|UPDATE|INSERT) .*;|\\S+)");

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void onAHarbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("rules.yaml"), HarbourOffice.ruleBook());
        tool.execute("UPDATE boat SET name = 'Kōwhai 花の舟号 of the long southern reach' WHERE id = 12");
        tool.execute("UPDATE logbook_entry SET subject = 'Towed in by the pilot after dark, two lines parted and a"
                + " fender lost; the e\u0301cluse was shut 🚢👩‍🔧 and nobody answered on the radio' WHERE id = 65");
    }

    private Result run(int width, String line, String... typed) {
        List<String> words = new ArrayList<>();
        for (String word : line.split(" (?=(?:[^']*'[^']*')*[^']*$)")) {
            words.add(word.replace("'", ""));
        }
        if (!line.contains("--help") && !line.startsWith("help") && !line.isEmpty() && !line.startsWith("demo")) {
            words.addAll(List.of("--db", tool.db()));
        }
        words.removeIf(String::isEmpty);
        return tool.atTerminal(
                width, new TypedWhenAsked(String.join("\n", typed) + "\n"), words.toArray(String[]::new));
    }

    @ParameterizedTest
    @ValueSource(ints = {60, 80, 120})
    void noLineIsLongerAndNoWordIsBroken(int width) throws Exception {
        String rules = " --rules " + folder.resolve("rules.yaml");
        SoftAssertions all = new SoftAssertions();
        List<String> commands = new ArrayList<>(List.of(
                "",
                "help delete",
                "help jobs start",
                "history --help",
                "setup",
                "relations",
                "relations boat",
                "relations boat --depth 1",
                "relations boat" + rules,
                "check" + rules,
                "preview boat --key 17",
                "preview boat --key 14" + rules,
                "preview boat --key 12",
                "preview logbook_entry --every-row --rows",
                "preview logbook_entry --every-row --rows --uncut",
                "preview boat --every-row --on-blocked skip",
                "preview boat --every-row --on-blocked skip --skipped",
                "preview boat --where 'left_on > DATE ''2026-01-01'''",
                "delete boat --key 17 --because 'sold to another harbour'",
                "delete boat --every-row",
                "delete boat --key 14 --soft --because 'left for the winter, and will be back in spring'" + rules,
                "archive" + rules,
                "archive boat --rows" + rules,
                "archive hold boat --key 12 --because 'the court asked for it in the matter of the lost fender'"
                        + rules,
                "archive hold",
                "history",
                "history --details",
                "history boat --key 17" + rules,
                "history verify",
                "restore boat --key 17" + rules,
                "orphans",
                "replace berth_contract --where 'contract_no = 2' --set rent=790 --from 2030-01-01" + rules,
                "jobs start mooring --every-row --name the-moorings-of-all-the-years --at 2030-01-01",
                "jobs",
                "jobs show the-moorings-of-all-the-years",
                "purge boat --key 17" + rules,
                "delte boat",
                "delete boat --where 'lenght_m > 3'",
                "init --to " + folder.resolve("first-" + width + ".yaml")));
        for (String line : commands) {
            Result narrow = run(width, line, "yes", "yes");
            // What is typed ends the line of a question; here nothing does.
            String told = (narrow.out() + narrow.err()).replace("to leave it: ", "to leave it:\n");
            all.assertThat(told).as(line).isNotBlank();
            told.lines()
                    .filter(each ->
                            columns(each) > width && !TO_COPY.matcher(each).matches())
                    .forEach(each -> all.fail(line + "\n" + columns(each) + " columns: " + each));
            if (line.startsWith("preview") || line.startsWith("relations") || line.startsWith("check")) {
                Result whole = run(400, line);
                Set<String> words = words(whole.out());
                Set<String> broken = words(narrow.out());
                broken.removeIf(word -> words.contains(word) || word.endsWith("…"));
                if (!line.contains("--rows") && !line.contains("--skipped")) {
                    all.assertThat(broken).as(line).isEmpty();
                }
            }
        }
        all.assertAll();
    }

    private static Set<String> words(String text) {
        return new TreeSet<>(Arrays.asList(text.split("\\s+")));
    }

    /** Counted apart from the tool: wide ranges are two columns, marks and joiners none. */
    private static int columns(String line) {
        int columns = 0;
        boolean joined = false;
        for (int point : line.codePoints().toArray()) {
            int type = Character.getType(point);
            if (point == 0x200d) {
                joined = true;
            } else if (joined) {
                joined = false;
            } else if (type != Character.NON_SPACING_MARK && type != Character.ENCLOSING_MARK) {
                boolean wide = (point >= 0x1100 && point <= 0x115f)
                        || (point >= 0x2e80 && point <= 0xa4cf)
                        || (point >= 0xac00 && point <= 0xd7a3)
                        || (point >= 0xff00 && point <= 0xff60)
                        || (point >= 0x1f300 && point <= 0x1faff);
                columns += wide ? 2 : 1;
            }
        }
        return columns;
    }

    @Test
    void columnsOfWideCharactersAreAligned() {
        List<String> lines = run(120, "preview boat --where 'id IN (11, 12)' --rows")
                .out()
                .lines()
                .toList();
        assertThat(columns(lines.get(1).substring(0, lines.get(1).indexOf("HV-118"))))
                .isEqualTo(columns(lines.get(2).substring(0, lines.get(2).indexOf("HV-121"))));
    }

    @Test
    void aNarrowTableStandsRowByRow() {
        assertThat(run(60, "preview boat --where 'id IN (11, 12)' --rows").out())
                .contains("  name           Avocet\n", "\n\n  id             12\n");
        assertThat(run(120, "preview logbook_entry --key 65 --rows --uncut").out())
                .doesNotContain("…");
        assertThat(run(120, "preview logbook_entry --where 'boat_id = 12' --rows")
                        .out())
                .contains("…");
    }

    /** The process itself in a pseudo-terminal, whose width it is told by whoever starts it, with a no at every prompt. */
    @EnabledOnOs(value = OS.LINUX, disabledReason = "script(1) is called otherwise elsewhere")
    @ParameterizedTest
    @ValueSource(ints = {60, 80, 120})
    void theProcessSetsItsTextForItsTerminal(int width) throws Exception {
        String java = Path.of(System.getProperty("java.home"), "bin", "java").toString();
        StringBuilder commands = new StringBuilder("stty cols " + width + " -echo\n");
        for (String command : List.of(
                "",
                "help delete",
                "setup --db harbour.db",
                "relations --db harbour.db",
                "check --db harbour.db --rules rules.yaml",
                "preview boat --key 14 --db harbour.db",
                "preview logbook_entry --every-row --rows --db harbour.db",
                "delete boat --key 17 --db harbour.db",
                "delete boat --key 14 --soft --db harbour.db --rules rules.yaml",
                "archive --db harbour.db --rules rules.yaml",
                "history --db harbour.db",
                "delte boat")) {
            commands.append(java)
                    .append(" -XX:TieredStopAtLevel=1 -XX:+UseSerialGC -Dvacancy.terminal=true")
                    .append(" -Dvacancy.columns=$(stty size | cut -d' ' -f2) -cp '")
                    .append(System.getProperty("java.class.path"))
                    .append("' io.vacancy.cli.Main ")
                    .append(command)
                    .append("\necho \"exit $?\"\n");
        }
        Path script = Files.writeString(folder.resolve("run.sh"), commands);
        Path said = folder.resolve("said.txt");
        Process process = new ProcessBuilder("script", "-qec", "bash " + script, "/dev/null")
                .directory(folder.toFile())
                .redirectErrorStream(true)
                .redirectOutput(said.toFile())
                .start();
        for (int answered = 0, i = 0; i < 600 && process.isAlive(); i++) {
            int asked = Files.readString(said).split("to leave it: ", -1).length - 1;
            if (asked > answered) {
                process.getOutputStream().write("no\n".getBytes(StandardCharsets.UTF_8));
                process.getOutputStream().flush();
                answered = asked;
            }
            Thread.sleep(100);
        }
        assertThat(process.waitFor(30, TimeUnit.SECONDS)).isTrue();
        String told = Files.readString(said).replaceAll("\u001b\\[[0-9;]*[A-Za-z]", "");
        assertThat(told.lines().filter(line -> line.startsWith("exit ")).map(line -> line.strip()
                        .substring(5)))
                .as(told)
                .containsExactly("0", "0", "0", "0", "0", "4", "0", "5", "5", "0", "0", "2");
        assertThat(told).contains("Erase boat Osprey", "Database: SQLite, harbour.db");
        assertThat(told.replace("to leave it: ", "to leave it:\n")
                        .lines()
                        .map(String::stripTrailing)
                        .filter(line -> !TO_COPY.matcher(line).matches()))
                .allSatisfy(line -> assertThat(columns(line)).as(line).isLessThanOrEqualTo(width));
        assertThat(tool.count("boat")).isEqualTo(8);
    }

    /** Whoever is asked at a terminal may have the result in a file: there no line is cut. */
    @Test
    void whatGoesIntoAFileIsAsWideAsItIs() throws Exception {
        String[] rows = {"preview", "logbook_entry", "--every-row", "--rows", "--uncut", "--db", tool.db()};
        Result result = tool.process(rows);
        assertThat(result.out()).contains("nobody answered on the radio\n").doesNotContain("\n\n");
        List<String> asked = new ArrayList<>(List.of(
                Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                "-Dvacancy.terminal=true",
                "-cp",
                System.getProperty("java.class.path"),
                "io.vacancy.cli.Main"));
        asked.addAll(List.of(rows));
        Process process = new ProcessBuilder(asked)
                .redirectError(ProcessBuilder.Redirect.DISCARD)
                .start();
        assertThat(new String(process.getInputStream().readAllBytes(), StandardCharsets.UTF_8))
                .isEqualTo(result.out());
    }
}
