// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Effect;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Supplier;

/** What has to be done again and again, and needs no request. Each part of it is a transaction and a receipt of its own. */
record UpkeepRun(Workshop at, Vacancy vacancy, KeptJob job, KeptLane lane) {

    Next run(Supplier<Next> end) {
        long started = System.nanoTime();
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
        JobProgress progress = before.progress();
        Map<Action, Long> totals = new TreeMap<>(progress.totals());
        done.receipt().totals().forEach((action, rows) -> totals.merge(action, rows, Long::sum));
        Map<String, Long> tables = new TreeMap<>(progress.tables());
        for (Effect effect : done.receipt().effects()) {
            tables.merge(effect.table().toString(), effect.rows(), Long::sum);
        }
        JobProgress now = new JobProgress(
                null,
                null,
                progress.handled() + done.receipt().rows(),
                totals,
                tables,
                0,
                0,
                progress.skipped() + done.receipt().skipped().rows(),
                progress.batches() + 1,
                0,
                0,
                worked,
                null,
                null);
        KeptLane after = before.at(before.chunk(), before.place(), before.deferred(), now);
        if (!at.tables().advanceAndDefer(before, after, 1, List.of())) {
            throw new LaneLostException();
        }
        return after;
    }
}
