// SPDX-License-Identifier: Apache-2.0
package io.vacancy.cli.command;

import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import java.time.Duration;
import java.time.ZoneId;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** When and how a job works. */
final class JobOptions {

    @Option(
            names = "--name",
            paramLabel = "NAME",
            description = "What the job is called; a number is added if there is one of that name.")
    private @Nullable String name;

    @Option(names = "--at", paramLabel = "TIME", description = "Begin then, a date or a time, instead of at once.")
    private @Nullable String at;

    @Option(
            names = "--window",
            paramLabel = "HOURS",
            description = "Work only in these hours: 22:00-05:30, or \"sat,sun 10:00-18:00 Europe/Oslo\".")
    private @Nullable String window;

    @Option(
            names = "--on-change",
            paramLabel = "POLICY",
            description =
                    "What becomes of rows that have changed since they were shown: only-shown leaves them out (the"
                            + " default), stop ends the job there, matching takes what matches when it begins.")
    private @Nullable String onChange;

    @Option(
            names = "--batch-time",
            paramLabel = "SECONDS",
            description = "How long a transaction should take; 0.5 unless given.")
    private @Nullable Double batchTime;

    @Option(
            names = "--batch-rows",
            paramLabel = "N",
            description = "How many rows a transaction may have in all tables together; as many as the database takes"
                    + " unless given.")
    private @Nullable Long batchRows;

    @Option(
            names = "--batch-bytes",
            paramLabel = "N",
            description =
                    "How many bytes the values of these rows may have; as many as the database takes unless given.")
    private @Nullable Long batchBytes;

    @Option(names = "--lanes", paramLabel = "N", description = "Work on so many connections at once; 1 unless given.")
    private @Nullable Integer lanes;

    @Option(names = "--rows-per-second", paramLabel = "N", description = "Remove at most so many rows a second.")
    private @Nullable Double rowsPerSecond;

    @Option(
            names = "--share",
            paramLabel = "PERCENT",
            description = "Work only so much of the time, and leave the rest to others.")
    private @Nullable Double share;

    @Option(names = "--tell", paramLabel = "WHOM", description = "Whom the notifiers tell how it ended; repeatable.")
    private String[] tell = {};

    /** Whether anything of it was said. */
    boolean given() {
        return first() != null;
    }

    /** The first option of a job that was given, or null. */
    @Nullable
    String first() {
        Map<String, @Nullable Object> said = new LinkedHashMap<>();
        said.put("--name", name);
        said.put("--at", at);
        said.put("--window", window);
        said.put("--on-change", onChange);
        said.put("--batch-time", batchTime);
        said.put("--batch-rows", batchRows);
        said.put("--batch-bytes", batchBytes);
        said.put("--lanes", lanes);
        said.put("--rows-per-second", rowsPerSecond);
        said.put("--share", share);
        said.put("--tell", tell.length == 0 ? null : tell);
        return said.entrySet().stream()
                .filter(each -> each.getValue() != null)
                .map(Map.Entry::getKey)
                .findFirst()
                .orElse(null);
    }

    /** Refuses what cannot be meant, before any database is opened. */
    void check() {
        if (name != null && name.isBlank()) {
            throw new MisuseException("--name is empty.", "Give the job a name, or leave it out to have one made.");
        }
        policy();
        batches();
        pace();
        if (window != null) {
            Window.read(window, ZoneId.systemDefault());
        }
        if (at != null) {
            ArchiveCommand.time(at);
        }
    }

    /** Whether what matches when it begins is meant, whatever was shown. */
    boolean matching() {
        return policy() == ChangePolicy.MATCHING;
    }

    private @Nullable ChangePolicy policy() {
        if (onChange == null) {
            return null;
        }
        return Arrays.stream(ChangePolicy.values())
                .filter(policy -> policy.word().equals(onChange))
                .findFirst()
                .orElseThrow(() -> new MisuseException(
                        "--on-change " + onChange + " is unknown.",
                        "Write one of "
                                + Arrays.stream(ChangePolicy.values())
                                        .map(ChangePolicy::word)
                                        .collect(Collectors.joining(", "))
                                + "."));
    }

    /** The order with all that is said here. */
    JobOrder in(JobOrder said) {
        JobOrder order = said;
        ChangePolicy policy = policy();
        order = policy == null ? order : order.onChange(policy);
        order = name == null ? order : order.named(name);
        order = at == null ? order : order.at(ArchiveCommand.time(at));
        order = window == null ? order : order.within(Window.read(window, ZoneId.systemDefault()));
        order = lanes == null ? order : order.lanes(lanes);
        order = tell.length == 0 ? order : order.tell(tell);
        return order.batches(batches()).pace(pace());
    }

    private BatchSize batches() {
        BatchSize size = BatchSize.USUAL;
        size = batchTime == null ? size : size.taking(Duration.ofMillis(Math.round(batchTime * 1000)));
        size = batchRows == null ? size : size.atMost(batchRows);
        return batchBytes == null ? size : size.atMostBytes(batchBytes);
    }

    private Throttling pace() {
        return pace(rowsPerSecond, share);
    }

    /** A pace as it is said on a command line. */
    static Throttling pace(@Nullable Double rowsPerSecond, @Nullable Double share) {
        return new Throttling(rowsPerSecond, share == null ? 1 : share / 100);
    }

    /** When something recurs, as it is said on a command line. */
    static Recurrence every(String written) {
        return Recurrence.read(written, ZoneId.systemDefault());
    }
}
