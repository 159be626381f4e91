// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.cli.Tool.Result;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** The demo says what is so, whatever it is answered. */
class DemoTest {

    @TempDir
    private Path folder;

    private Result demo(String typed) {
        return new Tool(folder)
                .atTerminal(typed, "demo", "--at", folder.resolve("harbour.db").toString());
    }

    @Test
    void afterAYesItIsGoneAndComesBack() throws Exception {
        Instant begun = Instant.now();
        Result result = demo("yes\n");
        assertThat(result.exit()).as(result.err()).isZero();
        assertThat(result.out())
                .containsSubsequence(
                        "boat Osprey (id 17) is deleted",
                        "5. Look again: is it gone?",
                        "Table boat has no row with id 17",
                        "6. It was not sold after all",
                        "boat Osprey (HV-204) is restored",
                        "And on a database of your own",
                        "vacancy init --db");
        assertThat(Duration.between(begun, Instant.now())).isLessThan(Duration.ofSeconds(10));
        assertThat(new Tool(folder).count("boat")).isEqualTo(8);
    }

    @Test
    void afterANoItIsStillThere() throws Exception {
        Result result = demo("no\n");
        assertThat(result.exit()).as(result.err()).isZero();
        assertThat(result.out())
                .containsSubsequence(
                        "5. You left it as it was. Look again: it is still there",
                        "Erase boat Osprey (id 17)",
                        "6. What is deleted is archived, and can be restored. So far nothing is.",
                        "What happened to boat 17",
                        "Not erased but declined: boat 17")
                .doesNotContain("is it gone", "It was not sold after all", "has no row with id 17");
        assertThat(new Tool(folder).count("boat")).isEqualTo(8);
    }
}
