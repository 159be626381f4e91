// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.SaveTarget;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.Problem;
import io.vacancy.internal.access.AccessRights;
import io.vacancy.internal.judge.Consent;
import io.vacancy.internal.judge.Estimator;
import io.vacancy.internal.judge.PreviewFactory;
import io.vacancy.internal.resolve.NothingLeftException;
import io.vacancy.internal.resolve.RequestResolver;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.preview.SkippedRow;
import io.vacancy.question.Answer;
import io.vacancy.question.Question;
import io.vacancy.request.Request;
import io.vacancy.rules.ResolvedRules;
import io.vacancy.schema.Row;
import io.vacancy.schema.Schema;
import io.vacancy.schema.Table;
import io.vacancy.schema.TableName;
import io.vacancy.spi.plan.ArchiveSelection;
import io.vacancy.spi.plan.Detail;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.PlannedOperation;
import java.util.List;
import java.util.function.Function;
import java.util.function.Supplier;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/** Takes requests from their words to their outcome. Serves all threads. */
public record RequestExecutor(Installation at) {

    /** Everything that a request would do, with nothing changed. */
    public Preview preview(Request request) {
        at.workplaces().beforeRequest();
        Preview preview = preview(resolved(request));
        return preview.estimated(new Estimator(at.store(), at.rules()).of(preview));
    }

    private Preview preview(ResolvedRequest resolved) {
        PreviewFactory previews = previews(resolved);
        String forbidden = previews.forbidden(Act.LOOK);
        Preview preview = forbidden != null
                ? previews.withheld(forbidden)
                : previews.judge(at.store()
                        .analyze(at.plans().plan(resolved, Detail.SHOWN, true), at.monitor(resolved.request())));
        at.settings().listener.previewed(preview);
        return preview;
    }

    /** The rows of a table that a request would take. */
    public Stream<Row> rows(Request request, Function<Table, Table> of) {
        at.workplaces().beforeRequest();
        ResolvedRequest resolved = resolved(request);
        return rows(resolved, of.apply(resolved.table()), Act.LOOK);
    }

    /** Everything that belongs to the person whom a request would forget. */
    public Stream<Row> belonging(Request forget) {
        return at.store().rows(belongingPlan(forget), at.monitor(forget));
    }

    /** By which that is found, as far as the actor may look at all of it. */
    ExecutionPlan belongingPlan(Request forget) {
        at.workplaces().beforeRequest();
        ResolvedRequest resolved = resolved(forget);
        ExecutionPlan plan = at.plans().belonging(resolved);
        Schema schema = plan.program().schema();
        plan.program().tables().forEach(table -> at.visible().wants(schema.table(table), Act.LOOK));
        plan.program().holds().stream().findFirst().ifPresent(step -> {
            TableName table = step.relation().child();
            throw new MisuseException(
                    "Rows of " + table + " belong to the person through " + step.relation()
                            + ", and have no key to tell them apart by, so they cannot be listed.",
                    "Give the table a key, or say of the relation, by forget: leave, that they do not belong to the"
                            + " person.");
        });
        return plan;
    }

    /** The archived rows that a purge would take, of some receipts. */
    public Stream<Row> images(Request purge, ArchiveSelection which) {
        ResolvedRequest resolved = resolved(purge);
        return rows(resolved.planned(new PlannedOperation.Purge(which)), resolved.table(), Act.READ_ARCHIVE);
    }

    private Stream<Row> rows(ResolvedRequest resolved, Table wanted, Act act) {
        resolved.each().forEach(each -> at.visible().wants(each.table(), act));
        at.visible().wants(wanted, act);
        ExecutionPlan plan = at.plans().plan(resolved, Detail.COUNTS, false);
        return plan.program().tables().contains(wanted.name())
                ? at.store().rows(plan, wanted.name(), at.monitor(resolved.request()))
                : Stream.empty();
    }

    /** The keys that were asked for and are not there. */
    public Stream<Row> missing(Request request) {
        at.workplaces().beforeRequest();
        ResolvedRequest resolved = resolved(request);
        resolved.each().forEach(each -> at.visible().wants(each.table(), Act.LOOK));
        return at.store().missing(at.plans().plan(resolved, Detail.COUNTS, false), at.monitor(request));
    }

