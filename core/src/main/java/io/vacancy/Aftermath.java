package io.vacancy;

import io.vacancy.failure.BusyException;
import io.vacancy.failure.VacancyException;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import io.vacancy.store.Store;
import io.vacancy.trail.Chain;
import io.vacancy.trail.TrailEntry;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Queue;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** What follows an outcome: listeners hear of it, the trail is told of what did not come about, entries are sealed. */
abstract class Aftermath {

    /**
     * A request ended.
     *
     * @param entry what the trail is told of what did not come about; null for what was done, or needs no entry
     */
    abstract void ended(Listener listener, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry);

    /** Something was written to the trail, and committed as far as it is for us to say. */
    abstract void written();

    /** The caller's transaction was committed, or was not. */
    abstract void settled(boolean committed);

    /** After transactions of Vacancy's own. */
    static final class Own extends Aftermath {

        private static final Logger LOG = LoggerFactory.getLogger(Own.class);

        private final Store store;
        private final Chain chain;
        private final Clock clock;
        private final long every;
        private final AtomicReference<@Nullable Long> sealed = new AtomicReference<>();

        Own(Store store, Chain chain, Clock clock, Duration every) {
            this.store = store;
            this.chain = chain;
            this.clock = clock;
            this.every = every.toNanos();
        }

        @Override
        void ended(Listener listener, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry) {
            if (store.archive().ready()) {
                TrailEntry stopped = outcome instanceof Outcome.Done ? null : entry.get();
                if (stopped != null) {
                    store.trail().write(stopped);
                }
                if (stopped != null || outcome instanceof Outcome.Done) {
                    written();
                }
            }
            listener.ended(request, outcome);
        }

        /** On the thread that did it, but once in a while only, so that writers do not stand in a queue. */
        @Override
        void written() {
            Long last = sealed.get();
            long now = System.nanoTime();
            if ((last == null || now - last >= every) && sealed.compareAndSet(last, now)) {
                try {
                    store.trail().seal(chain, clock.instant());
                } catch (BusyException later) {
                    LOG.debug("the trail is sealed by somebody else: {}", later.getMessage());
                } catch (VacancyException failed) {
                    // What was done is done; whoever verifies the trail is told.
                    LOG.warn("the trail was not sealed: {}", failed.getMessage());
                }
            }
        }

        @Override
        void settled(boolean committed) {}
    }

    /** On a caller's connection, for one thread: what was done is told once it is committed. */
    static final class Callers extends Aftermath {

        private final Store store;
        private final Queue<Runnable> done = new ArrayDeque<>();

        Callers(Store store) {
            this.store = store;
        }

        @Override
        void ended(Listener listener, Request request, Outcome outcome, Supplier<@Nullable TrailEntry> entry) {
            if (outcome instanceof Outcome.Done) {
                done.add(() -> listener.ended(request, outcome));
                return;
            }
            TrailEntry stopped = store.archive().ready() ? entry.get() : null;
            if (stopped != null) {
                listener.unwritten(stopped);
            }
            listener.ended(request, outcome);
        }

        @Override
        void written() {}

        @Override
        void settled(boolean committed) {
            while (!done.isEmpty()) {
                Runnable next = done.remove();
                if (committed) {
                    next.run();
                }
            }
        }
    }
}
