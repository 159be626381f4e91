// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import static io.vacancy.jobs.internal.store.Statements.query;
import static io.vacancy.jobs.internal.store.Statements.update;

import io.vacancy.failure.VacancyException;
import io.vacancy.jdbc.spi.ErrorClasses.Fault;
import io.vacancy.jdbc.spi.OwnTableAccess;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptJob.Wanted;
import io.vacancy.jobs.internal.store.KeptLane.State;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.jobs.watch.JobState;
import java.io.BufferedReader;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Jobs in the user's own database. Every method without a connection is a transaction of its own. Serves all threads. */
public final class JobTables {

    /** How many selected rows are kept together. */
    public static final int CHUNK = 5_000;

    /** What the scheduler calls the work on a lane. */
    public static final String TASK = "job";

    private final OwnTableAccess own;
    private final JobRows jobRows;
    private final LaneRows laneRows;
    private final ScheduleRows schedules;

    public JobTables(OwnTableAccess own) {
        this.own = own;
        this.jobRows = new JobRows(own);
        this.laneRows = new LaneRows(own);
        this.schedules = new ScheduleRows(own);
    }

    /** @throws io.vacancy.failure.NotSetUpException if Vacancy's own tables are not there */
    public void wantsReady() {
        own.wantsReady();
    }

    /** What the database had against it, or null. */
    public @Nullable Fault fault(VacancyException failed) {
        return own.fault(failed);
    }

    /** Whether the database can limit how long a statement waits for rows that somebody else holds. */
    public boolean limitsWaiting() {
        return own.dialect().locking().waitSetting() != null;
    }

    /** The scheduler's table, as it is written in a statement. */
    public String schedule() {
        return own.name("job_schedule");
    }

    /**
     * Keeps a job with what it selects, and has it picked up at its time.
     *
     * @param selected chunks, one a line in Base64, or null where it is selected when the job begins
     * @return false if its name or its request's identity is taken
     */
    public boolean insert(KeptJob job, Run run, @Nullable BufferedReader selected) {
        try {
            return own.writing(connection -> {
                jobRows.insertJob(connection, job);
                jobRows.insertRun(connection, job.name(), run);
                laneRows.insertChunks(connection, job.name(), run.run(), selected);
                laneRows.insertLane(connection, job.name(), run.run(), 0);
                schedules.schedule(connection, job.name(), 0, Objects.requireNonNullElse(job.dueAt(), job.madeAt()));
                return true;
            });
        } catch (VacancyException failed) {
            if (own.fault(failed) == Fault.CONSTRAINT) {
                return false;
            }
            throw failed;
        }
    }

    /** The job of a name, or null. */
    public @Nullable KeptJob find(String name) {
        return first(own.reading(connection -> jobRows.jobs(connection, "WHERE name = ?", name)));
    }

    /** The job that a request's identity stands for, or null. */
    public @Nullable KeptJob ofRequest(String id) {
        return first(own.reading(connection -> jobRows.jobs(connection, "WHERE request_id = ?", id)));
    }

    /** All jobs, the latest first. */
    public List<KeptJob> all() {
        return own.reading(connection -> jobRows.jobs(connection, "ORDER BY made_at DESC, name"));
    }

    private static <T> @Nullable T first(List<T> found) {
        return found.isEmpty() ? null : found.get(0);
    }

    /** A run of a job. */
    public Run run(String job, int run) {
        return own.reading(connection -> jobRows.runs(connection, "WHERE job = ? AND run = ?", job, run))
                .get(0);
    }

    /** All runs of a job that are kept, the latest first. */
    public List<Run> runs(String job) {
        return own.reading(connection -> jobRows.runs(connection, "WHERE job = ? ORDER BY run DESC", job));
    }

    /** What all lanes of a run have done, together. */
    public JobProgress progress(String job, Run run) {
        return own.reading(connection -> jobRows.progress(connection, job, run));
    }

    /** Takes a lane over from whoever had it; null if nothing is left of it. */
    public @Nullable KeptLane claim(String job, int run, int lane, String lease, String node) {
        return first(own.writing(connection -> {
            int claimed = update(
                    connection,
                    "UPDATE " + own.name("job_lane") + " SET lease = ?, node = ?"
                            + " WHERE job = ? AND run = ? AND lane = ? AND state <> ?",
                    lease,
                    node,
                    job,
                    run,
                    lane,
                    State.OVER);
            return claimed == 0 ? List.<KeptLane>of() : List.of(laneRows.lane(connection, job, run, lane));
        }));
    }

    /** How a lane stands. */
    public KeptLane lane(String job, int run, int lane) {
        return own.reading(connection -> laneRows.lane(connection, job, run, lane));
    }

    /**
     * Notes a step, and puts rows off with it.
     *
     * @return false if somebody else has noted it; nothing is put off then
     */
    public boolean advanceAndDefer(KeptLane before, KeptLane after, int lanes, List<ShownRow> rows) {
        return own.writing(connection -> {
            boolean advanced = laneRows.advance(connection, before, after);
            if (advanced && !rows.isEmpty()) {
                laneRows.defer(connection, before, lanes, rows);
            }
            return advanced;
        });
    }

