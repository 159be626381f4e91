// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import io.vacancy.harbour.HarbourOffice;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.Statement;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Tables and columns are dropped, and come back, on the command line. */
class DropCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        assertThat(tool.onHarbour("setup").exit()).isZero();
    }

    private static String receipt(Result done) {
        Matcher receipt = Pattern.compile("receipt\\s+(\\S+)").matcher(done.out());
        assertThat(receipt.find()).as(done.out()).isTrue();
        return receipt.group(1);
    }

    private void run(String script) throws Exception {
        try (Connection connection = tool.connect();
                Statement statement = connection.createStatement()) {
            for (String each : script.split(";")) {
                if (!each.isBlank()) {
                    statement.execute(each);
                }
            }
        }
    }

    @Test
    void aTableIsLookedAtDroppedMadeAgainAndFilled() throws Exception {
        Result looked = tool.onHarbour("drop", "radio_message", "--look");
        Result unanswered = tool.onHarbour("drop", "radio_message", "--yes");
        Result dropped = tool.onHarbour("drop", "radio_message", "--answer", "radio_message", "--because", "moved");
        String receipt = receipt(dropped);
        Result gone = tool.onHarbour("restore", receipt, "--yes");
        Result listed = tool.onHarbour("archive", "radio_message");
        Result definition = tool.onHarbour("archive", "definition", receipt);
        run(definition.out());
        Result restored = tool.onHarbour("restore", receipt, "--yes");

        assertThat(looked.exit()).isZero();
        assertThat(looked.out())
                .contains("Drop table radio_message with all its 4 rows", "Total: 4 rows to drop. Nothing blocks it.");
        assertThat(unanswered.exit()).isEqualTo(2);
        assertThat(unanswered.err()).contains("--answer \"radio_message\"");
        assertThat(dropped.exit()).isZero();
        assertThat(dropped.out())
                .contains("Done. Table radio_message is dropped.", "vacancy archive definition " + receipt)
                .doesNotContain("To take it back");
        assertThat(gone.exit()).isEqualTo(2);
        assertThat(gone.err()).contains("is not in the database.", "its receipt has the definition");
        assertThat(listed.out()).contains("radio_message  4");
        assertThat(definition.out()).startsWith("CREATE TABLE radio_message (");
        assertThat(restored.out()).contains("Done. 4 rows of radio_message are restored.");
        assertThat(tool.onHarbour("history", "radio_message").out())
                .contains("dropped   table radio_message, 4 rows", "because: moved");
    }

    @Test
    void aColumnIsDropped() throws Exception {
        Result dropped = tool.onHarbour("drop", "inspection", "--column", "result", "--answer", "inspection.result");
        Result definition = tool.onHarbour("archive", "definition", receipt(dropped));

        assertThat(dropped.out()).contains("Done. Column result of inspection is dropped.");
        assertThat(definition.out())
                .isEqualToNormalizingNewlines(
                        "ALTER TABLE \"inspection\" ADD COLUMN \"result\" VARCHAR(20);\n-- result did not allow NULL\n");
        assertThat(tool.onHarbour("preview", "inspection", "--every-row").exit())
                .isZero();
        assertThat(tool.onHarbour("history", "inspection").out()).contains("column result of inspection");
    }

    @Test
    void whatUsesItIsShownAndNothingIsDropped() throws Exception {
        Files.writeString(folder.resolve("vacancy.yaml"), HarbourOffice.ruleBook());

        Result blocked = tool.onHarbour("drop", "mooring", "--answer", "mooring");

        assertThat(blocked.exit()).isEqualTo(4);
        assertThat(blocked.out())
                .contains(
                        "through fee.mooring_id: the foreign key has to go first",
                        "the rule book names it, and would not fit any more: vacancy.yaml, line ",
                        "Blocked: nothing will be dropped while this blocks it.",
                        "Nothing was changed.");
        assertThat(tool.onHarbour("preview", "mooring", "--every-row", "--rows").out())
                .contains("501");
    }
}
