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
import io.vacancy.jobs.internal.store.JobTables.Chunk;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptJob.Wanted;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.internal.store.KeptLane.State;
import io.vacancy.jobs.internal.store.ShownRow;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.json.JsonReader;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.schema.Table;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
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

    private static final int MOST_TOGETHER = 10_000;
    private static final int TRIES = 3;
    private static final int MOST_DOUBLINGS = 5;
    private static final Duration UNFIT = Duration.ofSeconds(10);

    private final Workshop at;
    private final JobTables tables;
    private final String name;
    private final int number;
    private final Throttle throttle;

    public LaneRun(Workshop at, String name, int number) {
        this.at = at;
        this.tables = at.tables();
        this.name = name;
        this.number = number;
        this.throttle = new Throttle(at.probes());
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
        Next closed = window == null ? null : waiting(window);
        if (closed != null) {
            return closed;
        }
        Vacancy vacancy = at.onAccountOf(job);
        if (job.table() == null) {
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
        Whole whole = new Whole(at, vacancy, job, run, request, table.identity().columns());
        if (run.selected() == null) {
            select(whole, claimed);
            return work(job, tables.run(name, run.run()), claimed);
        }
        if (claimed.lane() == 0
                && claimed.state() == State.OPEN
                && job.settings().lanes() > 1) {
            tables.open(name, run.run(), job.settings().lanes(), at.clock().instant());
        }
        return batches(whole, claimed);
    }

    private void begin(Run run) {
        tables.begin(name, run.run(), at.clock().instant());
        at.tell(name);
    }

    /** Leaves it to another node, which may have the rules that it was ordered under. */
    private Next unfit(Run run, String why) {
        Instant again = at.clock().instant().plus(UNFIT);
        tables.hold(name, run.run(), why + " It waits for a node that has them; cancel it if there is none.", again);
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

    private @Nullable Next waiting(Window window) {
        Instant now = at.clock().instant();
        Instant opens = window.opens(now);
        if (!opens.isAfter(now)) {
            return null;
        }
        tables.stand(name, JobState.WAITING, opens);
        at.tell(name);
        return new Next.Later(opens);
    }

    private Next batches(Whole first, KeptLane claimed) {
        Whole whole = first;
        KeptLane lane = claimed;
        BatchSizer sizer = new BatchSizer(claimed.progress().selectedInBatch());
        long rowsBeforePass = lane.progress().rows();
        int conflicts = 0;
        int conflictsOfOne = 0;
        long since = System.nanoTime();
        @Nullable Chunk chunk = null;
        while (true) {
            KeptJob job = tables.find(name);
            Next steered = steered(job, whole);
            if (steered != null) {
                return steered;
            }
            whole = new Whole(
                    at, whole.vacancy(), Objects.requireNonNull(job), whole.run(), whole.request(), whole.identity());
            if (throttle.reason() != null) {
                sleep(throttle.millis());
                continue;
            }
            if (chunk == null
                    || lane.chunk() != chunk.number()
                    || lane.place() >= chunk.rows().size()) {
                lane = chunk != null && lane.chunk() == chunk.number() ? lane.behind(chunk.number()) : lane;
                chunk = tables.chunk(lane, job.settings().lanes());
                if (chunk == null) {
                    PassEnd end = endOfPass(whole, lane, lane.progress().rows() > rowsBeforePass);
                    if (end.next() != null) {
                        return end.next();
                    }
                    lane = Objects.requireNonNull(end.lane());
                    rowsBeforePass = lane.progress().rows();
                    continue;
                }
                lane = lane.in(chunk.number());
                if (lane.place() >= chunk.rows().size()) {
                    // Whoever had the lane before has ended just this chunk.
                    continue;
                }
            }
            int size =
                    Math.min(sizer.next(job.settings().batches()), chunk.rows().size() - lane.place());
            List<ShownRow> rows = chunk.rows().subList(lane.place(), lane.place() + size);
            long started = System.nanoTime();
            KeptLane counted = lane.with(sized(lane.progress(), sizer.size(), conflicts));
            Batch batch = new Batch(whole, counted, chunk, rows, false, since);
            Done done = carryOut(batch, counted);
            Duration took = Duration.ofNanos(System.nanoTime() - started);
            switch (done) {
                case STEPPED -> {
                    conflicts = 0;
                    conflictsOfOne = 0;
                    long before = lane.progress().rows();
                    lane = batch.after();
                    since = System.nanoTime();
                    sizer.took(size, took, job.settings().batches());
                    throttle.took(
                            lane.progress().rows() - before,
                            took,
                            job.settings().pace(),
                            job.settings().lanes());
                    at.tell(name);
                }
                case TOO_LARGE -> {
                    if (size == 1) {
                        lane = new TreeDivision(whole, counted, rows.get(0), batch.compares()).divide();
                    }
                    sizer.tooLarge(size);
                }
                case CONFLICT -> {
                    conflicts++;
                    sizer.tooLarge(size);
                    conflictsOfOne = size == 1 ? conflictsOfOne + 1 : 0;
                    if (conflictsOfOne < TRIES) {
                        throttle.rest(pause(conflictsOfOne));
                    } else {
                        batch.putOff(counted.progress());
                        lane = batch.after();
                        conflicts = 0;
                        conflictsOfOne = 0;
                    }
                }
                case UNKNOWN -> {
                    KeptLane noted = tables.lane(name, lane.run(), lane.lane());
                    if (!noted.lease().equals(lane.lease())) {
                        throw new LaneLostException();
                    }
                    lane = noted;
                }
            }
        }
    }

    private static Duration pause(int conflicts) {
        return Duration.ofMillis(100L << Math.min(conflicts, MOST_DOUBLINGS));
    }

    private static JobProgress sized(JobProgress progress, int size, int conflicts) {
        return new JobProgress(
                progress.selected(),
                progress.expected(),
                progress.handled(),
                progress.totals(),
                progress.tables(),
                progress.changed(),
                progress.missing(),
                progress.skipped(),
                progress.batches(),
                progress.retries() + conflicts,
                size,
                progress.worked(),
                progress.table(),
                progress.note());
    }

    /** What somebody wants of the job by now; null to go on. */
    private @Nullable Next steered(@Nullable KeptJob job, Whole whole) {
        if (job == null || job.state().over() || job.run() != whole.run().run()) {
            return new Next.Over();
        }
        if (job.wanted() == Wanted.CANCEL) {
            return end(job, whole.run(), JobState.CANCELLED, null);
        }
        if (job.wanted() == Wanted.PAUSE || job.state() == JobState.PAUSED) {
            tables.steer(
                    name, List.of(JobState.RUNNING, JobState.WAITING, JobState.SCHEDULED), JobState.PAUSED, null, null);
            at.tell(name);
            return new Next.OnDemand();
        }
        if (at.closing().getAsBoolean() || Thread.currentThread().isInterrupted()) {
            tables.stand(name, JobState.WAITING, at.clock().instant());
            return new Next.Later(at.clock().instant());
        }
        Window window = job.settings().window();
        return window == null ? null : waiting(window);
    }

    private static void sleep(long millis) {
        try {
            Thread.sleep(millis);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
    }

    /** What a batch came to. */
    private enum Done {
        /** It is dealt with, and noted. */
        STEPPED,
        /** It is more than one transaction may or can have. */
        TOO_LARGE,
        /** Others hold something of it. */
        CONFLICT,
        /** Whether it was committed is known to the database only. */
        UNKNOWN
    }

    private Done carryOut(Batch batch, KeptLane before) {
        Outcome outcome;
        try {
            outcome = batch.execute();
        } catch (StoreException failed) {
            if (tables.fault(failed) == Fault.TOO_MUCH_AT_ONCE) {
                return Done.TOO_LARGE;
            }
            throw failed;
        }
        if (outcome instanceof Outcome.Done) {
            return Done.STEPPED;
        }
        if (outcome instanceof Outcome.Nothing || outcome instanceof Outcome.Blocked) {
            batch.noteNothing();
            return Done.STEPPED;
        }
        if (outcome instanceof Outcome.Refused refused) {
            if (batch.size() > 1 || tooLarge(refused, batch)) {
                return Done.TOO_LARGE;
            }
            throw new JobEndedException(refused.reason());
        }
        if (outcome instanceof Outcome.InDoubt) {
            return Done.UNKNOWN;
        }
        LOG.debug("a batch of job {} after {} steps: {}", name, before.batches(), outcome.message());
        return Done.CONFLICT;
    }

    private static boolean tooLarge(Outcome.Refused refused, Batch batch) {
        Long most = batch.mostRows();
        long rows = refused.preview().totals().values().stream()
                .mapToLong(Long::longValue)
                .sum();
        return most != null && rows > most;
    }

    /** How the end of a pass goes on: with a lane, or not at all. */
    private record PassEnd(
            @Nullable KeptLane lane, @Nullable Next next) {}

    private PassEnd endOfPass(Whole whole, KeptLane lane, boolean gotOn) {
        if (lane.state() == State.OPEN) {
            KeptLane after = tables.endUnlessLast(lane);
            if (after == null) {
                throw new LaneLostException();
            }
            return after.state() == State.OVER ? new PassEnd(null, new Next.Over()) : new PassEnd(after, null);
        }
        if (lane.deferred() == 0) {
            return new PassEnd(null, end(whole.job(), whole.run(), JobState.DONE, null));
        }
        KeptLane next = lane.closing(lane.pass() + 1);
        if (!tables.advanceAndDefer(lane, next, 1, List.of())) {
            throw new LaneLostException();
        }
        if (gotOn) {
            return new PassEnd(next, null);
        }
        // What blocks one another goes together or not at all.
        return new PassEnd(null, together(whole, next));
    }

    private Next together(Whole whole, KeptLane lane) {
        List<ShownRow> all = new ArrayList<>();
        int last = 0;
        for (Chunk chunk = tables.chunk(lane, 1); chunk != null; chunk = tables.chunk(lane.behind(chunk.number()), 1)) {
            all.addAll(chunk.rows());
            last = chunk.number();
            if (all.size() > MOST_TOGETHER) {
                throw new JobEndedException("More than " + MOST_TOGETHER + " of the selected rows are blocked.");
            }
        }
        Chunk rest = new Chunk(last, all);
        for (int attempt = 1; ; attempt++) {
            Batch batch = new Batch(whole, lane, rest, all, true, System.nanoTime());
            Outcome outcome = batch.execute();
            if (outcome instanceof Outcome.Done) {
                return end(whole.job(), whole.run(), JobState.DONE, null);
            }
            boolean skips = whole.request().onBlocked() == OnBlocked.SKIP;
            if (outcome instanceof Outcome.Nothing || (skips && outcome instanceof Outcome.Blocked)) {
                batch.noteNothing();
                return end(whole.job(), whole.run(), JobState.DONE, null);
            }
            if (!(outcome instanceof Outcome.Busy) || attempt >= TRIES) {
                return end(whole.job(), whole.run(), JobState.FAILED, outcome.message());
            }
            sleep(pause(attempt).toMillis());
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
