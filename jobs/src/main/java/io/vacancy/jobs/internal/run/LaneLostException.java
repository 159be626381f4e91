// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

/** Another node has taken the lane over, or the job is ended; whatever was not committed is undone. */
final class LaneLostException extends RuntimeException {

    private static final long serialVersionUID = 1L;

    LaneLostException() {
        super("the lane belongs to somebody else by now");
    }
}
