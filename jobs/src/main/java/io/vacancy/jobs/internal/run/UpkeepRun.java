// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.failure.VacancyException;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.trail.OutboxEvent;
import java.time.Duration;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Supplier;

/** What has to be done again and again, and needs no request. Each part of it is a transaction and a receipt of its own. */
record UpkeepRun(Workshop at, Vacancy vacancy, KeptJob job, KeptLane lane) {

    Next run(Supplier<Next> end) {
        if (job.request().equals(Upkeep.SEAL.word())) {
            vacancy.trail().seal();
            return end.get();
        }
        Consumer<OutboxEvent> events = at.events();
        if (job.request().equals(Upkeep.PASS_ON.word()) && events != null) {
            return passOn(events, end);
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

    /** A reader that does not take an event gets it again in the next run. */
    private Next passOn(Consumer<OutboxEvent> events, Supplier<Next> end) {
        try {
            vacancy.outbox().passOn(Integer.MAX_VALUE, events);
        } catch (VacancyException failed) {
            throw failed;
        } catch (RuntimeException failed) {
            throw new JobEndedException("An event was not taken: " + failed.getMessage());
        }
        return end.get();
    }

    private KeptLane noted(KeptLane before, Outcome.Done done, Duration worked) {
        Receipt receipt = done.receipt();
        JobProgress now = before.progress()
                .handling(receipt.rows(), 0, 0, receipt.skipped().rows())
                .working(worked, null)
                .with(receipt);
        KeptLane after = before.at(before.chunk(), before.place(), before.deferred(), now);
        if (!at.tables().advanceAndDefer(before, after, 1, List.of())) {
            throw new LaneLostException();
        }
        return after;
    }
}
