// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import io.vacancy.Vacancy;
import io.vacancy.access.Caller;
import io.vacancy.access.Scope;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.internal.argument.Arguments;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.internal.run.JobView;
import io.vacancy.jobs.internal.run.PlanDigest;
import io.vacancy.jobs.internal.run.ScopeText;
import io.vacancy.jobs.internal.run.SelectedRows;
import io.vacancy.jobs.internal.run.Workshop;
import io.vacancy.jobs.internal.schedule.JobScheduler;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Account;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptJob.Wanted;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.jobs.pace.LoadProbe;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobListener;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.DeletionSchedule;
import io.vacancy.request.Limits;
import io.vacancy.request.NamedDeletion;
import io.vacancy.request.Request;
import io.vacancy.schema.Table;
import io.vacancy.spi.RequestDigest;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.management.ManagementFactory;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Function;
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

    private static final int LONGEST_TITLE = 255;
    private static final DateTimeFormatter NAMED =
            DateTimeFormatter.ofPattern("uuuuMMdd-HHmmss").withZone(ZoneOffset.UTC);
    private static final List<JobState> NOT_OVER =
            List.of(JobState.SCHEDULED, JobState.RUNNING, JobState.WAITING, JobState.PAUSED);

    private final Workshop at;
    private final JobTables tables;
    private final AtomicBoolean closing;
    private final JobScheduler scheduler;

    private Jobs(Builder said) {
        this.tables = new JobTables(said.store.ownTables());
        this.closing = new AtomicBoolean();
        this.at = new Workshop(
                said.vacancy,
                tables,
                said.clock,
                said.scopes,
                List.copyOf(said.probes),
                List.copyOf(said.listeners),
                List.copyOf(said.notifiers),
                said.node,
                closing::get);
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
        at.vacancy().rules().deletions().forEach(this::keepSchedule);
        scheduler.start();
    }

    private void keepSchedule(NamedDeletion deletion) {
        DeletionSchedule schedule = deletion.schedule();
        if (schedule == null) {
            return;
        }
        JobOrder order = ScheduleCheck.order(deletion, schedule, at.clock().getZone());
        KeptJob job = tables.find(deletion.name());
        if (job != null) {
            tables.settings(job.name(), JobSettings.of(order).at(job.settings().pace()));
            return;
        }
        Request request = Objects.requireNonNull(order.request(), "of a request");
        Instant now = now();
        Table table = at.vacancy().schema().table(deletion.table());
        wantsDivisible(request, table, order);
        // Another node that begins at the same time may have kept it by now, which is as well.
        tables.insert(
                kept(
                        order,
                        deletion.name(),
                        request,
                        "Recurring deletion @" + deletion.name(),
                        table.toString(),
                        written(request, ChangePolicy.MATCHING),
                        confirmed(deletion.name(), request, null),
                        PlanDigest.of(at.vacancy().rules(), table.name(), request)
                                .written(),
                        now,
                        due(order, now)),
                new Run(1, JobState.SCHEDULED, ReceiptId.next(now), null, null, null, null, null),
                null);
    }

    /** Ends the work of this process, after the batches that have begun. Other nodes go on with its jobs. */
    @Override
    public void close() {
        closing.set(true);
        scheduler.close();
    }

    /** Orders a job that nobody is asked about, as far as its request waives the question. */
    public Submission submit(JobOrder order) {
        return submitAnswered(Arguments.notNull(order, "order"), null);
    }

    /** Orders a job, with the answer to the question of what was shown. */
    public Submission submit(JobOrder order, Answer answer) {
        return submitAnswered(Arguments.notNull(order, "order"), Arguments.notNull(answer, "answer"));
    }

    private Submission submitAnswered(JobOrder order, @Nullable Answer answer) {
        tables.wantsReady();
        Request request = order.request();
        if (request == null) {
            return submitUpkeep(order);
        }
        Submission before = repeated(request);
        if (before != null) {
            return before;
        }
        Vacancy vacancy = at.vacancy();
        Preview shown = order.shown() == null ? vacancy.preview(request) : order.shown();
        Table table = vacancy.schema().table(shown.table());
        wantsDivisible(request, table, order);
        Outcome objection = (answer == null ? vacancy.objection(shown) : vacancy.objection(shown, answer))
                .filter(outcome -> !(outcome instanceof Outcome.Nothing && order.onChange() == ChangePolicy.MATCHING))
                .orElse(null);
        if (objection != null) {
            return new Submission.Rejected(objection);
        }
        boolean compared = order.onChange() != ChangePolicy.MATCHING;
        if (!compared) {
            return keep(order, request, shown, answer, table, null);
        }
        try (SelectedRows selected =
                SelectedRows.of(vacancy, request, table.identity().columns(), true)) {
            // What was read in between is what was shown only if it is the same before and after.
            if (!vacancy.preview(request).fingerprint().equals(shown.fingerprint())) {
                return new Submission.Rejected(
                        new Outcome.Changed(List.of("Rows were changed while they were being read.")));
            }
            return keep(order, request, shown, answer, table, selected);
        }
    }

    private @Nullable Submission repeated(Request request) {
        String id = request.id();
        KeptJob before = id == null ? null : tables.ofRequest(id);
        if (before == null) {
            return null;
        }
        if (!RequestDigest.of(request).equals(before.requestDigest())
                || !before.actor().equals(at.vacancy().caller().actor())) {
            throw new MisuseException(
                    "The id " + id + " cannot be used for this request, since it stands for another one.",
                    "Give each request an id of its own, and the same id only to repeat it unchanged.");
        }
        return new Submission.Accepted(at.look(before), true);
    }

    private static void wantsDivisible(Request request, Table table, JobOrder order) {
        // Also says that only what is deleted is divided.
        request.piece(List.of("1"));
        if (!table.identity().lasts()) {
            throw new MisuseException(
                    "Table " + table + " has neither a primary key nor a unique key without NULL, so its rows cannot be"
                            + " found again from one transaction to the next.",
                    "Give it a key, or delete without a job.");
        }
        boolean narrowedByCode = request.narrowing().filter() != null;
        if (narrowedByCode && order.onChange() == ChangePolicy.MATCHING) {
            throw new MisuseException(
                    "Rows that code selects cannot be selected again on another node.",
                    "Order what was shown, or select by a condition.");
        }
    }

    private Submission keep(
            JobOrder order,
            Request request,
            Preview shown,
            @Nullable Answer answer,
            Table table,
            @Nullable SelectedRows selected) {
        Instant now = now();
        Instant due = due(order, now);
        String written = written(request, order.onChange());
        Long expected = selected == null
                ? null
                : Long.valueOf(shown.totals().values().stream()
                        .mapToLong(Long::longValue)
                        .sum());
        for (int attempt = 1; ; attempt++) {
            String name =
                    name(order, shown.operation().word() + "-" + table.name().name(), now, attempt);
            KeptJob job = kept(
                    order,
                    name,
                    request,
                    shown.title(),
                    table.toString(),
                    written,
                    confirmed(name, request, answer),
                    PlanDigest.of(at.vacancy().rules(), table.name(), request).written(),
                    now,
                    due);
            Run run = new Run(
                    1,
                    JobState.SCHEDULED,
                    ReceiptId.next(now),
                    null,
                    null,
                    selected == null ? null : selected.rows(),
                    expected,
                    null);
            if (insert(job, run, selected)) {
                return new Submission.Accepted(at.look(job), false);
            }
            Submission before = repeated(request);
            if (before != null) {
                return before;
            }
        }
    }

    private boolean insert(KeptJob job, Run run, @Nullable SelectedRows selected) {
        if (selected == null) {
            return tables.insert(job, run, null);
        }
        try (BufferedReader rows = selected.reader()) {
            return tables.insert(job, run, rows);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private Submission submitUpkeep(JobOrder order) {
        JobOrder.Upkeep upkeep = Objects.requireNonNull(order.upkeep(), "an order is of a request or of upkeep");
        Instant now = now();
        for (int attempt = 1; ; attempt++) {
            String name = name(order, upkeep.word(), now, attempt);
            KeptJob job = kept(
                    order,
                    name,
                    null,
                    upkeep.word(),
                    null,
                    upkeep.word(),
                    "upkeep by job " + name,
                    "",
                    now,
                    due(order, now));
            Run run = new Run(1, JobState.SCHEDULED, ReceiptId.next(now), null, null, null, null, null);
            if (tables.insert(job, run, null)) {
                return new Submission.Accepted(at.look(job), false);
            }
        }
    }

    private KeptJob kept(
            JobOrder order,
            String name,
            @Nullable Request request,
            String title,
            @Nullable String table,
            String written,
            String confirmed,
            String digest,
            Instant now,
            Instant due) {
        Caller caller = at.vacancy().caller();
        return new KeptJob(
                name,
                request == null ? null : request.id(),
                request == null || request.id() == null ? null : RequestDigest.of(request),
                title.length() > LONGEST_TITLE ? title.substring(0, LONGEST_TITLE) : title,
                table,
                written,
                confirmed,
                caller.actor(),
                new Account(caller.onBehalfOf(), caller.origin()),
                ScopeText.of(at.vacancy().schema(), caller.scope()),
                digest,
                JobSettings.of(order),
                JobState.SCHEDULED,
                null,
                now,
                due,
                1);
    }

    private Instant now() {
        // As precisely as it is kept.
        return Instant.ofEpochMilli(at.clock().millis());
    }

    private static Instant due(JobOrder order, Instant now) {
        Instant said = order.at();
        Recurrence every = order.every();
        if (said != null) {
            return said;
        }
        return every == null ? now : every.after(now).orElse(now);
    }

    private static String name(JobOrder order, String made, Instant now, int attempt) {
        String given = order.name();
        String name = given == null ? made.replaceAll("[^A-Za-z0-9._-]", "-") + "-" + NAMED.format(now) : given;
        return attempt == 1 ? name : name + "-" + attempt;
    }

    /** What is read back is what is carried out, so it must be the same to the last part. */
    private String written(Request request, ChangePolicy policy) {
        Request said = request.withConfirmation();
        String written = new JsonWriter().write(said);
        Request read = JsonReader.request(written, at.vacancy().rules()::deletion);
        // Which rows, the chunks tell; and limits were judged on all of them together.
        boolean selects = policy == ChangePolicy.MATCHING;
        Request asked = selects ? said : said.piece(List.of("1"));
        Request found = selects ? read : read.piece(List.of("1"));
        if (!RequestDigest.of(asked.limits(Limits.NONE)).equals(RequestDigest.of(found.limits(Limits.NONE)))) {
            throw new MisuseException(
                    "The request to " + request + " cannot be kept as it is: parts of it can only be said in code.",
                    "Make the request from a table, keys, a condition or a named deletion alone.");
        }
        return written;
    }

    private static String confirmed(String name, Request request, @Nullable Answer answer) {
        String job = "Job " + name + ": ";
        if (answer != null) {
            return job + (answer.text().isBlank() ? "confirmed" : "confirmed by \"" + answer.text() + "\"")
                    + ", as shown with fingerprint " + answer.fingerprint();
        }
        String why = request.withoutConfirmation();
        Long expected = request.limits().expect();
        return job + (why != null ? why : expected != null ? "expected " + expected + " rows" : "accepted unasked");
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
        Instant wake = begun || due == null || due.isBefore(now()) ? now() : due;
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
            tables.end(job, tables.run(name, job.run()), JobState.CANCELLED, null, now(), null, null);
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
     * Waits until the last run of a job is over, or the job is paused.
     *
     * @param patience how long at most
     * @return how it stands then, over or not
     */
    public Job await(String name, Duration patience) throws InterruptedException {
        long until = System.nanoTime() + patience.toNanos();
        Job job = at.look(wanted(name));
        while (!job.state().over() && job.state() != JobState.PAUSED && System.nanoTime() < until) {
            Thread.sleep(50);
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

        /** Opens it. Nothing is carried out by this process before {@link Jobs#start}. */
        public Jobs open() {
            return new Jobs(this);
        }
    }
}
