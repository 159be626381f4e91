// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.schedule;

import com.github.kagkarlsson.scheduler.Clock;
import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerBuilder;
import com.github.kagkarlsson.scheduler.SchedulerName;
import com.github.kagkarlsson.scheduler.task.CompletionHandler;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.ExecutionOperations;
import com.github.kagkarlsson.scheduler.task.helper.CustomTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import io.vacancy.jobs.internal.run.LaneRun;
import io.vacancy.jobs.internal.run.Next;
import io.vacancy.jobs.internal.run.Workshop;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.watch.JobState;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import javax.sql.DataSource;

/**
 * Picks up lanes of jobs at their times, one node each, and keeps the heartbeats by which other nodes see that this one is
 * alive. Heartbeats are dated by the nodes' own clocks, so these must not differ by more than one takes.
 */
public final class JobScheduler implements AutoCloseable {

    /** Of how many heartbeats in a row nothing is heard before somebody is taken for dead; the library's least. */
    public static final int MISSED = 4;

    /** How often a failure may pass in a row, with longer and longer pauses. */
    private static final int MOST_FAILURES = 30;

    private static final Duration LONGEST_PAUSE = Duration.ofMinutes(1);
    private static final Instant ON_DEMAND = Instant.parse("9999-01-01T00:00:00Z");

    private final Workshop at;
    private final Duration keepRuns;
    private final Scheduler scheduler;

    /**
     * @param threads how many lanes this node works on at once
     * @param poll how often it looks for work
     * @param heartbeat how often it says that it is alive
     * @param keepRuns how long the history of runs is kept
     */
    public JobScheduler(
            Workshop at, DataSource source, int threads, Duration poll, Duration heartbeat, Duration keepRuns) {
        this.at = at;
        this.keepRuns = keepRuns;
        CustomTask<Void> lanes = Tasks.custom(JobTables.TASK, Void.class)
                .onFailure(this::failed)
                .onDeadExecution((died, then) -> then.reschedule(died, now()))
                .execute((instance, context) -> completed(run(instance.getId())));
        this.scheduler = new Clocked(source, lanes, this::now)
                .startTasks(Tasks.recurring("job-history", FixedDelay.of(Duration.ofHours(1)))
                        .execute((instance, context) -> at.tables().forget(now().minus(keepRuns()))))
                .tableName(at.tables().schedule())
                .jdbcCustomization(new EpochTimes())
                .schedulerName(new SchedulerName.Fixed(at.node()))
                .commitWhenAutocommitDisabled(true)
                .threads(threads)
                .pollingInterval(poll)
                .heartbeatInterval(heartbeat)
                .missedHeartbeatsLimit(MISSED)
                .shutdownMaxWait(Duration.ofMinutes(1))
                .build();
    }

    /** The library's builder, which has a clock and no method to set it. */
    private static final class Clocked extends SchedulerBuilder {
        Clocked(DataSource source, CustomTask<Void> task, Clock clock) {
            super(source, List.of(task));
            this.clock = clock;
        }
    }

    private Duration keepRuns() {
        return keepRuns;
    }

    private Instant now() {
        return at.clock().instant();
    }

    /** Begins to look for work. */
    public void start() {
        scheduler.start();
    }

    /** Puts down what is being worked on, after the batches that have begun. */
    @Override
    public void close() {
        scheduler.stop();
    }

    private LaneRun lane(String instance) {
        int mark = instance.lastIndexOf('#');
        return new LaneRun(at, instance.substring(0, mark), Integer.parseInt(instance.substring(mark + 1)));
    }

    private Next run(String instance) {
        return lane(instance).run();
    }

    private CompletionHandler<Void> completed(Next next) {
        return (complete, then) -> complete(next, complete, then);
    }

    private void complete(Next next, ExecutionComplete complete, ExecutionOperations<Void> then) {
        String instance = complete.getExecution().taskInstance.getId();
        if (next instanceof Next.Later later) {
            then.reschedule(complete, later.at());
        } else if (next instanceof Next.Over) {
            then.remove();
        } else if (next instanceof Next.OnDemand) {
            then.reschedule(complete, ON_DEMAND);
            // Somebody may have resumed it in between, when there was nothing to wake.
            KeptJob job = at.tables().find(instance.substring(0, instance.lastIndexOf('#')));
            if (job != null && job.state() != JobState.PAUSED) {
                at.tables().wake(job.name(), now());
            }
        }
        // Of what somebody else has taken over, nothing is changed.
    }

    /** What failed may pass: the database was restarted, or there was no room. */
    private void failed(ExecutionComplete failed, ExecutionOperations<Void> then) {
        int failures = failed.getExecution().consecutiveFailures;
        Throwable cause = failed.getCause().orElseGet(() -> new IllegalStateException("no reason is known"));
        if (failures >= MOST_FAILURES) {
            complete(lane(failed.getExecution().taskInstance.getId()).giveUp(cause), failed, then);
            return;
        }
        Duration pause = Duration.ofMillis(500L << Math.min(failures, 7));
        then.reschedule(failed, now().plus(pause.compareTo(LONGEST_PAUSE) > 0 ? LONGEST_PAUSE : pause));
    }
}
