// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.PersonKeys;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.internal.audit.RedactedRequest;
import io.vacancy.internal.audit.TrailEntryFactory;
import io.vacancy.internal.compile.PlanFactory;
import io.vacancy.internal.judge.Consent;
import io.vacancy.internal.judge.PreviewFactory;
import io.vacancy.internal.resolve.ResolvedRequest;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.CommitStep;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Impact;
import io.vacancy.preview.Preview;
import io.vacancy.question.Question;
import io.vacancy.request.Request;
import io.vacancy.spi.AffectedKeys;
import io.vacancy.spi.Decision;
import io.vacancy.spi.ExecutionMonitor;
import io.vacancy.spi.Records;
import io.vacancy.spi.Store;
import io.vacancy.spi.plan.Detail;
import io.vacancy.spi.plan.ExecutionPlan;
import io.vacancy.spi.plan.RequestKey;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.Objects;
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
    private final Judge judge = new Judge();
    private final ExecutionMonitor follower = new Follower();

    Execution(Installation installation, PreviewFactory previews, Consent consent) {
        this.settings = installation.settings();
        this.store = installation.store();
        this.plans = installation::plans;
        this.previews = previews;
        this.entries = installation.entries();
        this.actor = installation.actor();
        this.consent = consent;
        this.resolved = previews.resolved();
        this.request = resolved.request();
        ReceiptId continued = settings.continued;
        // As precisely as databases keep it.
        this.at = settings.clock.instant().truncatedTo(ChronoUnit.MICROS);
        this.id = continued == null ? ReceiptId.next(at) : continued;
        this.identity = new RequestIdentity(store.archive(), installation.visible());
        this.key = identity.key(request);
    }

    /**
     * Carries it out.
     *
     * @return null if the database's tables are others than those that it was compiled for; nothing was done then
     */
    public @Nullable Outcome outcome() {
        String refusal = previews.forbidden(Act.of(resolved.operation()));
        if (refusal != null) {
            return new Outcome.Refused(previews.withheld(refusal), refusal);
        }
        Store.Ending ending = store.execute(plan(resolved), judge, follower);
        return ending instanceof Store.Ending.Outdated ? null : outcome(ending);
    }

    private Outcome outcome(Store.Ending ending) {
        if (ending instanceof Store.Ending.Committed committed) {
            return new Outcome.Done(receipt(committed.found()), committed.warnings(), false);
        }
        if (ending instanceof Store.Ending.Stopped) {
            return Objects.requireNonNull(judge.objection, "a store stops only where there is an objection");
        }
        if (ending instanceof Store.Ending.Busy busy) {
            return new Outcome.Busy(busy.table(), busy.detail());
        }
        if (ending instanceof Store.Ending.Refused refused) {
            return new Outcome.Refused(previews.withheld(refused.reason()), refused.reason());
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
        return new Outcome.Changed(List.of(((Store.Ending.ConcurrentChange) ending).detail()));
    }

    private ExecutionPlan plan(ResolvedRequest of) {
        Detail detail = consent.compares() ? Detail.COMPARED : Detail.COUNTS;
        return plans.get().plan(of, detail, request.withoutConfirmation() == null, id, at, key);
    }

    /** Judges what the store has found. */
    private final class Judge implements Decision {

        private @Nullable Question question;
        private @Nullable Outcome objection;

        @Override
        public boolean goAhead(Impact found) {
            Preview now = previews.judge(found);
            question = now.question();
            Outcome standing = consent.objection(now);
            String forbidden = standing == null ? previews.forbidden(found) : null;
            objection = forbidden == null ? standing : new Outcome.Refused(previews.withheld(forbidden), forbidden);
            return objection == null;
        }

        @Override
        public Records records(Impact found, List<AffectedKeys> affected, int part) {
            Receipt whole = receipt(found);
            return new Records(
                    new RedactedRequest(entries.redactor(), resolved, found).receipt(whole),
                    entries.done(resolved, consent, question, whole, found, affected, part),
                    entries.rules().outbox());
        }

        @Override
        public Records begun(Impact found, int part) {
            Impact nothingYet = found.toBuilder()
                    .effects(List.of(), Map.of())
                    .warnings(List.of("It was begun, and it is not known to have been carried out."))
                    .build();
            Receipt whole = receipt(nothingYet);
            return new Records(
                    new RedactedRequest(entries.redactor(), resolved, found).receipt(whole),
                    entries.begun(resolved, consent, question, whole, found, part),
                    null);
        }
    }

    /** Tells the application how it goes, and hands over what it wants. */
    private final class Follower implements ExecutionMonitor {

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
        public @Nullable PersonKeys personKeys() {
            return settings.personKeys;
        }

        @Override
        public @Nullable SaveTarget saveTarget() {
            return settings.saveTarget;
        }

        @Override
        public @Nullable BeforeCommit beforeCommit() {
            CommitStep step = settings.commitStep;
            return step == null ? null : (found, connection) -> step.run(receipt(found), connection);
        }

        @Override
        public @Nullable RowHandler rowHandler() {
            return settings.rowHandler;
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
                resolved.rules(),
                found.skipped(),
                found.records(),
                found.effects(),
                found.totals(),
                found.warnings(),
                found.archived(),
                found.activeCounts(),
                previews.savedTo(),
                found.selectedFrom(),
                found.definition()));
    }
}