    /** The selected rows that are left out. */
    public Stream<SkippedRow> skipped(Request request) {
        at.workplaces().beforeRequest();
        ResolvedRequest resolved = resolved(request);
        resolved.each().forEach(each -> at.visible().wants(each.table(), Act.LOOK));
        return at.store().skipped(at.plans().plan(resolved, Detail.SHOWN, true), at.monitor(request));
    }

    /** What stands against carrying out what was shown, as it is now; null if nothing does. */
    public @Nullable Outcome objection(Preview preview, @Nullable Answer answer) {
        if (answer == null) {
            wantsWaiver(preview.request());
        } else {
            wantsOf(preview, answer);
        }
        Outcome standing = Consent.standing(preview);
        if (standing != null) {
            return standing;
        }
        Consent consent = answer == null ? Consent.shown(preview) : Consent.answered(answer, preview);
        Preview now;
        try {
            now = preview(resolver().resolve(preview.request()));
        } catch (NothingLeftException gone) {
            return new Outcome.Changed(List.of(String.valueOf(gone.getMessage())));
        }
        Outcome objection = consent.objection(now);
        String refusal = objection == null ? refusal(now) : null;
        return refusal == null ? objection : new Outcome.Refused(now, refusal);
    }

    private static void wantsOf(Preview preview, Answer answer) {
        if (!answer.fingerprint().equals(preview.fingerprint())) {
            throw new MisuseException(
                    "The answer belongs to another preview than the one it is given with.",
                    "Answer the question of the preview that is executed.");
        }
    }

    /** Executes what was shown, by an answer to its question. */
    public Outcome execute(Preview preview, Answer answer) {
        wantsOf(preview, answer);
        return once(preview.request(), () -> executeShown(preview, Consent.answered(answer, preview)));
    }

    /** Executes what was shown, as far as the request waives the question. */
    public Outcome execute(Preview preview) {
        wantsWaiver(preview.request());
        return once(preview.request(), () -> executeShown(preview, Consent.shown(preview)));
    }

    /** Executes a request by an answer to an earlier preview of it. */
    public Outcome execute(Request request, Answer answer) {
        Consent consent = Consent.answered(answer, null);
        return once(request, () -> ifStillThere(request, resolved -> execute(resolved, consent)));
    }

    /** Executes a request by an answer that somebody else has given to a preview of it. */
    public Outcome approve(Request request, Answer answer, String approver) {
        Consent consent = Consent.approved(answer, approver);
        return once(request, () -> ifStillThere(request, resolved -> execute(resolved, consent)));
    }

    /** The same on the account of somebody else, in the scope of the one who asks. */
    public RequestExecutor onAccountOf(String actor) {
        Settings settings = new Settings(at.settings());
        settings.actor = () -> actor;
        settings.onBehalfOf = () -> null;
        return new RequestExecutor(at.with(settings));
    }

    /** Executes a request that nobody is asked about. */
    public Outcome execute(Request request) {
        wantsWaiver(request);
        return once(request, () -> execute(resolved(request), Consent.OF_THE_REQUEST));
    }

    private Outcome executeShown(Preview preview, Consent consent) {
        Outcome standing = Consent.standing(preview);
        return ifStillThere(
                preview.request(),
                resolved -> standing == null ? execute(resolved, consent) : ended(resolved, consent, standing));
    }

    /** Why the actor may not carry out what a preview shows; null if it may. */
    public @Nullable String refusal(Preview preview) {
        ResolvedRequest resolved = resolved(preview.request());
        PreviewFactory previews = previews(resolved);
        String forbidden = previews.forbidden(Act.of(resolved.operation()));
        return forbidden != null ? forbidden : previews.forbidden(preview.impact());
    }

    /** Why the actor may not do this to the selected table of a request, or null; also where nothing is left of it. */
    public @Nullable String refusal(Request request, Act act) {
        try {
            return previews(resolver().resolve(request)).forbidden(act);
        } catch (NothingLeftException gone) {
            return null;
        } catch (MisuseException closedOrGone) {
            return closedOrGone.getMessage();
        }
    }

