// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.List;
import java.util.function.Supplier;

/** What has to be done again and again, and needs no request. Each part of it is a transaction and a receipt of its own. */
record UpkeepRun(Workshop at, Vacancy vacancy, KeptJob job, KeptLane lane) {

    Next run(Supplier<Next> end) {
        if (job.request().equals(Upkeep.SEAL.word())) {
            vacancy.trail().seal();
            return end.get();
        }
        if (!job.request().equals(Upkeep.PURGE_DUE.word())) {
            throw new JobEndedException("This program knows no upkeep called " + job.request() + ".");
        }
        KeptLane now = lane;
        for (Request due : vacancy.archive().due()) {
            Request request = due.withoutConfirmation(job.confirmed()).onBlocked(OnBlocked.SKIP);
            long started = System.nanoTime();
            Outcome outcome = vacancy.execute(request);
            if (outcome instanceof Outcome.Done done) {
                now = noted(now, done, Duration.ofNanos(System.nanoTime() - started));
            } else if (!(outcome instanceof Outcome.Nothing || outcome instanceof Outcome.Blocked)) {
                throw new JobEndedException("The request to " + request + " ended: " + outcome.message());
            }
        }
        return end.get();
    }

    private KeptLane noted(KeptLane before, Outcome.Done done, Duration worked) {
        JobProgress counted = Batch.counted(before.progress(), done.receipt(), worked);
        JobProgress now = new JobProgress(
                null,
                null,
                counted.handled() + done.receipt().rows(),
                counted.totals(),
                counted.tables(),
                0,
                0,
                counted.skipped() + done.receipt().skipped().rows(),
                counted.batches(),
                0,
                0,
                counted.worked(),
                null,
                null);
        KeptLane after = before.at(before.chunk(), before.place(), before.deferred(), now);
        if (!at.tables().advanceAndDefer(before, after, 1, List.of())) {
            throw new LaneLostException();
        }
        return after;
    }
}
