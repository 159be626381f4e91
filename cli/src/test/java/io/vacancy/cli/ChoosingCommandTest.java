// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import io.vacancy.harbour.BigHarbour;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ChoosingCommandTest {

    @TempDir
    Path folder;

    private Tool tool;

    @BeforeEach
    void build() throws Exception {
        tool = Tool.onHarbourIn(folder);
    }

    @Test
    void aConditionSelectsAndIsSaidBack() throws Exception {
        Result result = tool.atTerminal(
                "yes\n", "delete", "mooring", "--where", "left_on < DATE '2025-01-01'", "--db", tool.db());

        assertThat(result.exit()).isZero();
        assertThat(result.err()).contains("Erase mooring id 505?");
        assertThat(tool.count("mooring WHERE left_on < '2025-01-01'")).isZero();
        Result json = tool.atTerminal(
                "",
                "preview",
                "mooring",
                "--where",
                "{\"op\": \"isNull\", \"args\": [{\"property\": \"left_on\"}]}",
                "--format",
                "json",
                "--db",
                tool.db());
        JsonNode document = new ObjectMapper().readTree(json.out());
        assertThat(document.at("/effects/0/rows").asLong()).isEqualTo(tool.count("mooring WHERE left_on IS NULL"));
        assertThat(document.at("/request/selection/where/op").asText()).isEqualTo("isNull");
    }

    @Test
    void rowsAreListedBeforeTheAnswer() throws Exception {
        Result csv = tool.atTerminal(
                "", "preview", "fee", "--where", "paid", "--rows", "--format", "csv", "--db", tool.db());
        Result lines = tool.atTerminal(
                "", "preview", "boat", "--key", "17", "--rows-of", "fee", "--format", "jsonl", "--db", tool.db());

        assertThat(csv.out().lines()).hasSize((int) tool.count("fee WHERE paid") + 1);
        assertThat(csv.out()).startsWith("\"id\",\"harbour_id\",\"mooring_id\",\"amount\",\"due_on\",\"paid\"");
        assertThat(csv.err()).contains("rows of fee.");
        assertThat(lines.out().lines()).hasSize(3).allSatisfy(line -> assertThat(
                        new ObjectMapper().readTree(line).path("mooring_id").isIntegralNumber())
                .isTrue());
    }

    @Test
    void keysComeFromFilesAndMissingOnesAreListed() throws Exception {
        Files.writeString(folder.resolve("keys.csv"), "\ufeffname,id\r\n\"a, b\",702\r\nc,704\r\nd,704\r\ne,99\r\n");
        Files.writeString(folder.resolve("bad.csv"), "id,name\n702,x\n704,x,y\n");
        Files.writeString(folder.resolve("open.csv"), "id,name\n702,\"x\n");
        Files.writeString(folder.resolve("mixed.txt"), "702\n\n704\nseven\n");
        Files.writeString(folder.resolve("empty.txt"), "\n \n");
        String keys = folder.resolve("keys.csv").toString();

        assertThat(tool.atTerminal("", "preview", "fee", "--keys-from", keys, "--db", tool.db())
                        .out())
                .contains("Erase 2 rows of fee")
                .contains("Not there: 1 key, id 99");
        assertThat(tool.atTerminal(
                                "",
                                "preview",
                                "fee",
                                "--keys-from",
                                keys,
                                "--missing",
                                "--format",
                                "csv",
                                "--db",
                                tool.db())
                        .out())
                .isEqualTo("\"id\"\r\n\"99\"\r\n");
        assertThat(wrong("bad.csv")).contains("bad.csv, line 3: there are 3 values, and the header names 2");
        assertThat(wrong("open.csv")).contains("open.csv, after line 1: this is no CSV");
        assertThat(wrong("mixed.txt")).contains("mixed.txt, line 4: \"seven\" cannot be a value of fee.id");
        assertThat(wrong("empty.txt")).contains("There is no key in").contains("never means every row");
    }

    private String wrong(String file) {
        Result result = tool.atTerminal(
                "", "delete", "fee", "--keys-from", folder.resolve(file).toString(), "--db", tool.db());
        assertThat(result.exit()).isEqualTo(2);
        return result.err().replace('\n', ' ').replaceAll(" +", " ");
    }

    @Test
    void recordsThatWentAreWrittenToAFileOnlyIfTheyWent() throws Exception {
        Path file = folder.resolve("gone.csv");
        String[] words = {"delete", "fee", "--every-row", "--records-to", file.toString(), "--db", tool.db()};
        long fees = tool.count("fee");

        assertThat(tool.atTerminal("no\n\n", words).exit()).isEqualTo(5);
        assertThat(folder.toFile().list()).noneMatch(name -> name.startsWith("gone"));
        assertThat(tool.atTerminal("fee\n", words).exit()).isZero();

        assertThat(Files.readAllLines(file)).hasSize((int) fees + 1);
        assertThat(tool.atTerminal("fee\n", words).err()).contains("exists already");
    }

    @Test
    void afterANoTheSameRequestIsNarrowedAndAskedAgain() throws Exception {
        Result result =
                tool.atTerminal("yes\nid << 3\nid < 703\nyes\n", "delete", "fee", "--every-row", "--db", tool.db());

        assertThat(result.exit()).isZero();
        assertThat(result.err())
                .contains("Erase every row of fee, all 9 rows?")
                .contains("Type the name, fee, to go ahead")
                .contains("The condition is refused at position")
                .contains("Erase 2 rows of fee where id < 703?");
        assertThat(tool.count("fee")).isEqualTo(7);
    }

    @Test
    void blockedRowsAreSparedAndRulesOfTheRequestAreNoted() throws Exception {
        Result skipped = tool.atTerminal(
                "", "delete", "boat", "--every-row", "--on-blocked", "skip", "--answer", "9", "--db", tool.db());
        Result moved = tool.atTerminal(
                "yes\n", "delete", "yard", "--key", "1", "--rule", "work_order.yard_id=reassign:2", "--db", tool.db());

        assertThat(skipped.exit()).isEqualTo(5);
        assertThat(skipped.out()).contains("Skipped").contains("because of inspection.boat_id: still refers to it");
        assertThat(moved.out())
                .contains("work_order.yard_id becomes 2")
                .contains("rule      work_order.yard_id=reassign:2");
        assertThat(tool.count("work_order WHERE yard_id = 1")).isZero();
        assertThat(tool.atTerminal("", "delete", "boat", "--key", "14", "--db", tool.db())
                        .out())
                .contains("could be unblocked by\n      --rule inspection.boat_id=cascade\n");
    }

    @Test
    void aNamedDeletionRunsWithItsParameters() throws Exception {
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                questions:
                  - {above: 3, type: count}
                deletions:
                  old-moorings:
                    table: mooring
                    where: "left_on < :before"
                    parameters: {before: date}
                    order-by: left_on
                    limit: 2
                """);

        Result missing = tool.run("delete", "@old-moorings", "--db", "harbour.db");
        Result asked =
                tool.run("delete", "@old-moorings", "--with", "before=2026-01-01", "--db", "harbour.db", "--yes");
        Result seen = tool.run(
                "preview", "@old-moorings", "--with", "before=2026-01-01", "--db", "harbour.db", "--format", "json");
        JsonNode question = new ObjectMapper().readTree(seen.out()).path("question");
        Result done = tool.run(
                "delete",
                "@old-moorings",
                "--with",
                "before=2026-01-01",
                "--db",
                "harbour.db",
                "--answer",
                question.path("awaited").asText(),
                "--format",
                "json");

        assertThat(missing.exit()).isEqualTo(2);
        assertThat(missing.err()).contains("requires a value for before");
        assertThat(asked.exit()).isEqualTo(2);
        assertThat(asked.err()).contains("Give --answer \"");
        assertThat(question.path("strength").asText()).isEqualTo("count");
        assertThat(done.exit()).isZero();
        assertThat(new ObjectMapper().readTree(done.out()).path("deletion").asText())
                .isEqualTo("old-moorings");
    }

    @Test
    void controlCRollsBackAndSaysSo() throws Exception {
        Path big = folder.resolve("big.db");
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + big)) {
            connection.setAutoCommit(false);
            BigHarbour.build(connection, 6_000);
            connection.commit();
        }
        Path err = folder.resolve("err.txt");
        Process process = new ProcessBuilder(List.of(
                        Path.of(System.getProperty("java.home"), "bin", "java").toString(),
                        "-cp",
                        System.getProperty("java.class.path"),
                        "io.vacancy.cli.Main",
                        "delete",
                        "boat",
                        "--where",
                        "left_on IS NOT NULL",
                        "--yes",
                        "--db",
                        big.toString()))
                .redirectError(err.toFile())
                .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                .start();
        // Its rollback journal tells that rows are being removed.
        while (process.isAlive() && !Files.exists(folder.resolve("big.db-journal"))) {
            Thread.sleep(5);
        }
        process.destroy();

        assertThat(process.waitFor(60, TimeUnit.SECONDS)).isTrue();
        assertThat(process.exitValue()).isNotZero();
        assertThat(Files.readString(err)).contains("Cancelled while ").contains("Nothing was changed.");
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + big);
                var statement = connection.createStatement();
                var rows = statement.executeQuery("SELECT COUNT(*) FROM power_reading")) {
            assertThat(rows.getLong(1)).isEqualTo(600_000);
        }
    }
}
