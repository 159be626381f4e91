// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import io.vacancy.harbour.HarbourOffice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.PreparedStatement;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What belongs to a person is written to a file, and the person is forgotten, on the command line. */
class PersonCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        Files.writeString(folder.resolve("vacancy.yaml"), HarbourOffice.ruleBook());
        assertThat(tool.onHarbour("setup").exit()).isZero();
    }

    @Test
    void whatBelongsToAPersonIsAFileInThreeForms() throws Exception {
        Result json = tool.onHarbour("preview", "skipper", "--key", "2", "--forget", "--data-to", "tavi.json");
        Result page =
                tool.onHarbour("preview", "skipper", "--match", "name=Tavi Orn", "--forget", "--data-to", "tavi.html");
        Result csv = tool.onHarbour("preview", "skipper", "--key", "2", "--forget", "--data-to", "tavi");

        assertThat(json.exit()).isZero();
        assertThat(json.err()).contains("10 rows of 7 tables written to ", "tavi.json.");
        // The command that is offered carries it out, and writes no file.
        assertThat(json.out())
                .contains("vacancy delete skipper --key 2 --forget --db")
                .doesNotContain("--data-to");
        JsonNode tables = new ObjectMapper()
                .readTree(Files.readString(folder.resolve("tavi.json")))
                .path("tables");
        assertThat(tables.get(0).path("table").asText()).isEqualTo("skipper");
        assertThat(tables.get(0).path("rows").get(0).path("email").asText()).isEqualTo("tavi@harbour.example");
        assertThat(tables).hasSize(7);
        assertThat(page.exit()).isZero();
        assertThat(Files.readString(folder.resolve("tavi.html")))
                .startsWith("<!DOCTYPE html>")
                .contains("<h1>skipper Tavi Orn (id 2)</h1>", "<h2>power_reading</h2>", "<td>Arrived under tow</td>")
                .doesNotContain("Mira", "<script");
        assertThat(csv.exit()).isZero();
        try (Stream<Path> files = Files.list(folder.resolve("tavi"))) {
            assertThat(files.map(file -> file.getFileName().toString()))
                    .hasSize(7)
                    .contains("boat.csv", "fee.csv");
        }
        assertThat(Files.readString(folder.resolve("tavi/skipper.csv")))
                .isEqualTo("\"id\",\"harbour_id\",\"name\",\"email\",\"phone\"\r\n"
                        + "\"2\",\"7\",\"Tavi Orn\",\"tavi@harbour.example\",\r\n");

        Result nobody = tool.onHarbour("preview", "skipper", "--key", "99", "--forget", "--data-to", "nobody.json");
        assertThat(nobody.exit()).isEqualTo(3);
        assertThat(folder.resolve("nobody.json")).doesNotExist();
        Result again = tool.onHarbour("preview", "skipper", "--key", "2", "--forget", "--data-to", "tavi");
        assertThat(again.exit()).isEqualTo(2);
        assertThat(again.err()).contains("tavi exists already, and nothing is overwritten");
    }

    @Test
    void textsOfTheDatabaseAreTextsOfThePage() throws Exception {
        try (Connection connection = DriverManager.getConnection("jdbc:sqlite:" + folder.resolve("harbour.db"));
                PreparedStatement update =
                        connection.prepareStatement("UPDATE logbook_entry SET subject = ? WHERE id = 66")) {
            update.setString(1, "<b onclick=\"x()\">&\u0001</b>");
            assertThat(update.executeUpdate()).isEqualTo(1);
        }

        tool.onHarbour("preview", "skipper", "--key", "2", "--forget", "--data-to", "tavi.html");

        assertThat(Files.readString(folder.resolve("tavi.html")))
                .contains("&lt;b onclick=\"x()\"&gt;&amp;\uFFFD&lt;/b&gt;")
                .doesNotContain("<b ", "\u0001");
    }

    @Test
    void aPersonIsForgottenAndThatIsCertified() throws Exception {
        Result preview = tool.onHarbour("preview", "skipper", "--key", "2", "--forget");
        Result done = tool.onHarbour(
                "delete", "skipper", "--key", "2", "--forget", "--yes", "--because", "asked", "--by", "Mira Holm");
        String receipt = done.out().replaceAll("(?s).*receipt +(\\S+).*", "$1");
        Result certificate = tool.onHarbour("history", "certificate", receipt);
        tool.onHarbour("purge", receipt, "--yes");
        Result after = tool.onHarbour("history", "certificate", receipt, "--format", "json");

        assertThat(preview.out())
                .contains("Forget skipper Tavi Orn (id 2)", "Will be kept", "the register of boats", "2 rows to keep");
        assertThat(done.out()).contains("Done. skipper Tavi Orn (id 2) is forgotten.", "2  kept in boat");
        assertThat(certificate.exit()).isZero();
        assertThat(certificate.out())
                .contains("Certificate: skipper 2 was forgotten", "the register of boats", "1 archived row, until")
                .contains("To remove the copies for good:", "vacancy purge " + receipt)
                .doesNotContain("Tavi", "tavi@");
        JsonNode left = new ObjectMapper().readTree(after.out());
        assertThat(left.path("copies").asInt()).isZero();
        assertThat(left.path("later").get(0).path("kind").asText()).isEqualTo("purge");
        assertThat(tool.onHarbour("history", "skipper", "--key", "2").out()).contains("Forgotten skipper 2");
        assertThat(tool.onHarbour("history", "--kind", "forget").exit()).isZero();
    }

    @Test
    void everythingArchivedOfAPersonIsPurgedTableByTable() throws Exception {
        tool.onHarbour("delete", "boat", "--key", "13", "--yes");
        tool.onHarbour("delete", "skipper", "--key", "2", "--forget", "--yes");

        Result purged = tool.onHarbour("purge", "skipper", "--key", "2", "--person", "--yes");

        assertThat(purged.exit()).isZero();
        assertThat(purged.out())
                .contains("Done. 1 archived row is purged.", "purged from the archive of skipper")
                .contains("Gannet (HV-133)", "purged from the archive of boat");
        Result again = tool.onHarbour("purge", "skipper", "--key", "2", "--person", "--yes");
        assertThat(again.exit()).isEqualTo(3);
        assertThat(again.out()).contains("Nothing is archived of what belongs to the person.");
    }

    @Test
    void withThePersonsKeyGoesWhatBackupsHave() throws Exception {
        Files.createDirectory(folder.resolve("keys"));
        Result forgotten = tool.onHarbour(
                "delete", "skipper", "--key", "2", "--forget", "--yes", "--person-keys", "keys", "--format", "json");
        String receipt =
                new ObjectMapper().readTree(forgotten.out()).path("receipt").asText();
        Result unasked =
                tool.onHarbour("purge", "skipper", "--key", "3", "--person", "--destroy-key", "--person-keys", "keys");
        Result keyless = tool.onHarbour("restore", receipt, "--yes");
        Result destroyed = tool.onHarbour(
                "purge", "skipper", "--key", "2", "--person", "--destroy-key", "--person-keys", "keys", "--yes");
        Result again = tool.onHarbour(
                "purge", "skipper", "--key", "2", "--person", "--destroy-key", "--person-keys", "keys", "--yes");

        assertThat(forgotten.exit()).isZero();
        assertThat(unasked.exit()).isEqualTo(2);
        assertThat(unasked.err())
                .contains("Confirmation is needed for \"Destroy the key of skipper 3?\"", "Give --yes.");
        assertThat(keyless.exit()).isEqualTo(4);
        assertThat(keyless.out()).contains("encrypted by the keys of persons, and none are given here");
        assertThat(destroyed.exit()).isZero();
        assertThat(destroyed.out()).contains("purged.", "Done. The key of skipper 2 is destroyed.");
        assertThat(again.exit()).isEqualTo(3);
        assertThat(again.out()).contains("There is no key of skipper 2.");
        assertThat(tool.onHarbour("history", "certificate", receipt).out())
                .contains("none in the archive", "key destroyed  20");
        assertThat(tool.onHarbour("history", "--kind", "destroy-key").out()).contains("key destroyed  skipper 2");
        try (Stream<Path> files = Files.list(folder.resolve("keys"))) {
            assertThat(files).isEmpty();
        }
    }
}