    /** What a request's identity stands for already; null where it is new. */
    public Outcome.@Nullable Done repeated(Request request) {
        return new RequestIdentity(at.store().archive(), at.visible()).repeated(request);
    }

    /** Notes that somebody who was asked about a request said no, without looking at its rows once more. */
    public Outcome decline(Request request, Question question, String typed) {
        return ifStillThere(request, resolved -> {
            Preview preview = previews(resolved).declined(question);
            Consent consent = Consent.answered(question.answer(typed), preview);
            return ended(resolved, consent, new Outcome.Declined(preview));
        });
    }

    /** What was shown and is nothing any more has changed. */
    private Outcome ifStillThere(Request request, Function<ResolvedRequest, Outcome> executing) {
        try {
            return executing.apply(resolver().resolve(request));
        } catch (NothingLeftException gone) {
            Outcome changed = new Outcome.Changed(List.of(String.valueOf(gone.getMessage())));
            return at.publisher().publish(at.settings(), request, changed, () -> null);
        }
    }

    /** What the request's identity has been used for already is not done again. */
    private Outcome once(Request request, Supplier<Outcome> executing) {
        at.workplaces().wantsWritable();
        at.workplaces().beforeRequest();
        Outcome.Done before = repeated(request);
        return before == null
                ? at.workplaces().afterRequest(executing.get(), at::rules)
                : at.publisher().publish(at.settings(), request, before, () -> null);
    }

    private static void wantsWaiver(Request request) {
        boolean waives =
                request.limits().expect() != null || request.acceptedUnasked() || request.withoutConfirmation() != null;
        if (!waives) {
            throw new MisuseException(
                    "Confirmation is required, and none was given for the request to " + request + ".",
                    "Preview it and give the answer, or say expect(rows) or withoutConfirmation(why) on the request.");
        }
    }

    private Outcome execute(ResolvedRequest resolved, Consent consent) {
        Outcome outcome = new Execution(at, previews(resolved), consent).outcome();
        return outcome == null ? executeAnew(resolved, consent) : ended(resolved, consent, outcome);
    }

    /** The schema has been altered since it was read: everything is resolved and compiled anew, once. */
    private Outcome executeAnew(ResolvedRequest before, Consent consent) {
        ResolvedRequest resolved;
        try {
            resolved = resolver().resolve(before.request());
        } catch (NothingLeftException gone) {
            return ended(before, consent, new Outcome.Changed(List.of(String.valueOf(gone.getMessage()))));
        }
        Outcome outcome = new Execution(at, previews(resolved), consent).outcome();
        return ended(
                resolved,
                consent,
                outcome == null
                        ? new Outcome.Changed(List.of("The tables of the database are being altered."))
                        : outcome);
    }

    private Outcome ended(ResolvedRequest resolved, Consent consent, Outcome outcome) {
        return at.publisher().publish(at.settings(), resolved.request(), outcome, () -> at.entries()
                .stopped(resolved, consent, outcome, at.settings().clock.instant()));
    }

    private PreviewFactory previews(ResolvedRequest resolved) {
        AccessRights visible = at.visible();
        resolved.each().forEach(each -> visible.wantsOpen(each.table()));
        boolean scoped = visible.condition(resolved.table()) != null;
        SaveTarget target = at.settings().saveTarget;
        String savedTo = target == null ? null : target.name();
        return new PreviewFactory(resolved, at.actor(), scoped, at.rules(), at.settings().permission, savedTo);
    }

    private ResolvedRequest resolved(Request request) {
        try {
            return resolver().resolve(request);
        } catch (NothingLeftException nothing) {
            throw new MisuseException(String.valueOf(nothing.getMessage()), nothing.hint());
        }
    }

    private RequestResolver resolver() {
        return new RequestResolver(
                at.rules(),
                at.store(),
                at.visible(),
                at.monitor(),
                at.settings().clock,
                marked -> at.plans().alone(marked),
                schema -> ResolvedRules.check(at.settings().rules, schema).problems().stream()
                        .filter(Problem::error)
                        .toList());
    }
}
