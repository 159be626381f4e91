// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.order;

/** What a job does about rows that have changed since they were shown. */
public enum ChangePolicy {
    /** It ends at the first row that is gone or different, and where more would be removed in all than was shown. */
    STOP("stop"),
    /** Rows that are gone or different are left out, and counted. */
    ONLY_SHOWN("only-shown"),
    /** What the request selects when the job begins, whatever was shown: for what recurs. */
    MATCHING("matching");

    private final String word;

    ChangePolicy(String word) {
        this.word = word;
    }

    /** The written form, such as {@code only-shown}. */
    public String word() {
        return word;
    }
}
