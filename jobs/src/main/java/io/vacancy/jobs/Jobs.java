// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.VacancyException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jdbc.spi.OwnTableAccess;
import io.vacancy.jobs.internal.run.JobView;
import io.vacancy.jobs.internal.run.ScopeText;
import io.vacancy.jobs.internal.run.Workshop;
import io.vacancy.jobs.internal.schedule.JobScheduler;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.JoinedOwnTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Wanted;
import io.vacancy.jobs.internal.submit.OrderIntake;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.LoadProbe;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobHealth;
import io.vacancy.jobs.watch.JobListener;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import io.vacancy.question.Answer;
import io.vacancy.trail.OutboxEvent;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Consumer;
import java.util.function.Function;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * Large deletions as jobs: ordered once, carried out in batches of one transaction each by whichever node is there, watched
 * and steered from any of them. All batches are parts of one receipt, which restores as a whole.
 *
 * <p>One instance serves the whole application and all its threads. Ordering and watching need no node; {@link #start}
 * makes one of this process. A job is there for callers in the scope in which it was ordered; who may steer it is for the
 * application to say. Every method throws a {@link io.vacancy.failure.NotSetUpException} where Vacancy's own tables
 * are not set up.
 */
public final class Jobs implements AutoCloseable {

    private static final long LOOKS_MILLIS = 50;
    private static final List<JobState> NOT_OVER =
            List.of(JobState.SCHEDULED, JobState.RUNNING, JobState.WAITING, JobState.PAUSED);

    private final Workshop at;
    private final JobTables tables;
    private final AtomicBoolean closing;
    private final JobScheduler scheduler;
    private final OrderIntake intake;
    private final Duration overdue;

    private Jobs(Builder said) {
        OwnTableAccess own = said.store.ownTables();
        this.tables = new JobTables(new JoinedOwnTables(
                own, () -> said.vacancy.store() instanceof JdbcStore here ? here.ownTables() : own));
        this.closing = new AtomicBoolean();
        this.at = new Workshop(
                said.vacancy,
                tables,
                said.clock,
                said.scopes,
                List.copyOf(said.probes),
                List.copyOf(said.listeners),
                List.copyOf(said.notifiers),
                said.events,
                said.node,
                closing::get);
        // As long as it takes until another node has taken a dead one's jobs over, and once more.
        this.overdue = said.heartbeat.multipliedBy(2L * JobScheduler.MISSED).plus(said.poll);
        this.intake = new OrderIntake(at);
        this.scheduler = new JobScheduler(at, said.source, said.threads, said.poll, said.heartbeat, said.keepRuns);
    }

    /**
     * Begins to open one.
     *
     * @param vacancy as the application has it; jobs are carried out on the account of whoever ordered them
     * @param store the one that it is on
     * @param source where the connections of that store come from
     */
    public static Builder on(Vacancy vacancy, JdbcStore store, DataSource source) {
        return new Builder(
                Arguments.notNull(vacancy, "vacancy"),
                Arguments.notNull(store, "store"),
                Arguments.notNull(source, "source"));
    }

    /**
     * Makes this process a node that carries out jobs, until it is closed. Deletions of the rule book that recur become
     * jobs of their names, unless they are; what was cancelled stays so.
     *
     * @throws MisuseException if the rule book says in words that are not understood when one recurs
     */
    public void start() {
        tables.wantsReady();
        at.vacancy().rules().deletions().forEach(intake::keepSchedule);
        scheduler.start();
    }

    /** Ends the work of this process, after the batches that have begun. Other nodes go on with its jobs. */
    @Override
    public void close() {
        closing.set(true);
        scheduler.close();
    }

    /** Orders a job that nobody is asked about, as far as its request waives the question. */
    public Submission submit(JobOrder order) {
        return intake.submit(Arguments.notNull(order, "order"), null);
    }

    /** Orders a job, with the answer to the question of what was shown. */
    public Submission submit(JobOrder order, Answer answer) {
        return intake.submit(Arguments.notNull(order, "order"), Arguments.notNull(answer, "answer"));
    }

    /** A job as it stands; empty if there is none of that name. */
    public Optional<Job> find(String name) {
        Arguments.notBlank(name, "name");
        tables.wantsReady();
        return Optional.ofNullable(tables.find(name)).filter(this::visible).map(at::look);
    }

    /** All jobs that are kept, the latest first. */
    public List<Job> list() {
        tables.wantsReady();
        return tables.all().stream().filter(this::visible).map(at::look).toList();
    }

    /** The runs of a job that are kept, the latest first. */
    public List<Job> runs(String name) {
        KeptJob job = wanted(name);
        return tables.runs(name).stream()
                .map(run -> JobView.of(tables, job, run))
                .toList();
    }

    /**
     * Puts a job down after the batch that it is at, until it is resumed.
     *
     * @throws MisuseException if there is none, or it is over
     */
    public Job pause(String name) {
        steer(name, NOT_OVER, Wanted.PAUSE);
        // What nobody works on stands still at once.
        tables.steer(name, List.of(JobState.SCHEDULED, JobState.WAITING), JobState.PAUSED, null, null);
        return at.look(wanted(name));
    }

    /**
     * Goes on with a paused job.
     *
     * @throws MisuseException if there is none, or it is over
     */
    public Job resume(String name) {
        KeptJob job = wanted(name);
        wantsNotOver(job);
        boolean begun = tables.run(name, job.run()).startedAt() != null;
        Instant due = job.dueAt();
        // What had not begun begins at its time, and not because it was paused.
        Instant wake = begun || due == null || due.isBefore(at.now()) ? at.now() : due;
        tables.steer(name, List.of(JobState.PAUSED), begun ? JobState.WAITING : JobState.SCHEDULED, null, wake);
        tables.steer(name, List.of(JobState.RUNNING), null, null, null);
        return at.look(wanted(name));
    }

    /**
     * Ends a job after the batch that it is at. What is committed stays, and can be restored by its receipt.
     *
     * @throws MisuseException if there is none, or it is over
     */
    public Job cancel(String name) {
        KeptJob job = wanted(name);
        wantsNotOver(job);
        if (!tables.steer(name, List.of(JobState.RUNNING), null, Wanted.CANCEL, null)) {
            tables.end(job, tables.run(name, job.run()), JobState.CANCELLED, null, at.now(), null, null);
        }
        return at.look(wanted(name));
    }

    /**
     * Changes how fast a job works, from its next batch on.
     *
     * @throws MisuseException if there is none, or it is over
     */
    public Job pace(String name, Throttling pace) {
        KeptJob job = wanted(name);
        wantsNotOver(job);
        tables.settings(name, job.settings().at(Arguments.notNull(pace, "pace")));
        return at.look(wanted(name));
    }

    private void steer(String name, List<JobState> in, Wanted what) {
        KeptJob job = wanted(name);
        wantsNotOver(job);
        tables.steer(name, in, null, what, null);
    }

    /** A job is there for a caller in the scope in which it was ordered, and for one from whom nothing is hidden. */
    private boolean visible(KeptJob job) {
        String scope = ScopeText.of(at.vacancy().schema(), at.vacancy().caller().scope());
        return scope.isEmpty() || scope.equals(job.scopes());
    }

    private KeptJob wanted(String name) {
        Arguments.notBlank(name, "name");
        tables.wantsReady();
        KeptJob job = tables.find(name);
        if (job == null || !visible(job)) {
            throw new MisuseException("There is no job " + name + ".", "See the list of jobs.");
        }
        return job;
    }

    private static void wantsNotOver(KeptJob job) {
        if (job.state().over()) {
            throw new MisuseException(
                    "Job " + job.name() + " is over: " + job.state().word() + ".");
        }
    }

    /**
     * A job as it stands, and each time that it stands differently, until its last run is over or it is paused. The stream
     * waits as it is read, and ends early where its thread is interrupted.
     *
     * @throws MisuseException if there is none
     */
    public Stream<Job> changes(String name) {
        Job first = at.look(wanted(name));
        return Stream.iterate(first, Objects::nonNull, job -> next(name, job));
    }

    private @Nullable Job next(String name, Job before) {
        try {
            while (!before.state().over() && before.state() != JobState.PAUSED) {
                Thread.sleep(LOOKS_MILLIS);
                Job job = at.look(wanted(name));
                if (!job.equals(before)) {
                    return job;
                }
            }
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
        }
        return null;
    }

    /**
     * Whether jobs get on, for whoever watches the application. It asks the database once.
     *
     * @return what is to be looked at, if anything; a database that does not answer is a finding, too
     */
    public JobHealth health() {
        try {
            return JobHealth.of(list(), at.clock().instant(), overdue);
        } catch (VacancyException failed) {
            return JobHealth.unknown(String.valueOf(failed.getMessage()));
        }
    }

    /**
     * Waits until the last run of a job is over, or the job is paused.
     *
     * @param patience how long at most
     * @return how it stands then, over or not
     */
    public Job await(String name, Duration patience) throws InterruptedException {
        long until = System.nanoTime() + patience.toNanos();
        Job job = at.look(wanted(name));
        while (!job.state().over() && job.state() != JobState.PAUSED && System.nanoTime() < until) {
            Thread.sleep(LOOKS_MILLIS);
            job = at.look(wanted(name));
        }
        return job;
    }

    /** What a process says of itself before it opens jobs; for one thread. Begins with {@link Jobs#on}. */
    public static final class Builder {

        private final Vacancy vacancy;
        private final JdbcStore store;
        private final DataSource source;
        private final List<LoadProbe> probes = new ArrayList<>();
        private final List<JobListener> listeners = new ArrayList<>();
        private final List<Notifier> notifiers = new ArrayList<>();
        private @Nullable Consumer<OutboxEvent> events;
        private Clock clock = Clock.systemDefaultZone();
        private Function<Job, Scope> scopes = job -> Scope.everything();
        private String node = ManagementFactory.getRuntimeMXBean().getName();
        private int threads = 4;
        private Duration poll = Duration.ofSeconds(1);
        private Duration heartbeat = Duration.ofSeconds(5);
        private Duration keepRuns = Duration.ofDays(30);

        private Builder(Vacancy vacancy, JdbcStore store, DataSource source) {
            this.vacancy = vacancy;
            this.store = store;
            this.source = source;
        }

        /** By which jobs are begun and dated; the machine's unless set. */
        public Builder clock(Clock clock) {
            this.clock = Arguments.notNull(clock, "clock");
            return this;
        }

        /**
         * What whoever ordered a job may see and touch, made anew from its actor and the context of its order; everything
         * unless set. It has to be the same as when it was ordered, or the job fails.
         */
        public Builder scope(Function<Job, Scope> scopes) {
            this.scopes = Arguments.notNull(scopes, "scopes");
            return this;
        }

        /** What this node is called; process and host unless set. */
        public Builder node(String name) {
            this.node = Arguments.notBlank(name, "name");
            return this;
        }

        /** On how many lanes of jobs this node works at once; 4 unless set. */
        public Builder threads(int threads) {
            if (threads < 1) {
                throw new MisuseException("A node needs 1 or more threads, not " + threads + ".");
            }
            this.threads = threads;
            return this;
        }

        /** How often this node looks for work; every second unless set. */
        public Builder pollEvery(Duration time) {
            this.poll = positive(time);
            return this;
        }

        /**
         * How often this node says that it is alive; every 5 seconds unless set. A node that has been silent for four of
         * them is taken for dead, and another one takes its jobs over.
         */
        public Builder heartbeatEvery(Duration time) {
            this.heartbeat = positive(time);
            return this;
        }

        /** How long jobs that are over, and runs, are kept; 30 days unless set. */
        public Builder keepRuns(Duration time) {
            this.keepRuns = positive(time);
            return this;
        }

        private static Duration positive(Duration time) {
            if (Arguments.notNull(time, "time").isNegative() || time.isZero()) {
                throw new MisuseException("It must be more than no time, not " + time + ".");
            }
            return time;
        }

        /** Has jobs hold back while it says so. */
        public Builder probe(LoadProbe probe) {
            probes.add(Arguments.notNull(probe, "probe"));
            return this;
        }

        /** Hears how jobs on this node stand. */
        public Builder listener(JobListener listener) {
            listeners.add(Arguments.notNull(listener, "listener"));
            return this;
        }

        /** Tells whoever is to be told that a job is over. */
        public Builder notifier(Notifier notifier) {
            notifiers.add(Arguments.notNull(notifier, "notifier"));
            return this;
        }

        /**
         * Has this node carry out {@link JobOrder.Upkeep#PASS_ON}.
         *
         * @param reader takes one event after the other, at least once; where it throws, that one comes again
         */
        public Builder events(Consumer<OutboxEvent> reader) {
            this.events = Arguments.notNull(reader, "reader");
            return this;
        }

        /** Opens it. Nothing is carried out by this process before {@link Jobs#start}. */
        public Jobs open() {
            return new Jobs(this);
        }
    }
}
