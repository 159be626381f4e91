// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class RuleBookCommandsTest {

    @TempDir
    Path folder;

    private Tool tool;
    private String rules;

    @BeforeEach
    void build() throws Exception {
        tool = Tool.onHarbourIn(folder);
        rules = folder.resolve("rules.yaml").toString();
        write("""
                version: 1
                tables:
                  boat: {label: "{name} ({registration})"}
                relations:
                  inspection.boat_id: cascade
                  fee.mooring_id:
                    - {block: "unpaid", when: "paid IS NOT TRUE"}
                    - cascade
                """);
    }

    private void write(String text) throws Exception {
        Files.writeString(Path.of(rules), text);
    }

    private Result run(String typed, String... words) {
        String[] all = new String[words.length + 4];
        System.arraycopy(words, 0, all, 0, words.length);
        System.arraycopy(new String[] {"--db", tool.db(), "--rules", rules}, 0, all, words.length, 4);
        return tool.atTerminal(typed, all);
    }

    @Test
    void rulesDecideWhatBlocksAndLabelsNameTheRows() {
        Result result = run("yes\n", "delete", "boat", "--key", "17");

        assertThat(result.exit()).isEqualTo(4);
        assertThat(result.out())
                .contains("Erase boat Osprey (HV-204)")
                .contains("! fee  1  through fee.mooring_id: unpaid")
                .contains("Blocked:");
        assertThat(run("yes\n", "delete", "boat", "--key", "11").exit()).isZero();
    }

    @Test
    void checkSaysWhetherTheRuleBookIsRight() throws Exception {
        Result right = run("", "check");
        assertThat(right.exit()).isZero();
        assertThat(right.out())
                .containsSubsequence("No rule mentions 14 relations", "  cascade", "  mooring.boat_id", "  set-null")
                .contains("The rule book is right for this database: 14 tables, 16 relations.");

        write("version: 1\nrelations:\n  fee.morring_id: cascade\n");
        Result wrong = run("", "check");
        assertThat(wrong.exit()).isEqualTo(9);
        assertThat(wrong.out())
                .contains(
                        "! wrong  rules.yaml, line 3: Relation fee.morring_id is not in the database; did you mean fee.mooring_id?")
                .contains("1 thing is wrong");
        assertThat(new ObjectMapper()
                        .readTree(run("", "check", "--format", "json").out())
                        .path("problems")
                        .path(0)
                        .path("line")
                        .asInt())
                .isEqualTo(3);
        assertThat(run("yes\n", "delete", "boat", "--key", "12").exit()).isEqualTo(2);
        assertThat(tool.count("boat")).isEqualTo(8);
    }

    @Test
    void waitingIsLimitedAndBusyHasItsOwnExitCode() throws Exception {
        try (Connection other = tool.connect();
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            statement.execute("UPDATE yard SET name = 'Slip' WHERE id = 1");

            Result result = run("yes\n", "delete", "boat", "--key", "12", "--wait", "0");

            assertThat(result.exit()).isEqualTo(7);
            assertThat(result.out()).contains("Table boat is held by somebody else");
            other.rollback();
        }
        assertThat(run("", "delete", "boat", "--key", "12", "--wait", "-1").exit())
                .isEqualTo(2);
    }

    @Test
    void relationsShowConditionalRules() {
        assertThat(run("", "relations", "boat").out()).contains("block?, cascade");
    }

    @Test
    void orphansAreListedAndGoOnlyWhenAsked() throws Exception {
        write("""
                version: 1
                relations:
                  "radio_message.call_sign -> boat.call_sign": leave
                """);
        long messages = tool.count("radio_message");

        Result listed = run("", "orphans");
        Result declined = run("no\n", "orphans", "radio_message.call_sign", "--erase");
        Result kept = run("", "orphans", "radio_message.call_sign -> boat.call_sign", "--set-null");
        Result both = run("", "orphans", "radio_message.call_sign", "--set-null", "--erase");

        assertThat(listed.exit()).isEqualTo(9);
        assertThat(listed.out()).contains("radio_message.call_sign  1  refer to no boat");
        assertThat(declined.exit()).isEqualTo(5);
        assertThat(kept.err()).contains("cannot be NULL");
        assertThat(both.err()).contains("contradict each other");
        assertThat(tool.count("radio_message")).isEqualTo(messages);
        assertThat(run("yes\n", "orphans", "radio_message.call_sign", "--erase").exit())
                .isZero();
        assertThat(run("", "orphans").out()).contains("No row refers to a parent that is missing.");
        assertThat(tool.count("radio_message")).isEqualTo(messages - 1);
    }

    @Test
    void diagramsShowWhatThePreviewSays() throws Exception {
        write("version: 1\ntables:\n  inspection: {never-deleted: true}\n");
        Path drawn = tool.folder().resolve("boat.svg");
        Path page = tool.folder().resolve("all.html");
        Path text = tool.folder().resolve("boat.mmd");

        Result preview = run("", "preview", "boat", "--key", "14", "--diagram", drawn.toString());
        run("", "preview", "boat", "--key", "14", "--diagram", text.toString());
        Result all = run("", "relations", "--diagram", page.toString());
        Result wrong = run("", "relations", "--diagram", "all.png");

        assertThat(preview.exit()).isEqualTo(4);
        assertThat(preview.err()).contains("Drawn into");
        assertThat(Files.readString(drawn)).contains("! 2 block", "cascade × 1", "end-blocks", ": blocked");
        assertThat(Files.readString(text)).startsWith("flowchart LR").contains("--x|\"block<br/>boat_id\"|");
        assertThat(all.exit()).isZero();
        assertThat(Files.readString(page)).contains("<!DOCTYPE html>", "! never deleted from", "8 rows");
        assertThat(wrong.exit()).isEqualTo(2);
        assertThat(wrong.err()).contains("all.png").contains(".svg, .html or .mmd");
    }

    @Test
    void relationsWithoutAnIndexAreNamedWithTheStatementThatMakesOne() throws Exception {
        write("version: 1\nrelations:\n  \"radio_message.call_sign -> boat.call_sign\": leave\n");

        String told = run("", "relations", "boat").out();
        JsonNode advice = new ObjectMapper()
                .readTree(run("", "check", "--format", "json").out())
                .path("advice");

        assertThat(told).contains("No index leads to the rows of radio_message by call_sign");
        assertThat(advice.findValuesAsText("relation"))
                .containsExactly("pier.head_berth_id", "radio_message.call_sign");
        for (JsonNode each : advice) {
            try (Connection connection = tool.connect();
                    Statement statement = connection.createStatement()) {
                statement.execute(each.path("statement").asText());
            }
        }
        assertThat(run("", "relations").out()).doesNotContain("No index");
    }

    @Test
    void brieflyOnlyWhatIsWrongIsTold() throws Exception {
        assertThat(tool.run("check", "--db", "harbour.db").out()).contains("No rule mentions", "CREATE INDEX");
        assertThat(tool.run("check", "--brief", "--db", "harbour.db").out())
                .isEqualToIgnoringNewLines("The rule book is right for this database: 14 tables, 16 relations.");
    }
}
