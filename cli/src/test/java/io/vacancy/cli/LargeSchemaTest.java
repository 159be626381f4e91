// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Relations of many tables: so many levels of them, and a page on which each is found. */
class LargeSchemaTest {

    @TempDir
    private Path folder;

    @Test
    void soManyLevelsAreListedAndDrawn() throws Exception {
        Tool tool = Tool.onHarbourIn(folder);
        assertThat(tool.run("relations", "boat", "--depth", "1", "--db", "harbour.db")
                        .out())
                .containsPattern("mooring +cascade +through mooring\\.boat_id, 2 more below")
                .doesNotContain("power_reading");
        assertThat(tool.run("relations", "boat", "--depth", "2", "--db", "harbour.db")
                        .out())
                .contains("power_reading")
                .doesNotContain("more below");
        tool.run("relations", "boat", "--depth", "1", "--diagram", "boat.mmd", "--db", "harbour.db");
        assertThat(folder.resolve("boat.mmd")).content().contains("mooring").doesNotContain("power_reading");
    }

    @Test
    void onAPageOfManyTablesEachIsFoundAndParallelLinesAreOne() throws Exception {
        Tool tool = new Tool(folder);
        tool.execute("CREATE TABLE t0 (id INTEGER NOT NULL PRIMARY KEY, up_id INTEGER REFERENCES t0)");
        for (int i = 1; i < 40; i++) {
            tool.execute(
                    "CREATE TABLE t" + i + " (id INTEGER NOT NULL PRIMARY KEY, first_id INTEGER REFERENCES t" + (i - 1)
                            + ", second_id INTEGER REFERENCES t" + (i - 1) + ", third_id INTEGER REFERENCES t" + (i - 1)
                            + " ON DELETE CASCADE)");
        }
        tool.run("relations", "--diagram", "all.html", "--db", "harbour.db");
        String page = Files.readString(folder.resolve("all.html"));
        assertThat(page)
                .contains("<a href=\"#table-t39\">t39</a>", "id=\"table-t39\"", "↺ block up_id", "200 %")
                .doesNotContain("<script", "src=", "@import");
        // Two that block are one line, the one that cascades is another: 39 times, and once in the legend.
        assertThat(page.split("class=\"way blocks\"", -1)).hasSize(39 + 1 + 1);
        assertThat(page.split("class=\"way goes\"", -1)).hasSize(39 + 1 + 1);
        assertThat(page).contains("first_id", "second_id");
    }
}