    /** Some of the selected rows. */
    public record Chunk(int number, List<ShownRow> rows) {}

    /** The chunk that a lane is at, or the next one that is its own; null behind the last. */
    public @Nullable Chunk chunk(KeptLane lane, int lanes) {
        return first(own.reading(connection -> {
            String mine =
                    lane.state() == State.OPEN && lanes > 1 ? " AND MOD(chunk, " + lanes + ") = " + lane.lane() : "";
            Long number = query(
                            connection,
                            "SELECT MIN(chunk) AS chunk FROM " + own.name("job_chunk")
                                    + " WHERE job = ? AND run = ? AND pass = ? AND chunk >= ?" + mine,
                            row -> new @Nullable Long[] {Statements.number(row, "chunk")},
                            lane.job(),
                            lane.run(),
                            lane.pass(),
                            lane.chunk())
                    .get(0)[0];
            if (number == null) {
                return List.<Chunk>of();
            }
            String content = query(
                            connection,
                            "SELECT content FROM " + own.name("job_chunk")
                                    + " WHERE job = ? AND run = ? AND pass = ? AND chunk = ?",
                            row -> row.getString(1),
                            lane.job(),
                            lane.run(),
                            lane.pass(),
                            number)
                    .get(0);
            return List.of(new Chunk(number.intValue(), ShownRow.lines(content)));
        }));
    }

    /** Keeps what a run selects, if nobody has by now. */
    public void select(KeptLane lane, long selected, long expected, BufferedReader rows) {
        own.writing(connection -> {
            int first = update(
                    connection,
                    "UPDATE " + own.name("job_run")
                            + " SET selected = ?, expected = ?"
                            + " WHERE job = ? AND run = ? AND selected IS NULL",
                    selected,
                    expected,
                    lane.job(),
                    lane.run());
            if (first == 1) {
                laneRows.insertChunks(connection, lane.job(), lane.run(), rows);
            }
            return first;
        });
    }

    /** Opens the other lanes of a run, unless they are open. */
    public void open(String job, int run, int lanes, Instant now) {
        own.writing(connection -> {
            int there = query(
                            connection,
                            "SELECT COUNT(*) FROM " + own.name("job_lane") + " WHERE job = ? AND run = ?",
                            row -> row.getInt(1),
                            job,
                            run)
                    .get(0);
            for (int lane = there; lane < lanes; lane++) {
                laneRows.insertLane(connection, job, run, lane);
                schedules.schedule(connection, job, lane, now);
            }
            return there;
        });
    }

    /**
     * Ends a lane, unless it is the last one of its run.
     *
     * @return the lane as it is then: over, or closing, since it is the last and goes on with what all have put off; null if
     *     somebody has taken it over
     */
    public @Nullable KeptLane endUnlessLast(KeptLane lane) {
        return first(own.writing(connection -> {
            // One after the other, so that exactly one is the last.
            update(
                    connection,
                    "UPDATE " + own.name("job_run") + " SET run = run WHERE job = ? AND run = ?",
                    lane.job(),
                    lane.run());
            int others = query(
                            connection,
                            "SELECT COUNT(*) FROM " + own.name("job_lane")
                                    + " WHERE job = ? AND run = ? AND lane <> ? AND state <> ?",
                            row -> row.getInt(1),
                            lane.job(),
                            lane.run(),
                            lane.lane(),
                            State.OVER)
                    .get(0);
            KeptLane after = others == 0 ? lane.closing(lane.pass() + 1) : lane.over();
            return laneRows.advance(connection, lane, after) ? List.of(after) : List.<KeptLane>of();
        }));
    }

    /** Says how a job stands, unless it is over. */
    public void stand(String job, JobState state, @Nullable Instant due) {
        own.writing(connection -> update(
                connection,
                "UPDATE " + own.name("job") + " SET state = ?, due_at = ? WHERE name = ? AND state NOT IN (?, ?, ?)",
                state.word(),
                due,
                job,
                JobState.DONE.word(),
                JobState.FAILED.word(),
                JobState.CANCELLED.word()));
    }

    /** A run waits until a time for a reason, unless it has begun. */
    public void hold(String job, int run, String reason, Instant until) {
        own.writing(connection -> {
            update(
                    connection,
                    "UPDATE " + own.name("job_run") + " SET reason = ? WHERE job = ? AND run = ?",
                    reason,
                    job,
                    run);
            return update(
                    connection,
                    "UPDATE " + own.name("job") + " SET state = ?, due_at = ? WHERE name = ? AND state IN (?, ?)",
                    JobState.WAITING.word(),
                    until,
                    job,
                    JobState.SCHEDULED.word(),
                    JobState.WAITING.word());
        });
    }

