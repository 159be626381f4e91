// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What the command line tells of who did what. */
class HistoryCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("vacancy.yaml"), """
                version: 1
                outbox: /harbour/office
                tables:
                  skipper: {personal: [name, email, phone]}
                  boat: {marker: {date: left_on}}
                relations:
                  mooring.boat_id: {soft-delete: leave}
                  logbook_entry.boat_id: {soft-delete: leave}
                  inspection.boat_id: {soft-delete: leave}
                """);
        assertThat(tool.onHarbour("setup").exit()).isZero();
    }

    @Test
    void whatHappenedToABoatIsOneCommand() throws Exception {
        assertThat(tool.onHarbour("history", "boat", "--key", "17").exit()).isEqualTo(3);
        tool.onHarbour("delete", "boat", "--key", "17", "--soft", "--yes", "--by", "Mira Holm", "--because", "sold");
        tool.onHarbour("restore", "boat", "--key", "17", "--yes", "--by", "Mira Holm");
        Result gone = tool.onHarbour(
                "delete",
                "boat",
                "--key",
                "17",
                "--answer",
                "yes",
                "--by",
                "Jonas Reik",
                "--on-behalf-of",
                "the port court",
                "--origin",
                "ticket=HB-112",
                "--format",
                "json");
        String receipt = new ObjectMapper().readTree(gone.out()).path("receipt").asText();
        tool.onHarbour("restore", receipt, "--yes", "--by", "Mira Holm");
        tool.onHarbour("purge", receipt, "--yes", "--by", "Mira Holm");

        String told = tool.onHarbour("history", "boat", "--key", "17").out();

        assertThat(told)
                .containsSubsequence(
                        "Purged boat 17 by Mira Holm",
                        "Restored boat 17 by Mira Holm",
                        "Erased boat 17 by Jonas Reik for the port court",
                        "5  erased from power_reading",
                        "Erase boat Osprey (id 17)? – answered \"yes\"",
                        "ticket: HB-112",
                        "Restored boat 17 by Mira Holm",
                        "Marked as deleted boat 17 by Mira Holm",
                        "sold")
                // Purged, it is known no more what it held.
                .doesNotContain("it held");
        assertThat(tool.onHarbour("history", "--receipt", receipt, "--format", "csv")
                        .out()
                        .lines())
                .hasSize(4);
        String jsonLines = tool.onHarbour("history", "--who", "Jonas Reik", "--format", "jsonl")
                .out();
        JsonNode entry = new ObjectMapper().readTree(jsonLines);
        assertThat(entry.path("receipt").asText()).isEqualTo(receipt);
        assertThat(entry.path("effects").path(0).path("keys").path(0).asText()).isEqualTo("17");
    }

    @Test
    void whatItHeldIsToldWhileItIsKept() throws Exception {
        tool.onHarbour("delete", "boat", "--key", "17", "--yes");
        assertThat(tool.onHarbour("history", "boat", "--key", "17").out())
                .contains("it held", "name Osprey, registration HV-204");
    }

    @Test
    void whatWasRefusedIsToldWithoutPersonalValues() throws Exception {
        assertThat(tool.onHarbour("delete", "skipper", "--where", "name = 'Mira Holm'", "--yes")
                        .exit())
                .isNotZero();
        assertThat(tool.onHarbour("delete", "boat", "--key", "14", "--yes").exit())
                .isEqualTo(4);
        assertThat(tool.onHarbour("delete", "boat", "--key", "17", "--answer", "rather not")
                        .exit())
                .isEqualTo(5);
        assertThat(tool.onHarbour("history", "--ending", "declined", "--details")
                        .out())
                .contains("Not erased but declined: boat 17")
                .contains("answered \"rather not\"");
        assertThat(tool.onHarbour("history", "--ending", "blocked", "--kind", "erase", "--details")
                        .out())
                .contains("inspection.boat_id");
        String page = tool.onHarbour("history", "--most", "1").out();
        String after =
                page.substring(page.indexOf("--after ") + 8).lines().findFirst().orElseThrow();
        assertThat(tool.onHarbour("history", "--after", after).out())
                .doesNotContain("declined")
                .contains("blocked");
    }

    @Test
    void whatIsAlikeIsOneLineAndADocumentHasAllOfIt() throws Exception {
        for (int i = 0; i < 3; i++) {
            assertThat(tool.onHarbour("delete", "boat", "--key", "14", "--yes", "--by", "Mira Holm")
                            .exit())
                    .isEqualTo(4);
        }
        tool.onHarbour("delete", "boat", "--key", "17", "--yes", "--by", "Mira Holm", "--because", "sold");

        List<String> told =
                tool.onHarbour("history").out().lines().map(String::strip).toList();

        assertThat(told.get(2)).matches("\\d{4}-\\d\\d-\\d\\d  \\S+");
        assertThat(told.get(3)).endsWith("erased               boat 17, 17 rows in all  Mira Holm, because: sold");
        assertThat(told.get(4)).endsWith("not erased, blocked  3 times, 3 rows of boat  Mira Holm");
        assertThat(told.get(7)).startsWith("vacancy history --db").endsWith("--details");
        JsonNode document = new ObjectMapper()
                .readTree(tool.onHarbour("history", "--format", "json").out());
        assertThat(document.path("database").asText()).startsWith("SQLite, ").endsWith("harbour.db");
        assertThat(document.path("entries")).hasSize(4);
    }

    @Test
    void badInputSaysWhatIsWrong() throws Exception {
        assertThat(tool.onHarbour("history", "--key", "17").err()).contains("no table");
        assertThat(tool.onHarbour("history", "--kind", "melt").err())
                .contains("--kind melt is unknown")
                .contains("soft-delete");
        assertThat(tool.onHarbour("history", "--after", "nowhere").err()).contains("no entry nowhere");
        assertThat(tool.onHarbour("history", "boot").err()).contains("did you mean boat");
        assertThat(tool.onHarbour("history", "verify", "--head", "3").err()).contains("not the head of a trail");
        assertThat(tool.onHarbour("history", "verify", "--seal-key-env", "NO_SUCH_SECRET")
                        .err())
                .contains("NO_SUCH_SECRET is not set");
    }

    @Test
    void aTrailThatWasChangedIsFound() throws Exception {
        tool.onHarbour("delete", "boat", "--key", "17", "--yes");
        tool.onHarbour("delete", "boat", "--key", "14", "--yes");
        Result verified = tool.onHarbour("history", "verify");
        assertThat(verified.exit()).isZero();
        assertThat(verified.out()).contains("Verified. 2 entries");
        String head = tool.onHarbour("history", "seal").out().strip();
        assertThat(tool.onHarbour("history", "verify", "--head", head).exit()).isZero();
        tool.execute("UPDATE vacancy_trail SET actor = 'nobody' WHERE entry_no = 1");
        Result changed = tool.onHarbour("history", "verify");
        assertThat(changed.exit()).isEqualTo(9);
        assertThat(changed.out()).contains("Verification failed. At place 1").contains("Column actor says nobody");
        JsonNode document = new ObjectMapper()
                .readTree(
                        tool.onHarbour("history", "verify", "--format", "json").out());
        assertThat(document.path("verified").asBoolean(true)).isFalse();
        assertThat(document.path("violation").path("kind").asText()).isEqualTo("changed");
    }

    @Test
    void eventsArePassedOnOnce() throws Exception {
        assertThat(tool.onHarbour("history", "events").exit()).isEqualTo(3);
        tool.onHarbour("delete", "boat", "--key", "17", "--yes");
        assertThat(tool.onHarbour("history", "events", "--look").out().lines()).hasSize(1);
        Result passed = tool.onHarbour("history", "events");
        JsonNode event = new ObjectMapper().readTree(passed.out());
        assertThat(event.path("source").asText()).isEqualTo("/harbour/office");
        assertThat(event.path("data").path("table").asText()).isEqualTo("boat");
        assertThat(passed.err()).contains("1 passed on");
        assertThat(tool.onHarbour("history", "events").exit()).isEqualTo(3);
    }

    @Test
    void whatWasDoneAroundTheToolIsListedAndTheScopeIsShown() throws Exception {
        Result triggers = tool.onHarbour("setup", "triggers", "--format", "json");
        assertThat(triggers.exit()).as(triggers.err()).isZero();
        for (JsonNode statement : new ObjectMapper().readTree(triggers.out()).path("statements")) {
            tool.execute(statement.asText());
        }
        assertThat(tool.onHarbour("setup", "triggers", "boat", "--refuse").out())
                .contains("RAISE(ABORT, 'Rows of boat are deleted and marked through Vacancy only")
                .doesNotContain("ON \"fee\"");
        Result quiet = tool.onHarbour("history", "verify");
        assertThat(quiet.out()).contains("Verified.").doesNotContain("Without a receipt");
        tool.execute("DELETE FROM fee WHERE id = 707");
        Result told = tool.onHarbour("history", "verify");
        assertThat(told.exit()).isZero();
        assertThat(told.out())
                .contains(
                        "Without a receipt rows were deleted or marked by statements that did not go through Vacancy:")
                .containsPattern("delete +fee 707");

        Result scopes = tool.onHarbour("check", "--scope", "HARBOUR_ID=7", "--scope-open", "yard");
        assertThat(scopes.out()).containsPattern("boat +where harbour_id = 7").containsPattern("yard +open to all");
        assertThat(tool.onHarbour("check", "--scope", "harbour_id=7").out()).containsPattern("yard +closed");
        assertThat(tool.onHarbour("check", "--scope", "harbor_id=7").err())
                .contains("No table has the column harbor_id");
        assertThat(tool.onHarbour("delete", "boat", "--key", "17", "--yes", "--scope", "harbour_id=8")
                        .exit())
                .isEqualTo(3);
        assertThat(tool.onHarbour("check", "--scope-open", "yard").exit()).isEqualTo(2);
    }

    @Test
    void nothingIsSealedBelowTheHeadThatAFileRemembers() throws Exception {
        String head = folder.resolve("head").toString();
        tool.onHarbour("delete", "boat", "--key", "17", "--soft", "--yes", "--head-file", head);
        tool.onHarbour("restore", "boat", "--key", "17", "--yes", "--head-file", head);
        assertThat(Files.readString(folder.resolve("head"))).startsWith("2:");
        tool.execute("DELETE FROM vacancy_seal WHERE place_no = 2");
        tool.execute("UPDATE vacancy_head SET place_no = 1, digest = (SELECT digest FROM vacancy_seal)");
        Result refused = tool.onHarbour("history", "seal", "--head-file", head);
        assertThat(refused.exit()).isEqualTo(9);
        assertThat(refused.err()).contains("was sealed up to 2, and in the database it ends at 1");
        assertThat(tool.onHarbour("history", "verify", "--head-file", head).exit())
                .isEqualTo(9);
    }
}
