// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.submit;

import io.vacancy.failure.NotDoneException;
import io.vacancy.jobs.watch.Job;
import io.vacancy.outcome.Outcome;

/** What became of an order. */
public sealed interface Submission {

    /**
     * The job.
     *
     * @throws NotDoneException if there is none
     */
    Job jobOrThrow();

    /**
     * It is kept, and will be carried out.
     *
     * @param repeated whether the same request had been ordered before, and nothing is new
     */
    record Accepted(Job job, boolean repeated) implements Submission {
        @Override
        public Job jobOrThrow() {
            return job;
        }
    }

    /** Something stands against it; there is no job. */
    record Rejected(Outcome outcome) implements Submission {
        @Override
        public Job jobOrThrow() {
            throw new NotDoneException(outcome.message());
        }
    }
}
