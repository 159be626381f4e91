// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jobs.internal.run.Batch.Whole;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.internal.store.KeptLane.State;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.json.JsonReader;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.schema.Table;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.Objects;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * A node's work on one lane of a job: batch after batch, until nothing is left or something stands against going on. What
 * it knows is read from the database and noted there with each batch, so that any node can go on. One thread only.
 */
public final class LaneRun {

    private static final Logger LOG = LoggerFactory.getLogger(LaneRun.class);

    private static final Duration UNFIT = Duration.ofSeconds(10);

    private final Workshop at;
    private final JobTables tables;
    private final String name;
    private final int number;

    public LaneRun(Workshop at, String name, int number) {
        this.at = at;
        this.tables = at.tables();
        this.name = name;
        this.number = number;
    }

    /**
     * Works until the lane is put down.
     *
     * @throws RuntimeException if the database fails in a way that may pass
     */
    public Next run() {
        KeptJob job = tables.find(name);
        if (job == null || job.state().over()) {
            return new Next.Over();
        }
        if (job.state() == JobState.PAUSED) {
            return new Next.OnDemand();
        }
        Instant due = job.dueAt();
        if (job.state() == JobState.SCHEDULED
                && due != null
                && due.isAfter(at.clock().instant())) {
            return new Next.Later(due);
        }
        Run run = tables.run(name, job.run());
        KeptLane lane = tables.claim(name, job.run(), number, UUID.randomUUID().toString(), at.node());
        if (lane == null) {
            return new Next.Over();
        }
        try {
            return work(job, run, lane);
        } catch (LaneLostException lost) {
            LOG.info("lane {} of job {} has been taken over", number, name);
            return new Next.Lost();
        } catch (JobEndedException ended) {
            return end(job, run, JobState.FAILED, ended.reason());
        } catch (StoreException failed) {
            if (mayPass(failed)) {
                throw failed;
            }
            return end(job, run, JobState.FAILED, failed.getMessage());
        } catch (BusyException busy) {
            // Somebody holds Vacancy's own tables, which passes.
            throw busy;
        } catch (VacancyException failed) {
            return end(job, run, JobState.FAILED, failed.getMessage());
        }
    }

    /** Whether the same may succeed later, without anybody changing the job or the tables. */
    private boolean mayPass(StoreException failed) {
        Fault fault = tables.fault(failed);
        return fault != null
                && fault != Fault.CONSTRAINT
                && fault != Fault.NOT_ALLOWED
                && fault != Fault.TOO_MUCH_AT_ONCE;
    }

    /** Gives up after a failure that did not pass. */
    public Next giveUp(Throwable failure) {
        KeptJob job = tables.find(name);
        return job == null || job.state().over()
                ? new Next.Over()
                : end(job, tables.run(name, job.run()), JobState.FAILED, String.valueOf(failure.getMessage()));
    }

    private Next work(KeptJob job, Run run, KeptLane claimed) {
        Window window = job.settings().window();
        Next closed = window == null ? null : at.waiting(name, window);
        if (closed != null) {
            return closed;
        }
        Vacancy vacancy = at.onAccountOf(job);
        if (job.table() == null) {
            if (at.events() == null && Upkeep.PASS_ON.word().equals(job.request())) {
                return unfit(run, "Node " + at.node() + " passes no events on.");
            }
            begin(run);
            return new UpkeepRun(at, vacancy, job, claimed).run(() -> end(job, run, JobState.DONE, null));
        }
        Request request;
        Table table = vacancy.schema().table(job.table());
        PlanDigest ordered = PlanDigest.read(job.rulesDigest());
        try {
            request = JsonReader.request(job.request(), vacancy.rules()::deletion);
        } catch (MisuseException unknown) {
            return unfit(run, String.valueOf(unknown.getMessage()));
        }
        PlanDigest here = PlanDigest.of(vacancy.rules(), table.name(), request);
        if (!here.tables().equals(ordered.tables())) {
            throw new JobEndedException("The tables are others than those that it was ordered on. Order it anew.");
        }
        if (!here.rules().equals(ordered.rules())) {
            return unfit(run, "The rules on node " + at.node() + " are others than those that it was ordered under.");
        }
        if (job.settings().onChange() == ChangePolicy.MATCHING
                && request.selection() instanceof Selection.ByCondition by) {
            // Rows that do not match any more by the time of their batch stay.
            request = request.and(by.condition());
        }
        begin(run);
        Whole whole = new Whole(
                at,
                vacancy,
                job,
                run,
                request,
                table.identity().columns(),
                job.settings().batches().mostRows());
        if (run.selected() == null) {
            select(whole, claimed);
            return work(job, tables.run(name, run.run()), claimed);
        }
        if (claimed.lane() == 0
                && claimed.state() == State.OPEN
                && job.settings().lanes() > 1) {
            tables.open(name, run.run(), job.settings().lanes(), at.clock().instant());
        }
        return new BatchLoop(whole, claimed, this::end).run();
    }

    private void begin(Run run) {
        tables.begin(name, run.run(), at.clock().instant());
        at.tell(name);
    }

    /** Leaves it to another node, which may have the rules that it was ordered under. */
    private Next unfit(Run run, String why) {
        Instant again = at.clock().instant().plus(UNFIT);
        tables.hold(name, run.run(), why + " It waits for another node; cancel it if there is none.", again);
        at.tell(name);
        return new Next.Later(again);
    }

    /**
     * Finds out what a run selects. Nobody has seen it, but limits hold on all of it together, and what is blocked ends it
     * before anything is done.
     */
    private void select(Whole whole, KeptLane lane) {
        Request original = JsonReader.request(
                        whole.job().request(), whole.vacancy().rules()::deletion)
                .withoutConfirmation(whole.job().confirmed());
        Preview preview = whole.vacancy().preview(original);
        if (preview.state() == Preview.State.REFUSED) {
            throw new JobEndedException(String.valueOf(preview.refusal()));
        }
        if (preview.state() == Preview.State.BLOCKED) {
            throw new JobEndedException(new Outcome.Blocked(preview).message());
        }
        long expected =
                preview.totals().values().stream().mapToLong(Long::longValue).sum();
        try (SelectedRows selected = SelectedRows.of(whole.vacancy(), original, whole.identity(), false);
                BufferedReader rows = selected.reader()) {
            tables.select(lane, selected.rows(), expected, rows);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    /** Ends the run, and the job with it unless it recurs. */
    private Next end(KeptJob job, Run run, JobState state, @Nullable String reason) {
        Instant now = at.clock().instant();
        Recurrence every = job.settings().every();
        boolean recurs = every != null && state != JobState.CANCELLED;
        Instant due = recurs ? Objects.requireNonNull(every).after(now).orElse(null) : null;
        Run next = due == null
                ? null
                : new Run(run.run() + 1, JobState.SCHEDULED, ReceiptId.next(due), null, null, null, null, null);
        boolean ended = tables.end(job, run, state, reason, now, next, due);
        if (ended) {
            at.tell(name);
            at.notify(JobView.of(tables, Objects.requireNonNull(tables.find(name)), tables.run(name, run.run())));
        }
        return due != null && number == 0 ? new Next.Later(due) : new Next.Over();
    }
}
