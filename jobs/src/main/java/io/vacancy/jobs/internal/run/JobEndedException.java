// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

/** The job cannot go on, and ends as failed; what is committed stays. */
final class JobEndedException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    /** @param reason a sentence or two, for whoever ordered it */
    JobEndedException(String reason) {
        super(reason);
    }

    String reason() {
        return String.valueOf(getMessage());
    }
}
