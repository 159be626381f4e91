// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
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
        assertThat(run("setup").exit()).isZero();
    }

    private Result run(String... words) throws Exception {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(List.of("--db", "harbour.db"));
        return tool.run(all.toArray(String[]::new));
    }

    @Test
    void whatHappenedToABoatIsOneCommand() throws Exception {
        assertThat(run("history", "boat", "--key", "17").exit()).isEqualTo(3);
        run("delete", "boat", "--key", "17", "--soft", "--yes", "--by", "Mira Holm", "--because", "sold");
        run("restore", "boat", "--key", "17", "--yes", "--by", "Mira Holm");
        Result gone = run(
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
        run("restore", receipt, "--yes", "--by", "Mira Holm");
        run("purge", receipt, "--yes", "--by", "Mira Holm");

        String told = run("history", "boat", "--key", "17").out();

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
        assertThat(run("history", "--receipt", receipt, "--format", "csv").out().lines())
                .hasSize(4);
        String jsonLines =
                run("history", "--who", "Jonas Reik", "--format", "jsonl").out();
        JsonNode entry = new ObjectMapper().readTree(jsonLines);
        assertThat(entry.path("receipt").asText()).isEqualTo(receipt);
        assertThat(entry.path("effects").path(0).path("keys").path(0).asText()).isEqualTo("17");
    }

    @Test
    void whatItHeldIsToldWhileItIsKept() throws Exception {
        run("delete", "boat", "--key", "17", "--yes");
        assertThat(run("history", "boat", "--key", "17").out()).contains("it held", "name Osprey, registration HV-204");
    }

    @Test
    void whatWasRefusedIsToldWithoutPersonalValues() throws Exception {
        assertThat(run("delete", "skipper", "--where", "name = 'Mira Holm'", "--yes")
                        .exit())
                .isNotZero();
        assertThat(run("delete", "boat", "--key", "14", "--yes").exit()).isEqualTo(4);
        assertThat(run("delete", "boat", "--key", "17", "--answer", "rather not")
                        .exit())
                .isEqualTo(5);
        assertThat(run("history", "--ending", "declined", "--details").out())
                .contains("Not erased but declined: boat 17")
                .contains("answered \"rather not\"");
        assertThat(run("history", "--ending", "blocked", "--kind", "erase", "--details")
                        .out())
                .contains("inspection.boat_id");
        String page = run("history", "--most", "1").out();
        String after =
                page.substring(page.indexOf("--after ") + 8).lines().findFirst().orElseThrow();
        assertThat(run("history", "--after", after).out())
                .doesNotContain("declined")
                .contains("blocked");
    }

    @Test
    void whatIsAlikeIsOneLineAndADocumentHasAllOfIt() throws Exception {
        for (int i = 0; i < 3; i++) {
            assertThat(run("delete", "boat", "--key", "14", "--yes", "--by", "Mira Holm")
                            .exit())
                    .isEqualTo(4);
        }
        run("delete", "boat", "--key", "17", "--yes", "--by", "Mira Holm", "--because", "sold");

        List<String> told = run("history").out().lines().map(String::strip).toList();

        assertThat(told.get(2)).matches("\\d{4}-\\d\\d-\\d\\d  \\S+");
        assertThat(told.get(3)).endsWith("erased               boat 17, 17 rows in all  Mira Holm, because: sold");
        assertThat(told.get(4)).endsWith("not erased, blocked  3 times, 3 rows of boat  Mira Holm");
        assertThat(told.get(7)).startsWith("vacancy history --db").endsWith("--details");
        JsonNode document =
                new ObjectMapper().readTree(run("history", "--format", "json").out());
        assertThat(document.path("database").asText()).startsWith("SQLite, ").endsWith("harbour.db");
        assertThat(document.path("entries")).hasSize(4);
    }

    @Test
    void badInputSaysWhatIsWrong() throws Exception {
        assertThat(run("history", "--key", "17").err()).contains("no table");
        assertThat(run("history", "--kind", "melt").err())
                .contains("--kind melt is unknown")
                .contains("soft-delete");
        assertThat(run("history", "--after", "nowhere").err()).contains("no entry nowhere");
        assertThat(run("history", "boot").err()).contains("did you mean boat");
        assertThat(run("history", "verify", "--head", "3").err()).contains("not the head of a trail");
        assertThat(run("history", "verify", "--seal-key-env", "NO_SUCH_SECRET").err())
                .contains("NO_SUCH_SECRET is not set");
    }

    @Test
    void aTrailThatWasChangedIsFound() throws Exception {
        run("delete", "boat", "--key", "17", "--yes");
        run("delete", "boat", "--key", "14", "--yes");
        Result verified = run("history", "verify");
        assertThat(verified.exit()).isZero();
        assertThat(verified.out()).contains("Verified. 2 entries");
        String head = run("history", "seal").out().strip();
        assertThat(run("history", "verify", "--head", head).exit()).isZero();
        tool.execute("UPDATE vacancy_trail SET actor = 'nobody' WHERE entry_no = 1");
        Result changed = run("history", "verify");
        assertThat(changed.exit()).isEqualTo(9);
        assertThat(changed.out()).contains("Verification failed. At place 1").contains("Column actor says nobody");
        JsonNode document = new ObjectMapper()
                .readTree(run("history", "verify", "--format", "json").out());
        assertThat(document.path("verified").asBoolean(true)).isFalse();
        assertThat(document.path("violation").path("kind").asText()).isEqualTo("changed");
    }

    @Test
    void eventsArePassedOnOnce() throws Exception {
        assertThat(run("history", "events").exit()).isEqualTo(3);
        run("delete", "boat", "--key", "17", "--yes");
        assertThat(run("history", "events", "--look").out().lines()).hasSize(1);
        Result passed = run("history", "events");
        JsonNode event = new ObjectMapper().readTree(passed.out());
        assertThat(event.path("source").asText()).isEqualTo("/harbour/office");
        assertThat(event.path("data").path("table").asText()).isEqualTo("boat");
        assertThat(passed.err()).contains("1 passed on");
        assertThat(run("history", "events").exit()).isEqualTo(3);
    }

    @Test
    void whatWasDoneAroundTheToolIsListedAndTheScopeIsShown() throws Exception {
        Result triggers = run("setup", "triggers", "--format", "json");
        assertThat(triggers.exit()).as(triggers.err()).isZero();
        for (JsonNode statement : new ObjectMapper().readTree(triggers.out()).path("statements")) {
            tool.execute(statement.asText());
        }
        assertThat(run("setup", "triggers", "boat", "--refuse").out())
                .contains("RAISE(ABORT, 'Rows of boat are deleted and marked through Vacancy only")
                .doesNotContain("ON \"fee\"");
        Result quiet = run("history", "verify");
        assertThat(quiet.out()).contains("Verified.").doesNotContain("Without a receipt");
        tool.execute("DELETE FROM fee WHERE id = 707");
        Result told = run("history", "verify");
        assertThat(told.exit()).isZero();
        assertThat(told.out())
                .contains(
                        "Without a receipt rows were deleted or marked by statements that did not go through Vacancy:")
                .containsPattern("delete +fee 707");

        Result scopes = run("check", "--scope", "HARBOUR_ID=7", "--scope-open", "yard");
        assertThat(scopes.out()).containsPattern("boat +where harbour_id = 7").containsPattern("yard +open to all");
        assertThat(run("check", "--scope", "harbour_id=7").out()).containsPattern("yard +closed");
        assertThat(run("check", "--scope", "harbor_id=7").err()).contains("No table has the column harbor_id");
        assertThat(run("delete", "boat", "--key", "17", "--yes", "--scope", "harbour_id=8")
                        .exit())
                .isEqualTo(3);
        assertThat(run("check", "--scope-open", "yard").exit()).isEqualTo(2);
    }

    @Test
    void nothingIsSealedBelowTheHeadThatAFileRemembers() throws Exception {
        String head = folder.resolve("head").toString();
        run("delete", "boat", "--key", "17", "--soft", "--yes", "--head-file", head);
        run("restore", "boat", "--key", "17", "--yes", "--head-file", head);
        assertThat(Files.readString(folder.resolve("head"))).startsWith("2:");
        tool.execute("DELETE FROM vacancy_seal WHERE place_no = 2");
        tool.execute("UPDATE vacancy_head SET place_no = 1, digest = (SELECT digest FROM vacancy_seal)");
        Result refused = run("history", "seal", "--head-file", head);
        assertThat(refused.exit()).isEqualTo(9);
        assertThat(refused.err()).contains("was sealed up to 2, and in the database it ends at 1");
        assertThat(run("history", "verify", "--head-file", head).exit()).isEqualTo(9);
    }
}
