// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.failure.StoreException;
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
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.OnBlocked;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Takes the selected rows of a lane batch after batch, and what was put off in further passes. One thread only. */
final class BatchLoop {

    private static final Logger LOG = LoggerFactory.getLogger(BatchLoop.class);

    private static final int MOST_TOGETHER = 10_000;
    private static final int TRIES = 3;
    private static final long TOLD_AGAIN_NANOS = 5_000_000_000L;
    private static final int MOST_DOUBLINGS = 5;

    /** How a run ends. */
    @FunctionalInterface
    interface End {
        Next end(KeptJob job, Run run, JobState state, @Nullable String reason);
    }

    private final Workshop at;
    private final JobTables tables;
    private final String name;
    private final Throttle throttle;
    private final Whole first;
    private final KeptLane claimed;
    private final End ends;
    private long toldAt;

    BatchLoop(Whole first, KeptLane claimed, End ends) {
        this.at = first.at();
        this.tables = at.tables();
        this.name = first.job().name();
        this.throttle = new Throttle(at.probes());
        this.first = first;
        this.claimed = claimed;
        this.ends = ends;
    }

    /**
     * Works until the lane is put down.
     *
     * @throws LaneLostException if another node has it
     * @throws JobEndedException if the job cannot go on
     */
    Next run() {
        Whole whole = first;
        KeptLane lane = claimed;
        BatchSizer sizer = new BatchSizer(claimed.progress().selectedInBatch());
        long rowsBeforePass = lane.progress().rows();
        int conflicts = 0;
        int conflictsOfOne = 0;
        long since = System.nanoTime();
        @Nullable Chunk chunk = null;
        @Nullable RowBytes bytes = null;
        while (true) {
            KeptJob job = tables.find(name);
            Next steered = steered(job, whole);
            if (steered != null) {
                return steered;
            }
            whole = whole.with(Objects.requireNonNull(job));
            String holds = throttle.reason();
            if (holds != null) {
                lane = holding(whole, lane, holds);
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
                if (bytes == null && job.settings().batches().mostBytes() != null) {
                    bytes = RowBytes.of(whole, chunk.rows());
                    whole = whole.limited(bytes.most(job.settings().batches()));
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
            KeptLane counted = lane.with(lane.progress().sized(sizer.size(), conflicts));
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

    /** Tells why, now and then, so that whoever waits for the job knows what it waits for. */
    private KeptLane holding(Whole whole, KeptLane lane, String why) {
        boolean told = lane.progress().note() != null && System.nanoTime() - toldAt < TOLD_AGAIN_NANOS;
        if (why.equals(Throttle.PACE) || told) {
            return lane;
        }
        toldAt = System.nanoTime();
        KeptLane after = lane.with(lane.progress().holding(why));
        if (!tables.advanceAndDefer(lane, after, whole.job().settings().lanes(), List.of())) {
            throw new LaneLostException();
        }
        at.tell(name);
        return after;
    }

    private static Duration pause(int conflicts) {
        return Duration.ofMillis(100L << Math.min(conflicts, MOST_DOUBLINGS));
    }

    /** What somebody wants of the job by now; null to go on. */
    private @Nullable Next steered(@Nullable KeptJob job, Whole whole) {
        if (job == null || job.state().over() || job.run() != whole.run().run()) {
            return new Next.Over();
        }
        if (job.wanted() == Wanted.CANCEL) {
            return ends.end(job, whole.run(), JobState.CANCELLED, null);
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
        return window == null ? null : at.waiting(name, window);
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
        if (outcome instanceof Outcome.Waiting waiting) {
            // Smaller batches would go round it.
            throw new JobEndedException(waiting.message());
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
            return new PassEnd(null, ends.end(whole.job(), whole.run(), JobState.DONE, null));
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
                return ends.end(whole.job(), whole.run(), JobState.DONE, null);
            }
            boolean skips = whole.request().onBlocked() == OnBlocked.SKIP;
            if (outcome instanceof Outcome.Nothing || (skips && outcome instanceof Outcome.Blocked)) {
                batch.noteNothing();
                return ends.end(whole.job(), whole.run(), JobState.DONE, null);
            }
            if (!(outcome instanceof Outcome.Busy) || attempt >= TRIES) {
                return ends.end(whole.job(), whole.run(), JobState.FAILED, outcome.message());
            }
            sleep(pause(attempt).toMillis());
        }
    }
}
