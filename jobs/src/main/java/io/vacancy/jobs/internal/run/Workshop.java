// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.access.Caller;
import io.vacancy.access.Scope;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.pace.LoadProbe;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobListener;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import io.vacancy.trail.OutboxEvent;
import java.time.Clock;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import java.util.function.Consumer;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/**
 * What a node has to carry out jobs with.
 *
 * @param scopes what whoever ordered a job may see and touch
 * @param events takes the events of the outbox; null where this node passes none on
 * @param node what this node is called
 * @param closing whether the node is being closed, so that nothing new is begun
 */
public record Workshop(
        Vacancy vacancy,
        JobTables tables,
        Clock clock,
        Function<Job, Scope> scopes,
        List<LoadProbe> probes,
        List<JobListener> listeners,
        List<Notifier> notifiers,
        @Nullable Consumer<OutboxEvent> events,
        String node,
        BooleanSupplier closing) {

    private static final Logger LOG = LoggerFactory.getLogger(Workshop.class);

    /** The time, as precisely as it is kept. */
    public Instant now() {
        return Instant.ofEpochMilli(clock.millis());
    }

    /** A job as it stands. */
    public Job look(KeptJob job) {
        return JobView.of(tables, job);
    }

    /**
     * Works on the account of whoever ordered it, in the scope of then.
     *
     * @throws JobEndedException if the scope is another one by now
     */
    Vacancy onAccountOf(KeptJob job) {
        Scope scope = scopes.apply(look(job));
        if (!ScopeText.of(vacancy.schema(), scope).equals(job.scopes())) {
            throw new JobEndedException(
                    "It was ordered in another scope than the one that this node gives it. Have Jobs.Builder.scope(…) make"
                            + " the scope from the context of the order.");
        }
        Map<String, String> origin = new HashMap<>(job.account().origin());
        origin.put("job", job.name());
        return vacancy.calledBy(new Caller(job.actor(), job.account().onBehalfOf(), origin, scope));
    }

    /** Has a job wait for its window; null while that is open. */
    @Nullable
    Next waiting(String name, Window window) {
        Instant now = clock.instant();
        Instant opens = window.opens(now);
        if (!opens.isAfter(now)) {
            return null;
        }
        tables.stand(name, JobState.WAITING, opens);
        tell(name);
        return new Next.Later(opens);
    }

    /** Tells how a job stands. */
    void tell(String name) {
        if (listeners.isEmpty()) {
            return;
        }
        try {
            KeptJob job = tables.find(name);
            if (job != null) {
                Job look = look(job);
                listeners.forEach(listener -> listener.changed(look));
            }
        } catch (RuntimeException failed) {
            LOG.warn("a listener of job {} failed", name, failed);
        }
    }

    /** Tells whoever is to be told that a run is over. */
    void notify(Job ended) {
        for (Notifier notifier : notifiers) {
            try {
                notifier.ended(ended);
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                return;
            } catch (Exception failed) {
                LOG.warn("nobody was told by {} that job {} is over", notifier, ended.name(), failed);
            }
        }
    }
}
