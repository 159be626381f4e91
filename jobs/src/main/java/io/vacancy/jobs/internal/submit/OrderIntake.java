// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.submit;

import io.vacancy.Vacancy;
import io.vacancy.access.Caller;
import io.vacancy.archive.ReceiptId;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.internal.run.PlanDigest;
import io.vacancy.jobs.internal.run.ScopeText;
import io.vacancy.jobs.internal.run.SelectedRows;
import io.vacancy.jobs.internal.run.Workshop;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Account;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobSettings;
import io.vacancy.jobs.submit.ScheduleCheck;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.watch.JobState;
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
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Makes jobs of orders: judged as any deletion is, written down as they can be carried out on any node. */
public final class OrderIntake {

    private static final int LONGEST_TITLE = 255;
    private static final DateTimeFormatter NAMED =
            DateTimeFormatter.ofPattern("uuuuMMdd-HHmmss").withZone(ZoneOffset.UTC);

    private final Workshop at;

    public OrderIntake(Workshop at) {
        this.at = at;
    }

    /**
     * Takes an order.
     *
     * @param answer to the question of what was shown; null where nobody is asked
     */
    public Submission submit(JobOrder order, @Nullable Answer answer) {
        at.tables().wantsReady();
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
        KeptJob before = id == null ? null : at.tables().ofRequest(id);
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
        if (!request.others().isEmpty()) {
            throw new MisuseException(
                    "A job divides the rows of one table, and the request has rows of several.",
                    "Delete them without a job, or order a job for each of the tables.");
        }
        // Also says that only what is deleted is divided.
        request.piece(List.of("1"));
        if (!table.identity().lasts()) {
            throw new MisuseException(
                    "Table " + table + " has neither a primary key nor a unique key without NULL, so its rows cannot be"
                            + " found again from one transaction to the next.",
                    "Give it a key, or delete without a job.");
        }
        boolean narrowedByCode = request.filter() != null;
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
        Instant now = at.now();
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
            return at.tables().insert(job, run, null);
        }
        try (BufferedReader rows = selected.reader()) {
            return at.tables().insert(job, run, rows);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private Submission submitUpkeep(JobOrder order) {
        JobOrder.Upkeep upkeep = Objects.requireNonNull(order.upkeep(), "an order is of a request or of upkeep");
        Instant now = at.now();
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
            if (at.tables().insert(job, run, null)) {
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

    /**
     * Has a deletion of the rule book that recurs become a job of its name, unless it is.
     *
     * @throws MisuseException if it says in words that are not understood when
     */
    public void keepSchedule(NamedDeletion deletion) {
        DeletionSchedule schedule = deletion.schedule();
        if (schedule == null) {
            return;
        }
        JobOrder order = ScheduleCheck.order(deletion, schedule, at.clock().getZone());
        KeptJob job = at.tables().find(deletion.name());
        if (job != null) {
            at.tables()
                    .settings(
                            job.name(), JobSettings.of(order).at(job.settings().pace()));
            return;
        }
        Request request = Objects.requireNonNull(order.request(), "of a request");
        Instant now = at.now();
        Table table = at.vacancy().schema().table(deletion.table());
        wantsDivisible(request, table, order);
        // Another node that begins at the same time may have kept it by now, which is as well.
        at.tables()
                .insert(
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
}
