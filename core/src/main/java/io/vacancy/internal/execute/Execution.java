package io.vacancy.internal.execute;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.internal.audit.RedactedRequest;
import io.vacancy.internal.audit.TrailEntryFactory;
import io.vacancy.internal.compile.PlanFactory;
import io.vacancy.internal.judge.Consent;
import io.vacancy.internal.judge.PreviewFactory;
import io.vacancy.internal.resolve.NothingLeftException;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.question.Question;
import io.vacancy.request.Request;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Store;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RequestKey;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** One request on its way from the consent to its outcome. */
public final class Execution {

    private final Settings settings;
    private final Store store;
    private final Supplier<PlanFactory> plans;
    private final PreviewFactory previews;
    private final TrailEntryFactory entries;
    private final Consent consent;
    private final ResolvedRequest resolved;
    private final Request request;
    private final String actor;
    private final Instant at;
    private final ReceiptId id;
    private final RequestIdentity identity;
    private final @Nullable RequestKey key;

    public Execution(
            Settings settings,
            Store store,
            Supplier<PlanFactory> plans,
            PreviewFactory previews,
            TrailEntryFactory entries,
            String actor,
            Consent consent) {
        this.settings = settings;
        this.store = store;
        this.plans = plans;
        this.previews = previews;
        this.entries = entries;
        this.actor = actor;
        this.consent = consent;
        this.resolved = previews.resolved();
        this.request = resolved.request();
        ReceiptId continued = settings.continued;
        // As precisely as databases keep it.
        this.at = settings.clock.instant().truncatedTo(ChronoUnit.MICROS);
        this.id = continued == null ? ReceiptId.next(at) : continued;
        this.identity = new RequestIdentity(store.archive(), actor);
        this.key = identity.key(request);
    }

    /**
     * Carries it out.
     *
     * @param anew resolves the request again, after the database's tables were altered
     */
    public Outcome outcome(Supplier<ResolvedRequest> anew) {
        String refusal = previews.forbidden(Act.of(resolved.operation()));
        if (refusal != null) {
            return new Outcome.Refused(previews.withheld(refusal), refusal);
        }
        Store.ExecutionCallback callback = new Callback();
        Store.Ending ending = store.execute(plan(resolved), callback);
        if (ending instanceof Store.Ending.Outdated) {
            // The schema has been altered since it was read: compile anew, once.
            try {
                ending = store.execute(plan(anew.get()), callback);
            } catch (NothingLeftException gone) {
                return new Outcome.Changed(List.of(String.valueOf(gone.getMessage())));
            }
        }
        if (ending instanceof Store.Ending.Committed committed) {
            return new Outcome.Done(receipt(committed.found()), committed.warnings(), false);
        }
        if (ending instanceof Store.Ending.Stopped stopped) {
            return stopped.outcome();
        }
        if (ending instanceof Store.Ending.InDoubt doubt) {
            return new Outcome.InDoubt(id, doubt.detail());
        }
        if (ending instanceof Store.Ending.KeyUsed) {
            Outcome before = identity.repeated(request);
            return before != null
                    ? before
                    : new Outcome.Busy(null, "the same request is being executed, or has just ended.");
        }
        return new Outcome.Changed(List.of(
                ending instanceof Store.Ending.ConcurrentChange changed
                        ? changed.detail()
                        : "The tables of the database are being altered."));
    }

    private ExecutionPlan plan(ResolvedRequest of) {
        return plans.get().plan(of, consent.compares(), request.withoutConfirmation() == null, id, at, key);
    }

    /** What the store asks while it is at it. */
    private final class Callback implements Store.ExecutionCallback {

        private @Nullable Question question;

        @Override
        public @Nullable Outcome objection(Impact found) {
            Preview now = previews.judge(found);
            question = now.question();
            Outcome objection = consent.objection(now);
            String forbidden = objection == null ? previews.forbidden(found) : null;
            return forbidden == null ? objection : new Outcome.Refused(previews.withheld(forbidden), forbidden);
        }

        @Override
        public void retrying(int attempt, String why) {
            settings.listener.retried(request, attempt, why);
        }

        @Override
        public void progress(Progress progress) {
            settings.listener.progress(request, progress);
        }

        @Override
        public @Nullable Cancellation cancellation() {
            return settings.cancellation;
        }

        @Override
        public @Nullable SaveTarget saveTarget() {
            return settings.saveTarget;
        }

        @Override
        public @Nullable RowHandler rowHandler() {
            return settings.rowHandler;
        }

        @Override
        public Receipt receipt(Impact found) {
            return new RedactedRequest(entries.redactor(), resolved, found).receipt(Execution.this.receipt(found));
        }

        @Override
        public TrailEntry entry(Impact found, List<AffectedKeys> affected, int part) {
            return entries.done(resolved, consent, question, Execution.this.receipt(found), found, affected, part);
        }

        @Override
        public int keysTold() {
            return entries.mostKeys();
        }

        @Override
        public @Nullable String outbox() {
            return entries.rules().outbox();
        }
    }

    private Receipt receipt(Impact found) {
        return Receipt.of(new Receipt.Data(
                id,
                resolved.table().name(),
                resolved.operation(),
                actor,
                at,
                request.reason(),
                request.withoutConfirmation(),
                request.deletion(),
                request.rules(),
                found.skipped(),
                found.records(),
                found.effects(),
                found.totals(),
                found.warnings(),
                found.archived(),
                found.activeCounts()));
    }
}
