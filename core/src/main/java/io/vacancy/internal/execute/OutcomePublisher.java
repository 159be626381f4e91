// SPDX-License-Identifier: Apache-2.0
package io.vacancy.internal.execute;

import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.failure.BusyException;
import io.vacancy.internal.audit.AnchoredChain;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import io.vacancy.spi.CallerTransaction.Completion;
import io.vacancy.spi.Store;
import io.vacancy.trail.TrailEntry;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.List;
import java.util.Queue;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What follows an outcome: files get their names, entries are sealed, listeners hear of it, the trail is told of what was
 * not done. Nothing that fails after a commit changes the outcome: it is logged, told to the listener, and becomes a
 * warning.
 */
public abstract class OutcomePublisher {

    private static final Logger LOG = LoggerFactory.getLogger(OutcomePublisher.class);

    /**
     * A request ended.
     *
     * @param entry what the trail is told of what was not done; null where it is told nothing
     * @return the outcome, with what failed after a commit
     */
    public abstract Outcome publish(
            Settings settings, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry);

    /** Something was written to the trail, and committed as far as it is for us to say. */
    public abstract void written();

    /**
     * The caller's transaction is over.
     *
     * @return what failed after the commit, a sentence each
     */
    public abstract List<String> settled(Completion completion);

    /** One thing that is done after a commit. */
    private record Step(String what, Runnable run) {}

    /** Everything that follows a commit, in order; each is tried whatever becomes of the others. */
    static Outcome.Done afterCommit(Settings settings, Request request, Outcome.Done done, @Nullable Runnable sealing) {
        List<Step> steps = new ArrayList<>();
        SaveTarget target = done.repeated() ? null : settings.saveTarget;
        RowHandler handler = done.repeated() ? null : settings.rowHandler;
        if (target != null) {
            steps.add(new Step("the saved copy was not completed", target::committed));
        }
        if (handler != null) {
            steps.add(new Step("the handed-over rows were not completed", handler::committed));
        }
        if (sealing != null) {
            steps.add(new Step("the audit history was not sealed", sealing));
        }
        Outcome.Done now = done;
        for (String earlier : done.warnings()) {
            tell(settings, request, now, earlier);
        }
        for (Step step : steps) {
            String failed = failure(step);
            if (failed != null) {
                now = now.warning(List.of(failed));
                tell(settings, request, now, failed);
            }
        }
        String failed = failure(ended(settings, request, now));
        return failed == null ? now : now.warning(List.of(failed));
    }

    private static Step ended(Settings settings, Request request, Outcome outcome) {
        return new Step("a listener failed", () -> settings.listener.ended(request, outcome));
    }

    private static @Nullable String failure(Step step) {
        try {
            step.run().run();
            return null;
        } catch (RuntimeException | Error failed) {
            LOG.warn("after the commit: {}", step.what(), failed);
            String message = failed.getMessage() == null ? failed.getClass().getSimpleName() : failed.getMessage();
            return "Committed, but " + step.what() + ": " + message + (message.endsWith(".") ? "" : ".");
        }
    }

    private static void tell(Settings settings, Request request, Outcome.Done done, String warning) {
        try {
            settings.listener.afterCommitFailed(request, done.receipt(), warning);
        } catch (RuntimeException | Error failed) {
            LOG.warn("committed; a listener failed on being told: {}", warning, failed);
        }
    }

    /** After transactions of Vacancy's own. */
    public static final class Own extends OutcomePublisher {

        private final Store store;
        private final AnchoredChain sealing;
        private final Clock clock;
        private final long every;
        private final AtomicReference<@Nullable Long> sealed = new AtomicReference<>();

        public Own(Store store, AnchoredChain sealing, Clock clock, Duration every) {
            this.store = store;
            this.sealing = sealing;
            this.clock = clock;
            this.every = every.toNanos();
        }

        @Override
        public Outcome publish(
                Settings settings, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry) {
            if (outcome instanceof Outcome.Done done) {
                return afterCommit(settings, request, done, this::sealIfSetUp);
            }
            if (outcome instanceof Outcome.InDoubt) {
                // It may be committed, so nothing that fails now may take the place of saying so.
                failure(ended(settings, request, outcome));
                return outcome;
            }
            TrailEntry stopped = store.archive().ready() ? entry.get() : null;
            if (stopped != null) {
                store.trail().write(stopped);
                written();
            }
            settings.listener.ended(request, outcome);
            return outcome;
        }

        private void sealIfSetUp() {
            if (store.archive().ready()) {
                seal();
            }
        }

        @Override
        public void written() {
            failure(new Step("the audit history was not sealed", this::seal));
        }

        /** On the thread that did it, but once in a while only, so that writers do not wait for one another. */
        private void seal() {
            Long last = sealed.get();
            long now = System.nanoTime();
            if ((last == null || now - last >= every) && sealed.compareAndSet(last, now)) {
                try {
                    sealing.seal(store.trail(), clock.instant());
                } catch (BusyException later) {
                    LOG.debug("the audit history is sealed by somebody else: {}", later.getMessage());
                }
            }
        }

        @Override
        public List<String> settled(Completion completion) {
            return List.of();
        }
    }

    /** On a caller's connection, for one thread: what was done is told once it is committed. */
    public static final class Callers extends OutcomePublisher {

        private final Store store;
        private final Queue<Finished> done = new ArrayDeque<>();

        public Callers(Store store) {
            this.store = store;
        }

        @Override
        public Outcome publish(
                Settings settings, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry) {
            if (outcome instanceof Outcome.Done finished) {
                done.add(new Finished(settings, request, finished));
                return outcome;
            }
            TrailEntry stopped = store.archive().ready() ? entry.get() : null;
            if (stopped != null) {
                settings.listener.entryNotWritten(stopped);
            }
            settings.listener.ended(request, outcome);
            return outcome;
        }

        @Override
        public void written() {}

        @Override
        public List<String> settled(Completion completion) {
            List<String> warnings = new ArrayList<>();
            while (!done.isEmpty()) {
                Finished next = done.remove();
                switch (completion) {
                    case COMMITTED ->
                        warnings.addAll(afterCommit(next.settings(), next.request(), next.outcome(), null)
                                .warnings());
                    case ROLLED_BACK -> {}
                    case UNKNOWN -> {
                        ReceiptId receipt = next.outcome().receipt().id();
                        Outcome.InDoubt unknown = new Outcome.InDoubt(
                                receipt, "Look for the receipt " + receipt + " before trying again.");
                        failure(ended(next.settings(), next.request(), unknown));
                    }
                }
            }
            return warnings;
        }
    }

    /** What is told once it is committed. */
    private record Finished(Settings settings, Request request, Outcome.Done outcome) {}
}