    /** A run begins; its first beginning counts. */
    public void begin(String job, int run, Instant now) {
        own.writing(connection -> {
            update(
                    connection,
                    "UPDATE " + own.name("job_run") + " SET started_at = COALESCE(started_at, ?), state = ?,"
                            + " reason = NULL"
                            + " WHERE job = ? AND run = ?",
                    now,
                    JobState.RUNNING.word(),
                    job,
                    run);
            return update(
                    connection,
                    "UPDATE " + own.name("job") + " SET state = ?, due_at = NULL WHERE name = ? AND state IN (?, ?)",
                    JobState.RUNNING.word(),
                    job,
                    JobState.SCHEDULED.word(),
                    JobState.WAITING.word());
        });
    }

    /**
     * Ends a run, and the job with it unless it recurs. What it selected is not kept any longer.
     *
     * @param next the run that follows, or null
     * @return false if it was ended before
     */
    public boolean end(
            KeptJob job,
            Run run,
            JobState state,
            @Nullable String reason,
            Instant now,
            @Nullable Run next,
            @Nullable Instant due) {
        return own.writing(connection -> {
            JobProgress progress = jobRows.progress(connection, job.name(), run);
            int ended = update(
                    connection,
                    "UPDATE " + own.name("job_run") + " SET state = ?, ended_at = ?, reason = ?, progress = ?"
                            + " WHERE job = ? AND run = ? AND ended_at IS NULL",
                    state.word(),
                    now,
                    reason,
                    Documents.written(progress),
                    job.name(),
                    run.run());
            if (ended == 0) {
                return false;
            }
            if (next != null && due != null) {
                schedules.schedule(connection, job.name(), 0, due);
            }
            update(connection, "DELETE FROM " + own.name("job_chunk") + " WHERE job = ?", job.name());
            update(connection, "DELETE FROM " + own.name("job_lane") + " WHERE job = ?", job.name());
            update(
                    connection,
                    "UPDATE " + own.name("job") + " SET state = ?, wanted = NULL, due_at = ?, run = "
                            + (next == null ? run.run() : next.run()) + " WHERE name = ?",
                    (next == null ? state : JobState.SCHEDULED).word(),
                    due,
                    job.name());
            if (next != null) {
                jobRows.insertRun(connection, job.name(), next);
                laneRows.insertLane(connection, job.name(), next.run(), 0);
            }
            return true;
        });
    }

    /**
     * Tells a job something, if it is in one of these states.
     *
     * @param state in which it is from now on, or null for the one it is in
     * @param wanted what whoever works on it is told, or null for nothing any more
     * @param wake when its lanes are to be picked up, or null for as it was
     * @return whether it was in such a state
     */
    public boolean steer(
            String job, List<JobState> in, @Nullable JobState state, @Nullable Wanted wanted, @Nullable Instant wake) {
        return own.writing(connection -> {
            String states = String.join(
                    ", ", in.stream().map(each -> "'" + each.word() + "'").toList());
            int changed = update(
                    connection,
                    "UPDATE " + own.name("job") + " SET wanted = ?, state = "
                            + (state == null ? "state" : "'" + state.word() + "'") + " WHERE name = ? AND state IN ("
                            + states + ")",
                    wanted,
                    job);
            if (changed == 1 && wake != null) {
                schedules.wake(connection, job, wake);
            }
            return changed == 1;
        });
    }

    /** Has the lanes of a job picked up at a time. */
    public void wake(String job, Instant at) {
        own.writing(connection -> {
            schedules.wake(connection, job, at);
            return job;
        });
    }

    /** Changes how a job works. */
    public void settings(String job, JobSettings settings) {
        own.writing(connection -> update(
                connection,
                "UPDATE " + own.name("job") + " SET settings = ? WHERE name = ?",
                Documents.written(settings),
                job));
    }

    /** Removes jobs and runs that ended before a time. */
    public void forget(Instant before) {
        own.writing(connection -> {
            update(connection, "DELETE FROM " + own.name("job_run") + " WHERE ended_at < ?", before);
            return update(
                    connection,
                    "DELETE FROM " + own.name("job") + " WHERE state IN (?, ?, ?) AND NOT EXISTS (SELECT 1 FROM "
                            + own.name("job_run") + " r WHERE r.job = name)",
                    JobState.DONE.word(),
                    JobState.FAILED.word(),
                    JobState.CANCELLED.word());
        });
    }

    /**
     * Notes a step of a lane in somebody's transaction, if nobody else has noted it or has taken the lane over. Whoever
     * notes the same step at the same time waits for that transaction.
     *
     * @return false if somebody has; nothing may be committed then
     */
    public boolean advance(Connection connection, KeptLane before, KeptLane after) throws SQLException {
        return laneRows.advance(connection, before, after);
    }

    /** Puts rows off to the pass after the one that a lane is in, in somebody's transaction. */
    public void defer(Connection connection, KeptLane lane, int lanes, List<ShownRow> rows) throws SQLException {
        laneRows.defer(connection, lane, lanes, rows);
    }
}
