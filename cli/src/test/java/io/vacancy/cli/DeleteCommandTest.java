// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import java.io.ByteArrayInputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class DeleteCommandTest {

    @TempDir
    Path folder;

    private Tool tool;

    @BeforeEach
    void build() throws Exception {
        tool = Tool.onHarbourIn(folder);
    }

    @Test
    void aYesAtTheTerminalCarriesOutWhatWasShown() throws Exception {
        Result result = tool.atTerminal(
                "yes\n", "delete", "boat", "--key", "17", "--by", "Edda", "--because", "sold", "--db", tool.db());

        assertThat(result.exit()).isZero();
        assertThat(result.err())
                .contains("Erase boat Osprey (id 17)?")
                .contains(
                        "14 rows of 4 tables will be deleted with it: 4 logbook_entry, 2 mooring, 3 fee, 5 power_reading.")
                .contains("2 rows of work_order stay and lose their link: work_order.boat_id becomes NULL.");
        assertThat(result.out())
                .contains("Done. boat Osprey (id 17) is deleted.")
                .contains("Edda")
                .contains("sold");
        assertThat(tool.count("boat WHERE id = 17")).isZero();
        assertThat(tool.count("mooring WHERE boat_id = 17")).isZero();
        assertThat(tool.count("fee")).isEqualTo(6);
        assertThat(tool.count("power_reading")).isEqualTo(5);
        assertThat(tool.count("work_order WHERE boat_id IS NULL")).isEqualTo(2);
        assertThat(tool.count("pragma_foreign_key_check")).isZero();
    }

    @Test
    void aMergedRowsChildRowsGetTheRowThatStays() throws Exception {
        Result blocked = tool.run("preview", "pier", "--key", "2", "--merge-into", "1", "--db", tool.db());
        Result merged =
                tool.atTerminal("yes\n", "delete", "skipper", "--key", "2", "--merge-into", "1", "--db", tool.db());

        assertThat(blocked.exit()).isEqualTo(4);
        assertThat(blocked.out())
                .contains("they would share pier_id, number with other rows of berth")
                .contains(
                        "preview pier --key 2 --merge-into 1 --db " + tool.db() + " --delete-duplicates berth.pier_id");
        assertThat(merged.exit()).isZero();
        assertThat(merged.err())
                .contains("Merge skipper Tavi Orn (id 2) into Mira Holm (id 1)?")
                .contains("2 rows of boat stay and get another parent: boat.skipper_id becomes 1.");
        assertThat(merged.out()).contains("Done. skipper Tavi Orn (id 2) is merged.");
        assertThat(tool.count("boat WHERE skipper_id = 2 OR co_skipper_id = 2")).isZero();
        assertThat(tool.count("skipper WHERE id = 2")).isZero();
    }

    @Test
    void aNoAndNoReplyAtAllChangeNothing() throws Exception {
        assertThat(tool.atTerminal("no\n", "delete", "boat", "--key", "17", "--db", tool.db())
                        .exit())
                .isEqualTo(5);
        assertThat(tool.atTerminal("", "delete", "boat", "--key", "17", "--db", tool.db())
                        .exit())
                .isEqualTo(5);
        assertThat(tool.count("boat")).isEqualTo(8);
    }

    @Test
    void theReceiptAsJsonHoldsTheDeletedRecordWithEveryDigit() throws Exception {
        Result result =
                tool.run("delete", "boat", "--key", "14", "--expect", "1", "--format", "json", "--db", "harbour.db");
        assertThat(result.exit()).isEqualTo(4);
        tool.execute("DELETE FROM inspection");

        result = tool.run("delete", "boat", "--key", "14", "--expect", "1", "--format", "json", "--db", "harbour.db");

        JsonNode receipt = new ObjectMapper().readTree(result.out());
        assertThat(result.exit()).isZero();
        assertThat(receipt.path("state").asText()).isEqualTo("done");
        assertThat(receipt.path("version").asInt()).isEqualTo(1);
        assertThat(receipt.path("totals").toString()).isEqualTo("{\"delete\":6,\"set-null\":1}");
        assertThat(receipt.path("effects").path(0).path("relation").isNull()).isTrue();
        assertThat(receipt.path("records").path(0).path("name").asText()).isEqualTo("Curlew");
        assertThat(result.out()).contains("10.40");
        assertThat(receipt.path("receipt").asText()).hasSize(36);
        assertThat(receipt.path("by").asText()).endsWith("(user of this machine)");
    }

    @Test
    void aFingerprintCarriesOutOnlyWhatAnEarlierPreviewShowed() throws Exception {
        JsonNode preview = new ObjectMapper()
                .readTree(tool.run("preview", "boat", "--key", "17", "--format", "json", "--db", "harbour.db")
                        .out());
        String fingerprint = preview.path("fingerprint").asText();
        tool.execute("UPDATE boat SET name = 'Osprey II' WHERE id = 17");

        Result stale =
                tool.run("delete", "boat", "--key", "17", "--yes", "--fingerprint", fingerprint, "--db", "harbour.db");
        assertThat(stale.exit()).isEqualTo(6);

        tool.execute("UPDATE boat SET name = 'Osprey' WHERE id = 17");
        assertThat(tool.run(
                                "delete",
                                "boat",
                                "--key",
                                "17",
                                "--yes",
                                "--fingerprint",
                                fingerprint,
                                "--db",
                                "harbour.db")
                        .exit())
                .isZero();
    }

    @Test
    void aRowUnderAKeyOfSeveralColumnsGoes() throws Exception {
        Result result = tool.run(
                "delete", "berth_service", "--key", "service=crane,berth_id=201", "--yes", "--db", "harbour.db");

        assertThat(result.exit()).isZero();
        assertThat(tool.count("berth_service")).isEqualTo(5);
    }

    @Test
    void tablesThatReferToOneAnotherGoTogether() throws Exception {
        Result result = tool.run("delete", "pier", "--key", "2", "--yes", "--db", "harbour.db");
        assertThat(result.exit()).isEqualTo(4);
        tool.execute("DELETE FROM fee");
        tool.execute("DELETE FROM power_reading");
        tool.execute("DELETE FROM mooring");
        tool.execute("DELETE FROM berth_contract");

        result = tool.run("delete", "pier", "--key", "2", "--yes", "--db", "harbour.db");

        assertThat(result.exit()).isZero();
        assertThat(tool.count("berth WHERE pier_id = 2")).isZero();
        assertThat(tool.count("pragma_foreign_key_check")).isZero();
    }

    @Test
    void relationsShowTheRuleOnEach() throws Exception {
        Result all = tool.run("relations", "--db", "harbour.db");
        Result boat = tool.run("relations", "boat", "--db", "harbour.db", "--format", "json");

        assertThat(all.out())
                .contains("inspection.boat_id")
                .contains("set-null")
                .contains("14 tables");
        assertThat(new ObjectMapper()
                        .readTree(boat.out())
                        .path("tables")
                        .path(0)
                        .path("relations"))
                .extracting(relation -> relation.path("rules").path(0).asText())
                .containsExactly("block", "cascade", "cascade", "set-null");
    }

    @Test
    void theDemoWalksThroughAndOverwritesNothing() throws Exception {
        Result demo = tool.run("demo");

        assertThat(demo.exit()).isZero();
        assertThat(demo.err()).isEmpty();
        assertThat(demo.out())
                .contains("Table boat has no row with id 17.")
                .contains("Blocked by")
                .contains("harbour-2.db")
                .contains("Done. boat Osprey (HV-204) is restored.")
                .contains("boat Curlew (HV-140) is restored.")
                .contains("1  ended, with a successor, in berth_contract");
        assertThat(folder.resolve("harbour-2.db")).exists();
        assertThat(tool.count("boat")).isEqualTo(8);
        assertThat(tool.run("demo", "--at", "harbour.db").exit()).isEqualTo(2);
        assertThat(Files.list(folder)).hasSize(3);
    }

    @Test
    void colourIsForTerminalsOnly() throws Exception {
        assertThat(tool.run("preview", "boat", "--key", "17", "--db", "harbour.db")
                        .out())
                .doesNotContain("\033");
    }

    /** Somebody whose keys are faster than the question. */
    @Test
    void whatWasTypedBeforeTheQuestionIsNoAnswerToIt() throws Exception {
        for (String typedAhead : new String[] {"yes\n", "fee\n", "yes\nyes\nyes\n"}) {
            Result result = tool.atTerminal(
                    new ByteArrayInputStream(typedAhead.getBytes(StandardCharsets.UTF_8)),
                    "delete",
                    "fee",
                    "--every-row",
                    "--db",
                    tool.db());
            assertThat(result.exit()).as(result.err()).isEqualTo(5);
            assertThat(result.err()).contains("Erase every row of fee");
        }
        assertThat(tool.count("fee")).isEqualTo(9);
    }

    @Test
    void anIdIsCarriedOutOnce() throws Exception {
        assertThat(tool.run("delete", "fee", "--key", "704", "--id", "form-1", "--yes", "--db", "harbour.db")
                        .err())
                .contains("no place to keep it");
        tool.run("setup", "--db", "harbour.db");
        String[] words = {"delete", "fee", "--key", "704", "--id", "form-1", "--yes", "--db", "harbour.db"};
        Result first = tool.run(words);
        Result second = tool.run(words);
        assertThat(first.exit()).as(first.err()).isZero();
        assertThat(second.exit()).as(second.err()).isZero();
        assertThat(second.out()).contains("It was done before, under the same id");
        assertThat(tool.count("vacancy_receipt")).isEqualTo(1);
        Result other = tool.run("delete", "fee", "--key", "705", "--id", "form-1", "--yes", "--db", "harbour.db");
        assertThat(other.exit()).isEqualTo(2);
        assertThat(tool.count("fee WHERE id = 705")).isEqualTo(1);
    }

    @Test
    void theHistoryTellsHowItWasAgreed() throws Exception {
        tool.run("setup", "--db", "harbour.db");
        tool.run("delete", "fee", "--key", "704", "--yes", "--db", "harbour.db");
        tool.run("delete", "fee", "--key", "705", "--expect", "1", "--db", "harbour.db");
        tool.run("delete", "fee", "--key", "706", "--answer", "yes", "--db", "harbour.db");
        Result history = tool.run("history", "--format", "jsonl", "--db", "harbour.db");
        assertThat(history.out().lines().map(line -> line.replaceAll(".*\"how\":\"([a-z-]+)\".*", "$1")))
                .containsExactly("question", "expected", "accepted-unasked");
        assertThat(history.out().lines().map(line -> line.replaceAll(".*\"answer\":(\"yes\"|null).*", "$1")))
                .containsExactly("\"yes\"", "null", "null");
    }
}
