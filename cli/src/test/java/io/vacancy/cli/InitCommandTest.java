// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vacancy.cli.Tool.Result;
import io.vacancy.rulebook.RuleBookFile;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A first rule book, by what a database looks like. */
class InitCommandTest {

    @TempDir
    private Path folder;

    private Tool tool;

    @BeforeEach
    void onAHarbour() throws Exception {
        tool = Tool.onHarbourIn(folder);
    }

    private Result init(String... more) throws Exception {
        String[] words = new String[more.length + 5];
        System.arraycopy(more, 0, words, 5, more.length);
        System.arraycopy(
                new String[] {
                    "init",
                    "--db",
                    "harbour.db",
                    "--to",
                    folder.resolve("first.yaml").toString()
                },
                0,
                words,
                0,
                5);
        return tool.run(words);
    }

    @Test
    void isRightForTheDatabaseAndChangesNoDeletion() throws Exception {
        Result shown = tool.run("preview", "boat", "--key", "16", "--db", "harbour.db", "--format", "json");
        Result written = init();
        assertThat(written.exit()).as(written.err()).isZero();
        assertThat(written.out())
                .containsPattern("personal +skipper\\.name,email,phone")
                .containsPattern("relation +radio_message\\.call_sign -> boat\\.call_sign")
                .containsPattern("no key +radio_message")
                .containsPattern("tenant\\? +harbour_id +13 of 14 tables have it");
        Result checked = tool.run("check", "--db", "harbour.db", "--rules", "first.yaml");
        assertThat(checked.exit()).isZero();
        assertThat(checked.out()).doesNotContain("No rule mentions");
        Result again = tool.run(
                "preview", "boat", "--key", "16", "--db", "harbour.db", "--rules", "first.yaml", "--format", "json");
        assertThat(new ObjectMapper().readTree(again.out()).path("effects"))
                .isEqualTo(new ObjectMapper().readTree(shown.out()).path("effects"));
    }

    @Test
    void whatIsACommentCanBeTakenAsItStands() throws Exception {
        init();
        String draft = Files.readString(folder.resolve("first.yaml"));
        String taken = draft.replace("  # berth_contract:\n    # marker", "  berth_contract:\n    marker")
                .replace("  # \"radio_message", "  \"radio_message");
        assertThat(taken).isNotEqualTo(draft);
        Files.writeString(folder.resolve("taken.yaml"), taken);
        Result checked = tool.run("check", "--db", "harbour.db", "--rules", "taken.yaml");
        assertThat(checked.exit()).as(checked.out()).isZero();
    }

    @Test
    void overwritesNothing() throws Exception {
        Files.writeString(folder.resolve("first.yaml"), "version: 1\n");
        Result refused = init();
        assertThat(refused.exit()).isEqualTo(2);
        assertThat(refused.err()).contains("first.yaml exists already", "--to");
        assertThat(folder.resolve("first.yaml")).hasContent("version: 1");
        assertThat(tool.run(
                                "init",
                                "--db",
                                "harbour.db",
                                "--to",
                                folder.resolve("no/such/x.yaml").toString())
                        .exit())
                .isEqualTo(2);
    }

    @Test
    void seesWhatTheDatabaseDoesNotDeclare() throws Exception {
        tool.execute("CREATE TABLE chandlers (id INTEGER NOT NULL PRIMARY KEY, title TEXT, deleted_at TIMESTAMP)");
        tool.execute("CREATE TABLE chandler_order (id INTEGER NOT NULL PRIMARY KEY, chandler_id INTEGER NOT NULL,"
                + " order_no VARCHAR(20) NOT NULL UNIQUE, is_deleted BOOLEAN)");
        tool.execute("CREATE TABLE crate (id INTEGER NOT NULL PRIMARY KEY, removed_on DATE)");
        tool.execute("CREATE TABLE bottle (id INTEGER NOT NULL PRIMARY KEY, crate INTEGER REFERENCES crate ON DELETE"
                + " CASCADE)");
        tool.execute("CREATE TABLE parcel (id INTEGER NOT NULL PRIMARY KEY, order_no VARCHAR(20), notes TEXT)");

        JsonNode proposals =
                new ObjectMapper().readTree(init("--format", "json").out()).path("proposals");

        assertThat(proposals)
                .extracting(each ->
                        each.path("kind").asText() + " " + each.path("table").asText() + " "
                                + each.path("columns").path(0).asText() + " "
                                + each.path("likely").asBoolean())
                .contains(
                        "date-marker chandlers deleted_at true",
                        // Rows of bottle would go with a marked crate, and nobody has said how.
                        "date-marker crate removed_on false",
                        "relation chandler_order chandler_id true",
                        "relation parcel order_no true",
                        "flag-marker chandler_order is_deleted false",
                        "label chandler_order order_no true")
                .doesNotContain("personal parcel notes true");
        assertThat(tool.run("check", "--db", "harbour.db", "--rules", "first.yaml")
                        .exit())
                .isZero();
    }

    /** Names come from anybody: none of them ends a comment or a text. */
    @Test
    void namesCannotBecomeRules() throws Exception {
        String named = "odd\"\"\ntables: {boat: {never-deleted: true}}\n# x";
        tool.execute("CREATE TABLE \"" + named + "\" (\"e-mail: x\" TEXT, \"phone # no\" TEXT, deleted_at TIMESTAMP)");
        init();
        String draft = Files.readString(folder.resolve("first.yaml"));
        assertThat(RuleBookFile.read(draft, "first.yaml").tables())
                .noneMatch(entry -> entry.table().equals("boat"));
        Result checked = tool.run("check", "--db", "harbour.db", "--rules", "first.yaml");
        assertThat(checked.exit()).as(checked.out() + checked.err()).isZero();
    }
}
