// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.sun.net.httpserver.HttpServer;
import io.vacancy.cli.Tool.Result;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Jobs on the command line: ordered by one process, carried out by another, watched by a third. */
class JobsCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                relations:
                  fee.mooring_id: cascade
                  power_reading.mooring_id: cascade
                deletions:
                  long-gone:
                    table: mooring
                    where: "left_on < CURRENT_DATE - INTERVAL '50' YEAR"
                    every: "03:00 UTC"
                    window: "02:00-05:00 UTC"
                    batch: 5000
                """);
        assertThat(tool.onHarbour("setup").exit()).isZero();
    }

    private static JsonNode json(Result result) throws Exception {
        return new ObjectMapper().readTree(result.out());
    }

    @Test
    void isOrderedCarriedOutAndRestored() throws Exception {
        Result ordered = tool.onHarbour(
                "delete", "mooring", "--where", "left_on < '2026-01-01'", "--as-job", "--name", "season", "--yes");

        assertThat(ordered.exit()).isZero();
        assertThat(ordered.out())
                .contains("Erase 3 rows of mooring", "Ordered. Nothing is done yet: job season waits for a node.")
                .contains("vacancy jobs watch season");
        assertThat(tool.onHarbour("jobs").out()).contains("season", "scheduled", "0 of 3");

        Result ran = tool.onHarbour("jobs", "run", "--until-idle");
        assertThat(ran.exit()).isZero();
        assertThat(ran.out()).contains("Job season is done: 3 of 3 selected rows handled, 10 rows in all.");

        Result watched = tool.onHarbour("jobs", "watch", "season");
        assertThat(watched.exit()).isZero();
        assertThat(watched.out()).contains("season  done", "3  in mooring", "4  in power_reading", "vacancy restore ");
        JsonNode shown = json(tool.onHarbour("jobs", "show", "season", "--format", "json"));
        assertThat(shown.path("state").asText()).isEqualTo("done");
        assertThat(shown.path("progress").path("rows").asInt()).isEqualTo(10);
        assertThat(tool.onHarbour("restore", shown.path("receipt").asText(), "--yes")
                        .exit())
                .isZero();
        assertThat(tool.onHarbour("preview", "mooring", "--where", "left_on < '2026-01-01'")
                        .out())
                .contains("10 rows to delete");
    }

    @Test
    void isPausedResumedAndCancelled() throws Exception {
        tool.onHarbour("jobs", "start", "mooring", "--where", "left_on < '2026-01-01'", "--name", "season", "--yes");

        assertThat(tool.onHarbour("jobs", "pause", "season").out()).contains("Job season is paused: 0 of 3");
        assertThat(tool.onHarbour("jobs", "run", "--until-idle").out()).doesNotContain("is done");
        assertThat(tool.onHarbour("jobs", "watch", "season").out()).contains("vacancy jobs resume season --db");
        assertThat(tool.onHarbour("jobs", "resume", "season", "--share", "50").out())
                .contains("Job season is scheduled for ");
        assertThat(tool.onHarbour("jobs", "show", "season").out()).contains("50 % of the time");
        assertThat(tool.onHarbour("jobs", "cancel", "season").out()).contains("was cancelled. Nothing was changed.");
        assertThat(tool.onHarbour("jobs", "watch", "season").exit()).isEqualTo(5);
        Result again = tool.onHarbour("jobs", "resume", "season");
        assertThat(again.exit()).isEqualTo(2);
        assertThat(again.err()).contains("Job season is over: cancelled.");
        assertThat(json(tool.onHarbour("jobs", "--open", "--format", "json")).path("jobs"))
                .hasSize(1);
    }

    @Test
    void whatRecursIsOrderedByHandOrByTheRuleBook() throws Exception {
        assertThat(tool.onHarbour(
                                "jobs",
                                "start",
                                "mooring",
                                "--where",
                                "left_on < '2020-01-01'",
                                "--every",
                                "0 4 * * 1-5",
                                "--name",
                                "old",
                                "--yes")
                        .out())
                .contains("job old begins at ");
        assertThat(tool.onHarbour("jobs", "start", "--upkeep", "purge-due", "--every", "PT6H")
                        .out())
                .contains("job purge-due-");
        assertThat(tool.onHarbour("jobs", "run", "--until-idle").exit()).isZero();

        String all = tool.onHarbour("jobs").out();
        assertThat(all).contains("long-gone", "old", "purge-due-").doesNotContain("failed");
        JsonNode kept = json(tool.onHarbour("jobs", "show", "long-gone", "--format", "json"));
        assertThat(kept.path("settings").path("every").asText()).isEqualTo("03:00 UTC");
        assertThat(kept.path("settings").path("window").asText()).isEqualTo("02:00-05:00 UTC");
        assertThat(kept.path("settings").path("batch-rows").asInt()).isEqualTo(5000);
    }

    @Test
    void eventsArePassedOnByANodeThatKnowsWhereTo() throws Exception {
        Path rules = folder.resolve("vacancy.yaml");
        Files.writeString(rules, Files.readString(rules) + "outbox: /harbour/office\n");
        assertThat(tool.onHarbour("delete", "mooring", "--key", "504", "--yes").exit())
                .isZero();
        assertThat(tool.onHarbour("jobs", "start", "--upkeep", "pass-on", "--name", "events")
                        .exit())
                .isZero();
        assertThat(tool.onHarbour("jobs", "run", "--until-idle").exit()).isZero();
        assertThat(tool.onHarbour("jobs", "show", "events").out()).contains("events  waiting", "passes no events on");

        List<String> taken = new CopyOnWriteArrayList<>();
        HttpServer office = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
        office.createContext("/", exchange -> {
            taken.add(new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
            exchange.sendResponseHeaders(204, -1);
            exchange.close();
        });
        office.start();
        assertThat(tool.onHarbour("jobs", "cancel", "events").exit()).isZero();
        assertThat(tool.onHarbour("jobs", "start", "--upkeep", "pass-on").exit())
                .isZero();
        Result passed = tool.onHarbour(
                "jobs",
                "run",
                "--until-idle",
                "--events-to",
                "http://localhost:" + office.getAddress().getPort() + "/events");
        office.stop(0);

        assertThat(passed.exit()).isZero();
        assertThat(taken).singleElement().asString().contains("\"source\":\"/harbour/office\"");
        assertThat(tool.onHarbour("history", "events", "--look").out()).doesNotContain("specversion");
    }

    @Test
    void theRuleBookIsCheckedForTimesThatAreNone() throws Exception {
        assertThat(tool.onHarbour("check").exit()).isZero();
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                deletions:
                  often: {table: boat, where: "left_on IS NULL", every: "25:00"}
                  narrow: {table: boat, where: "left_on IS NULL", every: "03:00", window: "22:00"}
                """);

        Result checked = tool.onHarbour("check");

        assertThat(checked.exit()).isEqualTo(9);
        assertThat(checked.out())
                .contains("vacancy.yaml, line 3", "Deletion often: \"25:00\" does not say when")
                .contains("vacancy.yaml, line 4", "Deletion narrow: \"22:00\" is not a window of time");
        assertThat(tool.onHarbour("jobs", "run", "--until-idle").exit()).isEqualTo(2);
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                deletions:
                  asked: {table: boat, where: "id < :id", parameters: {id: integer}, every: "03:00"}
                """);
        assertThat(tool.onHarbour("check").out()).contains("has parameters, which nobody would give");
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                deletions:
                  never: {table: boat, where: "id < 3", batch: 7}
                """);
        assertThat(tool.onHarbour("check").out()).contains("says how it works by itself, and not when");
    }

    @Test
    void whatCannotBeMeantIsWrongUsage() throws Exception {
        String[] mooring = {"delete", "mooring", "--key", "504", "--yes"};
        assertThat(with(mooring, "--lanes", "2").err()).contains("Give --as-job, too, or leave it out.");
        assertThat(with(mooring, "--as-job", "--lanes", "0").err()).contains("1 to 16 lanes, not 0");
        assertThat(with(mooring, "--batch-bytes", "2000").err()).contains("Give --as-job, too, or leave it out.");
        assertThat(with(mooring, "--as-job", "--batch-bytes", "0").err()).contains("1 or more bytes, not 0");
        assertThat(with(mooring, "--as-job", "--window", "22").err()).contains("\"22\" is not a window of time");
        assertThat(with(mooring, "--as-job", "--on-change", "maybe").err()).contains("only-shown, matching");
        assertThat(with(mooring, "--as-job", "--share", "150").err()).contains("above 0 and at most 1");
        assertThat(with(mooring, "--as-job", "--name", "../x").err()).contains("cannot be the name of a job");
        assertThat(with(mooring, "--as-job", "--save-to", "x.jsonl").err()).contains("A job writes no files");
        assertThat(tool.onHarbour("jobs", "start", "--upkeep", "dusting").err()).contains("purge-due, seal, pass-on");
        assertThat(tool.onHarbour("jobs", "run", "--until-idle", "--events-to", "the office")
                        .err())
                .contains("--events-to the office is no address.");
        assertThat(tool.onHarbour("jobs", "run", "--until-idle", "--events-to", "file:///etc")
                        .exit())
                .isEqualTo(2);
        assertThat(tool.onHarbour("jobs", "start", "--upkeep", "seal", "--every", "often")
                        .err())
                .contains("\"often\" does not say when");
        assertThat(tool.onHarbour("jobs", "watch", "nothing").err()).contains("There is no job nothing.");
        assertThat(tool.onHarbour("jobs").exit()).isEqualTo(3);
    }

    private Result with(String[] words, String... more) throws Exception {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(List.of(more));
        Result result = tool.onHarbour(all.toArray(String[]::new));
        assertThat(result.exit()).isEqualTo(2);
        return result;
    }

    @Test
    void nothingToDeleteOrAnotherAnswerGivesNoJob() throws Exception {
        assertThat(tool.onHarbour("delete", "mooring", "--where", "left_on < '1990-01-01'", "--as-job", "--yes")
                        .exit())
                .isEqualTo(3);
        assertThat(tool.onHarbour("delete", "mooring", "--key", "504", "--as-job", "--answer", "no")
                        .exit())
                .isEqualTo(5);
        assertThat(tool.onHarbour("delete", "mooring", "--key", "504", "--as-job", "--yes", "--fingerprint", "0123")
                        .exit())
                .isEqualTo(6);
        assertThat(tool.onHarbour("jobs").out()).contains("No jobs.");
    }
}
