package io.vacancy;

import io.vacancy.access.Permission.Act;
import io.vacancy.archive.Saver;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Progress;
import io.vacancy.listener.RowTaker;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.outcome.ReceiptId;
import io.vacancy.preview.Findings;
import io.vacancy.preview.Preview;
import io.vacancy.program.Deletion;
import io.vacancy.request.Mode;
import io.vacancy.request.Request;
import io.vacancy.request.Selection;
import io.vacancy.schema.Table;
import io.vacancy.store.Store;
import io.vacancy.trail.Discreet;
import io.vacancy.trail.Touched;
import io.vacancy.trail.TrailEntry;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/** One request on its way from the agreement to its outcome. */
final class CarryingOut {

    private final Settings settings;
    private final Store store;
    private final Request request;
    private final Table table;
    private final Mode mode;
    private final Judging judging;
    private final Chronicle chronicle;
    private final Agreement agreement;
    private final Objector objector;
    private final Instant at;
    private final String id;

    CarryingOut(
            Settings settings,
            Store store,
            Request request,
            Judging judging,
            Chronicle chronicle,
            Agreement agreement,
            Objector objector) {
        this.settings = settings;
        this.store = store;
        this.request = request;
        this.table = judging.table();
        this.mode = judging.mode();
        this.judging = judging;
        this.chronicle = chronicle;
        this.agreement = agreement;
        this.objector = objector;
        String continued = request.continued();
        // As precisely as databases keep it.
        this.at = settings.clock.instant().truncatedTo(ChronoUnit.MICROS);
        this.id = continued == null ? ReceiptId.next(at) : continued;
    }

    /** Says what stands against something, or nothing. */
    interface Objector {
        @Nullable
        Outcome objection(Preview now);
    }

    /** When it is done. */
    Instant at() {
        return at;
    }

    /** The identifier of the receipt. */
    String id() {
        return id;
    }

    /**
     * Carries it out.
     *
     * @param compiled the deletion, compiled anew at each call
     * @param look a fresh preview
     */
    Outcome outcome(Supplier<Deletion> compiled, Supplier<Preview> look) {
        boolean unlinks = request.selection() instanceof Selection.Orphans orphans && orphans.setNull();
        String refusal = judging.forbidden(unlinks ? Act.CHANGE : Act.of(mode));
        if (refusal != null) {
            return new Outcome.Refused(judging.withheld(refusal), refusal);
        }
        Store.Approval approval = new Approving();
        Store.Ending ending = store.carryOut(compiled.get(), approval);
        if (ending instanceof Store.Ending.Outdated) {
            // The schema has been altered since it was read: compile anew, once.
            ending = store.carryOut(compiled.get(), approval);
        }
        if (ending instanceof Store.Ending.Removed removed) {
            return new Outcome.Done(receipt(removed.found()));
        }
        if (ending instanceof Store.Ending.Stopped stopped) {
            return stopped.outcome();
        }
        // The look inside the transaction is no longer true, so the outcome carries a fresh one.
        String detail = ending instanceof Store.Ending.Slipped slipped
                ? slipped.detail()
                : "The tables of the database are being altered.";
        return new Outcome.Changed(look.get(), List.of(detail));
    }

    /** What the store asks while it is at it. */
    private final class Approving implements Store.Approval {

        @Override
        public @Nullable Outcome objection(Findings found) {
            Outcome objection = objector.objection(judging.judge(found));
            String forbidden = objection == null ? judging.forbidden(found) : null;
            return forbidden == null ? objection : new Outcome.Refused(judging.withheld(forbidden), forbidden);
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
        public @Nullable Saver saver() {
            return settings.saver;
        }

        @Override
        public @Nullable RowTaker taker() {
            return settings.taker;
        }

        @Override
        public Receipt receipt(Findings found) {
            return new Discreet(chronicle.discretion(), request, table, found).receipt(CarryingOut.this.receipt(found));
        }

        @Override
        public TrailEntry entry(Findings found, List<Touched> touched, int part) {
            return chronicle.done(request, mode, agreement, CarryingOut.this.receipt(found), found, touched, part);
        }

        @Override
        public int keysTold() {
            return chronicle.mostKeys();
        }

        @Override
        public @Nullable String outbox() {
            return chronicle.rules().outbox();
        }
    }

    private Receipt receipt(Findings removed) {
        return new Receipt(
                id,
                table.name(),
                mode,
                judging.actor(),
                at,
                request.because(),
                request.unasked(),
                request.named(),
                request.rules(),
                removed.spared(),
                removed.records(),
                removed.effects(),
                removed.totals(),
                removed.warnings(),
                removed.kept(),
                removed.visibility());
    }
}
