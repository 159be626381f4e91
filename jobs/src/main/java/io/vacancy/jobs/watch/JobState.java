// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

/** How a job stands. */
public enum JobState {
    /** It is kept, and begins at its time. */
    SCHEDULED("scheduled"),
    /** A node works on it. */
    RUNNING("running"),
    /** It has begun, and goes on when its window opens or the database has recovered. */
    WAITING("waiting"),
    /** Somebody has paused it. */
    PAUSED("paused"),
    /** All of it is done; what was left out is counted. */
    DONE("done"),
    /** It ended before its end; what is committed stays, and it tells what is left. */
    FAILED("failed"),
    /** Somebody has ended it; what is committed stays. */
    CANCELLED("cancelled");

    private final String word;

    JobState(String word) {
        this.word = word;
    }

    /** The written form, such as {@code running}. */
    public String word() {
        return word;
    }

    /** Whether nothing follows any more. */
    public boolean over() {
        return this == DONE || this == FAILED || this == CANCELLED;
    }
}
