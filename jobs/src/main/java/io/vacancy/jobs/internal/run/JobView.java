// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.jobs.watch.JobState;

/** A job as it is shown. */
public final class JobView {

    private JobView() {}

    /** With its last run. */
    public static Job of(JobTables tables, KeptJob job) {
        Run run = tables.run(job.name(), job.run());
        // A run that has not begun tells nothing; the one before tells how it went.
        boolean before = run.startedAt() == null && run.run() > 1;
        return of(tables, job, before ? tables.run(job.name(), run.run() - 1) : run, job.state());
    }

    /** With one of its runs. */
    public static Job of(JobTables tables, KeptJob job, Run run) {
        return of(tables, job, run, job.run() == run.run() ? job.state() : run.state());
    }

    private static Job of(JobTables tables, KeptJob job, Run run, JobState state) {
        JobProgress progress = tables.progress(job.name(), run);
        return Job.of(new Job.Data(
                job.name(),
                job.title(),
                job.table(),
                job.actor(),
                state,
                job.madeAt(),
                job.dueAt(),
                run.startedAt(),
                run.endedAt(),
                run.run(),
                progress.rows() == 0 ? null : run.receipt(),
                job.settings(),
                progress,
                run.reason()));
    }
}
