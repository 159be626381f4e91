// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.meters;

import io.micrometer.core.instrument.Counter;
import io.micrometer.core.instrument.Gauge;
import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.Timer;
import io.micrometer.core.instrument.binder.MeterBinder;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Supplier;
import java.util.function.ToDoubleFunction;

/**
 * Figures of jobs. As a {@link Notifier} it counts runs that this node has ended ({@code vacancy.jobs.runs} by state,
 * {@code vacancy.jobs.worked}); bound to a registry it tells how jobs stand now, on all nodes ({@code vacancy.jobs} by state;
 * of those under way {@code vacancy.jobs.selected}, {@code vacancy.jobs.handled}, {@code vacancy.jobs.rows} and
 * {@code vacancy.jobs.rate}, rows a second). The database is asked every five seconds at most. For any thread.
 */
public final class JobMeters implements MeterBinder, Notifier {

    private static final long LOOKED_AGAIN_NANOS = 5_000_000_000L;

    private final Supplier<List<Job>> looks;
    private final List<MeterRegistry> registries = new CopyOnWriteArrayList<>();
    private List<Job> last = List.of();
    private long lookedAt = System.nanoTime() - LOOKED_AGAIN_NANOS;

    /** @param jobs how all jobs stand, such as {@code () -> jobs.list()} */
    public JobMeters(Supplier<List<Job>> jobs) {
        this.looks = Objects.requireNonNull(jobs, "jobs");
    }

    @Override
    public void bindTo(MeterRegistry registry) {
        registries.add(registry);
        for (JobState state : JobState.values()) {
            Gauge.builder("vacancy.jobs", () -> sum(job -> job.state() == state ? 1 : 0))
                    .description("Jobs in this state, of those that are kept")
                    .tag("state", state.word().toLowerCase(Locale.ROOT))
                    .register(registry);
        }
        underWay(registry, "selected", "Rows that jobs under way select", JobMeters::selected);
        underWay(registry, "handled", "Selected rows that jobs under way have dealt with", job -> job.progress()
                .handled());
        underWay(
                registry,
                "rows",
                "Rows that jobs under way have removed or changed in all tables",
                job -> job.progress().rows());
        underWay(registry, "rate", "Rows a second of jobs under way", job -> job.progress()
                .rate());
    }

    private static double selected(Job job) {
        Long selected = job.progress().selected();
        return selected == null ? 0 : selected;
    }

    private void underWay(MeterRegistry registry, String name, String description, ToDoubleFunction<Job> figure) {
        Gauge.builder(
                        "vacancy.jobs." + name,
                        () -> sum(job -> job.state() == JobState.RUNNING ? figure.applyAsDouble(job) : 0))
                .description(description)
                .register(registry);
    }

    private synchronized double sum(ToDoubleFunction<Job> figure) {
        if (System.nanoTime() - lookedAt >= LOOKED_AGAIN_NANOS) {
            last = looks.get();
            lookedAt = System.nanoTime();
        }
        return last.stream().mapToDouble(figure).sum();
    }

    @Override
    public void ended(Job job) {
        String state = job.reason() == null ? job.state().word() : JobState.FAILED.word();
        for (MeterRegistry registry : registries) {
            Counter.builder("vacancy.jobs.runs")
                    .description("Runs of jobs that are over")
                    .tag("state", state)
                    .register(registry)
                    .increment();
            Timer.builder("vacancy.jobs.worked")
                    .description("How long runs of jobs have worked")
                    .register(registry)
                    .record(job.progress().worked());
        }
    }
}
