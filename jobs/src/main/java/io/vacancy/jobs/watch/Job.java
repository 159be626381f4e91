// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.NotDoneException;
import io.vacancy.jobs.order.JobSettings;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A job as it stood when it was looked at. Plain immutable data, made by Vacancy. */
public final class Job {

    private final Data data;

    private Job(Data data) {
        this.data = data;
    }

    /** For Vacancy's own use. */
    public static Job of(Data data) {
        return new Job(data);
    }

    /** All that it has; what it is made of may grow in any version. */
    public record Data(
            String name,
            String title,
            @Nullable String table,
            String by,
            JobState state,
            Instant submittedAt,
            @Nullable Instant dueAt,
            @Nullable Instant startedAt,
            @Nullable Instant endedAt,
            int run,
            @Nullable ReceiptId receipt,
            JobSettings settings,
            JobProgress progress,
            @Nullable String reason) {}

    /** By which it is found; no other job has it. */
    public String name() {
        return data.name();
    }

    /** What it does, in a few words without values. */
    public String title() {
        return data.title();
    }

    /** The table that it selects from; null for upkeep. */
    public @Nullable String table() {
        return data.table();
    }

    /** Who ordered it. */
    public String by() {
        return data.by();
    }

    /** How it stands. */
    public JobState state() {
        return data.state();
    }

    /** When it was ordered. */
    public Instant submittedAt() {
        return data.submittedAt();
    }

    /** When it begins or goes on, or null where that is not known. */
    public @Nullable Instant dueAt() {
        return data.dueAt();
    }

    /** When its last run began, or null. */
    public @Nullable Instant startedAt() {
        return data.startedAt();
    }

    /** When its last run ended, or null. */
    public @Nullable Instant endedAt() {
        return data.endedAt();
    }

    /** The number of its last run, from 1. */
    public int run() {
        return data.run();
    }

    /** What was done, all batches under one; null as long as nothing is. */
    public @Nullable ReceiptId receipt() {
        return data.receipt();
    }

    /**
     * What was done, all batches under one.
     *
     * @throws NotDoneException as long as nothing is
     */
    public ReceiptId receiptOrThrow() {
        ReceiptId receipt = receipt();
        if (receipt == null) {
            throw new NotDoneException(message());
        }
        return receipt;
    }

    /** What was ordered with it. */
    public JobSettings settings() {
        return data.settings();
    }

    /** How far its last run is. */
    public JobProgress progress() {
        return data.progress();
    }

    /** Why it ended before its end, or null. */
    public @Nullable String reason() {
        return data.reason();
    }

    /** How it stands, in a sentence or two. */
    public String message() {
        return JobMessages.of(this);
    }

    @Override
    public boolean equals(@Nullable Object other) {
        return other instanceof Job same && data.equals(same.data);
    }

    @Override
    public int hashCode() {
        return data.hashCode();
    }

    @Override
    public String toString() {
        return name() + ": " + state().word();
    }
}
