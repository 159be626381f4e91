// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import java.util.Arrays;
import java.util.List;
import java.util.Set;

/** Under which heading the help of a command has its options. */
public enum OptionGroup {
    ROWS(
            "Which rows",
            "--key",
            "--match",
            "--keys-from",
            "--where",
            "--every-row",
            "--with",
            "--limit",
            "--order-by",
            "--plus",
            "--include-marked",
            "--waiting",
            "--receipt",
            "--only",
            "--due",
            "--who",
            "--since",
            "--before",
            "--after",
            "--kind",
            "--ending",
            "--open",
            "--most",
            "--head"),
    WHAT(
            "What happens to them",
            "--soft",
            "--erase",
            "--blank",
            "--forget",
            "--person",
            "--destroy-key",
            "--set-null",
            "--set",
            "--from",
            "--rule",
            "--on-blocked",
            "--at-once",
            "--merge-into",
            "--delete-duplicates",
            "--column",
            "--no-archive",
            "--save-to",
            "--into",
            "--refuse"),
    LIMITS("Limits", "--expect", "--at-most", "--at-most-in-all", "--at-most-percent", "--wait"),
    CONFIRMATION("Confirmation", "--yes", "--answer", "--fingerprint", "--approve", "--decline"),
    WHO("Who and why", "--because", "--by", "--on-behalf-of", "--origin", "--id"),
    JOB(
            "As a job",
            "--as-job",
            "--name",
            "--at",
            "--every",
            "--upkeep",
            "--on-change",
            "--batch-rows",
            "--batch-time",
            "--batch-bytes",
            "--lanes",
            "--rows-per-second",
            "--share",
            "--window",
            "--tell",
            "--until-idle",
            "--events-to"),
    OUTPUT(
            "Output",
            "--format",
            "--to",
            "--uncut",
            "--details",
            "--brief",
            "--depth",
            "--rows",
            "--rows-of",
            "--missing",
            "--skipped",
            "--records-to",
            "--data-to",
            "--diagram",
            "--look",
            "--raw"),
    DATABASE(
            "Database",
            "--db",
            "--user",
            "--password-env",
            "--driver",
            "--rules",
            "--scope",
            "--scope-through",
            "--scope-open",
            "--own-tables",
            "--head-file",
            "--seal-key-env",
            "--personal-key-env",
            "--person-keys",
            "--file-key-env"),
    HELP("Help", "--help", "--version");

    private final String heading;
    private final List<String> options;

    OptionGroup(String heading, String... options) {
        this.heading = heading;
        this.options = List.of(options);
    }

    /** What the help writes above them. */
    public String heading() {
        return heading;
    }

    /** Its options by their long names, in the order of the help. */
    public List<String> options() {
        return options;
    }

    /** The group of an option by its names; the output's where it is in none. */
    static OptionGroup of(Set<String> names) {
        return Arrays.stream(values())
                .filter(group -> group.options.stream().anyMatch(names::contains))
                .findFirst()
                .orElse(OUTPUT);
    }
}
