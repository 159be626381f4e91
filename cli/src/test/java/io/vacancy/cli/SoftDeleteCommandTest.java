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
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Marking rows as deleted, bringing them back and replacing them, on the command line. */
class SoftDeleteCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void harbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
        sql(
                "ALTER TABLE boat ADD COLUMN left_by VARCHAR(60)",
                "ALTER TABLE boat ADD COLUMN receipt VARCHAR(40)",
                "ALTER TABLE mooring ADD COLUMN receipt VARCHAR(40)",
                "CREATE UNIQUE INDEX one_call_sign ON boat (call_sign) WHERE left_on IS NULL");
        Files.writeString(folder.resolve("rules.yaml"), """
                version: 1
                tables:
                  boat:
                    mode: soft-delete
                    marker: {date: left_on, who: left_by, receipt: receipt}
                  mooring:
                    marker: {date: left_on, receipt: receipt}
                  berth_contract:
                    marker: {versions: {of: [contract_no], start: valid_from, end: valid_until}}
                relations:
                  inspection.boat_id: {soft-delete: leave}
                  logbook_entry.boat_id: {soft-delete: leave}
                  fee.mooring_id: {soft-delete: leave}
                  power_reading.mooring_id: {soft-delete: erase}
                """);
    }

    private void sql(String... statements) throws Exception {
        try (Connection connection = tool.connect();
                Statement statement = connection.createStatement()) {
            for (String each : statements) {
                statement.execute(each);
            }
        }
    }

    private Result run(String typed, String... words) {
        List<String> all = new ArrayList<>(List.of(words));
        all.addAll(List.of(
                "--db",
                folder.resolve("harbour.db").toString(),
                "--rules",
                folder.resolve("rules.yaml").toString()));
        return tool.atTerminal(typed, all.toArray(String[]::new));
    }

    @Test
    void theUsualModeMarksAndTheReceiptBringsBack() throws Exception {
        Result deleted = run("", "delete", "boat", "--key", "17", "--yes", "--by", "Tavi Orn", "--format", "json");
        JsonNode receipt = new ObjectMapper().readTree(deleted.out());
        Result again = run("", "delete", "boat", "--key", "17", "--yes");
        sql("UPDATE boat SET call_sign = 'VQ17' WHERE id = 11");
        Result held = run("", "restore", receipt.path("receipt").asText());
        sql("UPDATE boat SET call_sign = 'VQ11' WHERE id = 11");
        Result back = run("yes\n", "restore", receipt.path("receipt").asText());

        assertThat(receipt.path("mode").asText()).isEqualTo("soft-delete");
        assertThat(receipt.path("active-counts").path("active-after").asInt()).isEqualTo(5);
        assertThat(receipt.path("totals").path("soft-delete").asInt()).isEqualTo(2);
        assertThat(receipt.path("totals").path("delete").asInt()).isEqualTo(2);
        assertThat(again.exit()).isEqualTo(3);
        assertThat(again.out()).contains("1 row of boat is marked as deleted already");
        assertThat(held.exit()).isEqualTo(4);
        assertThat(held.out())
                .contains("! boat  1  another row that is active or is restored has the same call_sign")
                .contains("nothing will be restored while these rows block it");
        assertThat(back.exit()).isZero();
        assertThat(back.out()).contains("boat Osprey (id 17) is restored.").contains("6 of 8 stored; before, 5 of 8");
        assertThat(tool.count("boat WHERE id = 17 AND left_on IS NULL AND left_by IS NULL"))
                .isEqualTo(1);
    }

    @Test
    void whatCannotBeMeantIsRefused() {
        assertThat(run("", "delete", "boat", "--key", "17", "--soft", "--erase").err())
                .contains("contradict each other");
        assertThat(run("", "restore", "boat", "--key", "17", "--soft").err()).contains("There is no option --soft");
        assertThat(run("", "delete", "skipper", "--key", "1", "--soft").err())
                .contains("Rows of skipper cannot be soft-deleted");
        assertThat(run("", "restore", "01a208fd-1729-7e43-8065-082cca2b7da0").err())
                .contains("Nothing can be restored by receipt");
        assertThat(run("", "setup", "views", "skipper").err()).contains("gives skipper no marker");
        assertThat(run("", "delete", "boat", "--every-row", "--at-once").exit()).isEqualTo(2);
    }

    @Test
    void erasingWhatIsMarkedHasToBeAskedFor() throws Exception {
        sql("UPDATE fee SET paid = TRUE", "DELETE FROM inspection");
        Result skipped = run("", "preview", "boat", "--where", "harbour_id = 7", "--erase", "--format", "json");
        Result asked = run(
                "", "preview", "boat", "--where", "harbour_id = 7", "--erase", "--include-marked", "--format", "json");

        assertThat(new ObjectMapper()
                        .readTree(skipped.out())
                        .path("effects")
                        .path(0)
                        .path("rows")
                        .asInt())
                .isEqualTo(5);
        assertThat(new ObjectMapper()
                        .readTree(asked.out())
                        .path("effects")
                        .path(0)
                        .path("rows")
                        .asInt())
                .isEqualTo(7);
    }

    @Test
    void viewsAndTrapsArePrintedAsStatementsThatRun() throws Exception {
        Result views = run("", "setup", "views");
        Result check = run("", "check");
        sql(views.out().split(";\n\n"));

        assertThat(views.out()).contains("ROW_NUMBER() OVER (PARTITION BY \"contract_no\"");
        assertThat(tool.count("active_boat")).isEqualTo(6);
        assertThat(tool.count("active_berth_contract")).isEqualTo(2);
        assertThat(check.out())
                .contains("A soft-deleted row of boat still holds its registration")
                .contains("WHERE \"left_on\" IS NULL;")
                .contains("ALTER TABLE \"inspection\" ADD COLUMN \"deleted_at\" TIMESTAMP NULL;");
    }

    @Test
    void checkProposesAMarkerWhereOneIsMissing() throws Exception {
        Files.writeString(folder.resolve("rules.yaml"), "version: 1\ntables:\n  pier: {mode: soft-delete}\n");

        Result check = run("", "check");

        assertThat(check.exit()).isEqualTo(9);
        assertThat(check.out())
                .contains("rules.yaml, line 3: Table pier cannot usually be soft-deleted")
                .contains("ALTER TABLE \"pier\" ADD COLUMN \"deleted_at\" TIMESTAMP NULL;");
    }

    @Test
    void oneVersionEndsAndTheNextBegins() throws Exception {
        Result replaced = run(
                "yes\n",
                "replace",
                "berth_contract",
                "--where",
                "contract_no = 2",
                "--set",
                "rent=790.50",
                "--from",
                "2030-01-01");
        Result wrong = run("", "replace", "berth_contract", "--where", "contract_no = 2", "--set", "rent=dear");
        Result both = run("", "replace", "berth_contract", "--where", "contract_no > 0", "--set", "rent=1");

        assertThat(replaced.exit()).isZero();
        assertThat(replaced.out()).contains("its successor has valid_from 2030-01-01, valid_until NULL, rent 790.50");
        assertThat(tool.count("berth_contract WHERE contract_no = 2 AND rent = 790.5 AND valid_from = '2030-01-01'"))
                .isEqualTo(1);
        assertThat(wrong.exit()).isEqualTo(2);
        assertThat(wrong.err()).contains("\"dear\" cannot be a value of berth_contract.rent");
        assertThat(both.exit()).isEqualTo(8);
    }
}
