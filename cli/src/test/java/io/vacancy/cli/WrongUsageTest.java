// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.assertj.core.api.SoftAssertions;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Wrong uses and wrong rule books: each is told by its name, with the exit code of its kind, and changes nothing. */
class WrongUsageTest {

    private static final Pattern WORD = Pattern.compile("\"((?:[^\"\\\\]|\\\\.)*)\"|(\\S+)");
    private static final List<String> WITHOUT_DATABASE = List.of("demo", "help", "setup completion");

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void onAHarbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        tool.run("setup", "--db", "harbour.db");
        Files.createDirectory(folder.resolve("folder"));
        Files.writeString(folder.resolve("notes.txt"), "not a database, just a note of some length, and more of it");
        Files.write(folder.resolve("noise.bin"), new byte[] {0, 1, 2, (byte) 0xff, (byte) 0xfe, 0, 0, 7, 8});
        Files.writeString(folder.resolve("empty.txt"), "");
        Files.writeString(folder.resolve("twice.csv"), "id,id\n1,2\n");
        Files.writeString(folder.resolve("other.csv"), "name\nOsprey\n");
    }

    private static List<String> lines(String resource) throws IOException {
        try (InputStream in = WrongUsageTest.class.getResourceAsStream(resource)) {
            return new String(in.readAllBytes(), StandardCharsets.UTF_8)
                    .lines()
                    .filter(line -> !line.startsWith("#"))
                    .toList();
        }
    }

    private static List<String> words(String line) {
        List<String> words = new ArrayList<>();
        for (Matcher word = WORD.matcher(line); word.find(); ) {
            words.add(word.group(1) == null ? word.group(2) : word.group(1).replace("\\\"", "\""));
        }
        if (!line.contains("--db") && WITHOUT_DATABASE.stream().noneMatch(line::startsWith)) {
            words.addAll(List.of("--db", "harbour.db"));
        }
        return words;
    }

    private Map<String, Long> rows() throws Exception {
        Map<String, Long> rows = new TreeMap<>();
        for (String table : List.of(
                "boat",
                "mooring",
                "fee",
                "power_reading",
                "logbook_entry",
                "berth_contract",
                "vacancy_receipt",
                "vacancy_hold",
                "vacancy_job",
                "skipper",
                "radio_message",
                "yard",
                "berth_service")) {
            rows.put(table, tool.count(table));
        }
        return rows;
    }

    private List<Path> files() throws IOException {
        try (var files = Files.walk(folder)) {
            return files.sorted().toList();
        }
    }

    @Test
    void everyWrongUseIsToldAndChangesNothing() throws Exception {
        Map<String, Long> before = rows();
        List<Path> there = files();
        SoftAssertions all = new SoftAssertions();
        for (String line : lines("wrong-usages.txt")) {
            String[] cells = line.split(" \\| ", 3);
            Result result = tool.run(words(cells[1]).toArray(String[]::new));
            String told = (result.out() + result.err()).replace(folder + "/", "");
            all.assertThat(result.exit()).as(cells[1] + "\n" + told).isEqualTo(Integer.parseInt(cells[0]));
            all.assertThat(told)
                    .as(cells[1])
                    .contains(cells[2])
                    .doesNotContain("Exception", "\tat ", "java.", "itself failed");
            if (cells[0].equals("2")) {
                all.assertThat(result.out()).as(cells[1]).isEmpty();
            }
        }
        all.assertThat(rows()).isEqualTo(before);
        all.assertThat(files()).isEqualTo(there);
        all.assertAll();
    }

    @Test
    void everyWrongRuleBookIsToldWithItsLine() throws Exception {
        SoftAssertions all = new SoftAssertions();
        for (String line : lines("wrong-rule-books.txt")) {
            String[] cells = line.split(" ~ ", 2);
            Files.writeString(
                    folder.resolve("rules.yaml"), cells[0].replace("\\n", "\n").replace("\\t", "\t"));
            Result checked = tool.run("check", "--db", "harbour.db", "--rules", "rules.yaml");
            all.assertThat(checked.exit()).as(line).isEqualTo(9);
            all.assertThat(checked.out() + checked.err())
                    .as(line)
                    .contains("! wrong  rules.yaml, " + cells[1], "cannot be used")
                    .doesNotContain("Exception", "\tat ");
            if (cells[0].contains("every:")) {
                // When something recurs is read by the jobs alone.
                continue;
            }
            Result deleted =
                    tool.run("delete", "boat", "--key", "17", "--yes", "--db", "harbour.db", "--rules", "rules.yaml");
            all.assertThat(deleted.exit()).as(line).isEqualTo(2);
        }
        all.assertThat(tool.count("boat")).isEqualTo(8);
        all.assertAll();
    }

    /** What is wrong in several places is told of each of them at once. */
    @Test
    void allThatIsWrongIsToldTogether() throws Exception {
        Files.writeString(folder.resolve("rules.yaml"), """
                version: 1
                tables:
                  boat: {lable: "{name}", mode: gone, at-most: many}
                  mooring: {label: "{nam", personal: [nme]}
                relations:
                  fee.mooring_id: casacde
                  mooring.boat_id: leave
                """);
        Result checked = tool.run("check", "--db", "harbour.db", "--rules", "rules.yaml");
        assertThat(checked.out())
                .containsSubsequence(
                        "line 3: There is no key lable",
                        "line 3: \"gone\" is not a mode",
                        "line 3: \"many\" is not a number",
                        "line 4: Column nme",
                        "line 4: The label",
                        "line 6: There is no rule casacde",
                        "line 7: Rows of mooring.boat_id cannot be left",
                        "7 things are wrong");
    }
}
