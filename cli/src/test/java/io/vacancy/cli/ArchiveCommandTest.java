// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import io.vacancy.harbour.HarbourOffice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What is kept, brought back, held and purged on the command line. */
class ArchiveCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
    }

    private JsonNode json(Result result) throws Exception {
        return new ObjectMapper().readTree(result.out());
    }

    private String deleted(String... further) throws Exception {
        List<String> words = new ArrayList<>(List.of(
                "delete",
                "boat",
                "--key",
                "17",
                "--yes",
                "--by",
                "Mira Holm",
                "--because",
                "sold",
                "--format",
                "json"));
        words.addAll(List.of(further));
        Result result = tool.onHarbour(words.toArray(String[]::new));
        assertThat(result.exit()).as(result.err()).isZero();
        return json(result).path("receipt").asText();
    }

    @Test
    void itIsSetUpOnceAndPrintsItsScript() throws Exception {
        Result nothing = tool.onHarbour("archive");
        assertThat(nothing.exit()).isEqualTo(2);
        assertThat(nothing.err()).contains("own tables are not set up").contains("vacancy setup");
        String script = tool.onHarbour("setup", "print").out();
        assertThat(script.lines()).hasSize(37).allMatch(line -> line.endsWith(";"));
        assertThat(tool.onHarbour("archive").exit()).isEqualTo(2);
        assertThat(tool.onHarbour("setup").out()).contains("20 tables of Vacancy's own were made");
        assertThat(tool.onHarbour("setup").out()).contains("Nothing to do");
        assertThat(tool.onHarbour("setup", "print").out()).isEmpty();
        assertThat(tool.onHarbour("relations").out()).doesNotContain("vacancy_");
        assertThat(tool.onHarbour("archive").exit()).isEqualTo(3);
        assertThat(tool.onHarbour("setup", "--own-tables", "Bad-Prefix").exit()).isEqualTo(2);
        assertThat(tool.onHarbour("setup", "--own-tables", "vac_").out()).contains("20 tables");
    }

    @Test
    void whatIsKeptIsListedAndComesBack() throws Exception {
        tool.onHarbour("setup");
        long boats = tool.count("boat");
        String receipt = deleted();
        assertThat(tool.onHarbour("archive").out())
                .contains(receipt)
                .contains("by Mira Holm, because: sold")
                .contains("old links of work_order.boat_id");
        assertThat(json(tool.onHarbour("archive", "mooring", "--format", "json"))
                        .path("archived"))
                .hasSize(1);
        assertThat(tool.onHarbour("archive", "--who", "Jonas Reed").exit()).isEqualTo(3);
        assertThat(tool.onHarbour("archive", "--since", "yesterday").exit()).isEqualTo(2);
        assertThat(tool.onHarbour("archive", "boat", "--key", "17", "--format", "csv")
                        .out())
                .startsWith("\"id\",\"harbour_id\"")
                .contains("\"17\",\"7\",\"3\",\"1\",\"Osprey\",\"HV-204\",\"VQ17\",\"11.35\",");

        Result back = tool.onHarbour("restore", receipt, "--yes", "--format", "json");
        assertThat(back.exit()).as(back.out()).isZero();
        assertThat(json(back).path("totals").path("restore").asLong()).isEqualTo(15);
        assertThat(json(back).path("totals").path("relink").asLong()).isEqualTo(2);
        assertThat(tool.count("boat")).isEqualTo(boats);
        assertThat(tool.onHarbour("restore", receipt, "--yes").exit()).isEqualTo(2);
        assertThat(tool.onHarbour("restore", "boat", "--key", "17", "--yes").exit())
                .isEqualTo(3);
    }

    @Test
    void aPartComesBackAndWhatStandsInTheWayIsTold() throws Exception {
        tool.onHarbour("setup");
        String receipt = deleted();
        Result fees = tool.onHarbour("restore", receipt, "--only", "fee", "--key", "706");
        assertThat(fees.exit()).isEqualTo(4);
        assertThat(fees.out()).contains("through fee.mooring_id: the mooring they refer to is gone");
        Result boat = tool.onHarbour("restore", "boat", "--key", "17", "--yes");
        assertThat(boat.exit()).as(boat.err()).isZero();
        assertThat(boat.out()).contains("5  restored in power_reading");
    }

    @Test
    void nothingIsKeptWhereNobodyWantsItAndAFileBringsItBack() throws Exception {
        tool.onHarbour("setup");
        deleted("--no-archive", "--save-to", folder.resolve("gone.jsonl").toString());
        assertThat(tool.onHarbour("archive").exit()).isEqualTo(3);
        Path file = folder.resolve("gone.jsonl");
        List<String> lines = Files.readAllLines(file);
        assertThat(lines).hasSize(1 + 15 + 2 + 1);

        String[] into = Stream.of("boat", "mooring", "fee", "power_reading", "logbook_entry", "work_order")
                .flatMap(table -> Stream.of("--into", table))
                .toArray(String[]::new);
        List<String> altered = new ArrayList<>(lines);
        altered.set(3, lines.get(3).replace("Arrived", "Departed").replace("\"boat_id\":17", "\"boat_id\":14"));
        Files.write(folder.resolve("altered.jsonl"), altered);
        Result refused = restored("altered.jsonl", into);
        assertThat(refused.exit()).isEqualTo(2);
        assertThat(refused.err()).contains("line 4 is not as it was written");
        Files.write(folder.resolve("cut.jsonl"), lines.subList(0, 9));
        assertThat(restored("cut.jsonl", into).err()).contains("line 10");
        Files.writeString(folder.resolve("other.jsonl"), "{\"id\":17}\n");
        assertThat(tool.onHarbour(
                                "restore",
                                "--from",
                                folder.resolve("other.jsonl").toString(),
                                "--yes")
                        .err())
                .contains("line 1");
        assertThat(tool.count("boat WHERE id = 17")).isZero();

        Result unnamed = tool.onHarbour("restore", "--from", file.toString(), "--yes");
        assertThat(unnamed.exit()).isEqualTo(2);
        assertThat(unnamed.err()).contains("is not sealed with a secret", "boat, logbook_entry");
        Result others = tool.onHarbour("restore", "--from", file.toString(), "--yes", "--into", "boat");
        assertThat(others.exit()).isEqualTo(2);
        assertThat(others.err()).contains("has rows of logbook_entry");
        assertThat(tool.count("boat WHERE id = 17")).isZero();

        Result back = restored("gone.jsonl", into);
        assertThat(back.out()).contains("nothing proves that its rows are those that were deleted");
        assertThat(back.exit()).as(back.err()).isZero();
        assertThat(tool.count("boat WHERE id = 17")).isEqualTo(1);
        assertThat(tool.count("work_order WHERE boat_id = 17")).isEqualTo(2);
        assertThat(tool.onHarbour("delete", "boat", "--key", "17", "--yes", "--save-to", file.toString())
                        .err())
                .contains("exists already");
    }

    private Result restored(String file, String... into) throws Exception {
        List<String> words = new ArrayList<>(
                List.of("restore", "--yes", "--from", folder.resolve(file).toString()));
        words.addAll(List.of(into));
        return tool.onHarbour(words.toArray(String[]::new));
    }

    @Test
    void whatIsHeldStaysAndWhatIsPurgedIsGone() throws Exception {
        tool.onHarbour("setup");
        String receipt = deleted();
        assertThat(tool.onHarbour("archive", "hold", receipt).exit()).isEqualTo(2);
        assertThat(tool.onHarbour("archive", "hold", receipt, "--because", "case 7")
                        .out())
                .contains("Hold 1 is on receipt " + receipt);
        Result held = tool.onHarbour("purge", receipt, "--yes");
        assertThat(held.exit()).isEqualTo(4);
        assertThat(held.out()).contains("held by ").contains("case 7");
        assertThat(json(tool.onHarbour("archive", "hold", "--format", "json")).path("holds"))
                .hasSize(1);
        assertThat(tool.onHarbour("archive", "release", "1").exit()).isZero();
        assertThat(tool.onHarbour("archive", "release", "1").exit()).isEqualTo(2);
        assertThat(tool.onHarbour("purge", "--due").out()).contains("Nothing is due.");
        Result purged = tool.onHarbour("purge", receipt, "--yes");
        assertThat(purged.exit()).as(purged.out()).isZero();
        assertThat(purged.out())
                .contains("Purge 17 archived rows of 6 tables")
                .contains("17 archived rows are purged.");
        assertThat(tool.onHarbour("archive").exit()).isEqualTo(3);
        assertThat(tool.onHarbour("archive", "hold", "boat", "--key", "14", "--because", "unpaid")
                        .exit())
                .isZero();
        assertThat(tool.onHarbour("delete", "boat", "--key", "14", "--yes").out())
                .contains("unpaid");
    }

    /** A hold on a mistyped key would keep nothing, and be believed. */
    @Test
    void whatIsNotThereIsNeitherHeldNorRestored() throws Exception {
        assertThat(tool.run("setup", "--db", "harbour.db").exit()).isZero();
        Result hold = tool.run("archive", "hold", "boat", "--key", "9999", "--because", "case 7", "--db", "harbour.db");
        assertThat(hold.exit()).isEqualTo(3);
        assertThat(hold.err())
                .contains("Table boat has no row with the key 9999, and none is archived; no hold was made.");
        assertThat(tool.run("archive", "hold", "--db", "harbour.db").out()).doesNotContain("9999");

        Result restore = tool.run("restore", "boat", "--key", "17", "--yes", "--db", "harbour.db");
        assertThat(restore.exit()).isEqualTo(3);
        assertThat(restore.out() + restore.err())
                .contains("is marked as deleted or archived, so there is none to restore");
    }

    /** Whoever looks for a row that is gone looks here, whether it was erased or marked, and by whom. */
    @Test
    void whatIsMarkedIsListedBesideWhatIsArchived() throws Exception {
        Files.writeString(folder.resolve("vacancy.yaml"), HarbourOffice.ruleBook());
        tool.onHarbour("setup");
        tool.onHarbour("delete", "boat", "--key", "12", "--soft", "--yes", "--by", "Mira Holm");
        tool.onHarbour("delete", "boat", "--key", "14", "--soft", "--yes", "--by", "Mira Holm");
        Result told = tool.onHarbour("archive");
        assertThat(told.out())
                .containsSubsequence("by Mira Holm", "soft-deleted, selected", "without a receipt")
                .containsPattern("boat +2 +soft-deleted +until erased");
        JsonNode document = new ObjectMapper()
                .readTree(tool.onHarbour("archive", "--format", "json").out());
        assertThat(document.path("marked-without-receipt").path(0).path("rows").asLong())
                .isEqualTo(2);
        assertThat(tool.onHarbour("archive", "boat", "--rows", "--format", "csv")
                        .out()
                        .lines())
                .hasSize(5)
                .filteredOn(line -> line.endsWith("\"marked\""))
                .hasSize(4);
        assertThat(tool.onHarbour("archive", "--who", "Mira Holm").out()).doesNotContain("without a receipt");
        // What nobody has set up tables for is found all the same.
        Files.delete(folder.resolve("harbour.db"));
        Tool.onHarbourIn(folder);
        assertThat(tool.onHarbour("archive", "boat", "--rows").out()).contains("Plover", "Dunlin", "2 rows of boat");
        assertThat(tool.onHarbour("archive").out()).containsPattern("boat +2 +soft-deleted");
    }

    @Test
    void whatWasDeletedStandsBesideWhatIsThereNow() throws Exception {
        tool.onHarbour("setup");
        String receipt = new ObjectMapper()
                .readTree(tool.onHarbour("delete", "boat", "--key", "17", "--yes", "--format", "json")
                        .out())
                .path("receipt")
                .asText();
        Tool tool = new Tool(folder);
        tool.execute("INSERT INTO boat VALUES (17, 7, 2, NULL, 'Osprey II', 'HV-204', 'VQ17', 11.35, NULL)");
        Result told = tool.onHarbour("archive", "compare", receipt);
        assertThat(told.exit()).as(told.err()).isZero();
        assertThat(told.out())
                .containsPattern("boat +1 +1 there, with other values")
                .containsPattern("fee +3 +3 not there")
                .containsPattern("boat id 17\\s+was +is now")
                .containsPattern("name +Osprey +Osprey II")
                .contains("vacancy restore " + receipt);
        assertThat(tool.onHarbour("archive", "compare", receipt, "--format", "csv")
                        .out())
                .contains("\"boat\",\"id 17\",\"changed\",\"name\",\"Osprey\",\"Osprey II\"");
        JsonNode document = new ObjectMapper()
                .readTree(tool.onHarbour("archive", "compare", receipt, "--format", "json")
                        .out());
        assertThat(document.path("comparisons")).hasSize(15);
        // A tenant sees nothing of another's.
        assertThat(tool.onHarbour("archive", "compare", receipt, "--scope", "harbour_id=8", "--scope-open", "yard")
                        .err())
                .contains("No row is archived under receipt");
    }
}
