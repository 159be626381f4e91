// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.Vacancy;
import io.vacancy.access.Caller;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.order.JobOrder.Upkeep;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.watch.Job;
import java.time.ZoneId;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** Has upkeep recur as the configuration says, on one of the nodes, whichever of them starts first. */
record UpkeepSchedules(Jobs jobs, Map<Upkeep, Recurrence> wanted) {

    private static final String UPKEEP = "application-upkeep";

    /**
     * @param opening opens jobs that are ordered by the application itself, since at start-up there is no user
     * @param name what the application is called
     */
    static UpkeepSchedules of(
            VacancyProperties.Jobs properties, Vacancy vacancy, String name, Function<Vacancy, Jobs> opening) {
        Map<Upkeep, Recurrence> wanted = new EnumMap<>(Upkeep.class);
        put(wanted, Upkeep.PURGE_DUE, properties.purgeDue());
        put(wanted, Upkeep.SEAL, properties.seal());
        put(wanted, Upkeep.PASS_ON, properties.passOn());
        return new UpkeepSchedules(opening.apply(vacancy.calledBy(Caller.of(name))), wanted);
    }

    private static void put(Map<Upkeep, Recurrence> wanted, Upkeep upkeep, @Nullable String every) {
        if (every != null && !every.isBlank()) {
            wanted.put(upkeep, Recurrence.read(every, ZoneId.systemDefault()));
        }
    }

    /** Orders what is not ordered yet; another recurrence takes the place of an earlier one, and none ends it. */
    void apply() {
        for (Upkeep upkeep : Upkeep.values()) {
            Recurrence every = wanted.get(upkeep);
            boolean there = false;
            for (Job job : ordered(upkeep)) {
                if (!there && every != null && every.equals(job.settings().every())) {
                    there = true;
                } else {
                    jobs.cancel(job.name());
                }
            }
            if (every != null && !there) {
                order(upkeep, every);
            }
        }
    }

    private void order(Upkeep upkeep, Recurrence every) {
        Job mine = jobs.submit(JobOrder.of(upkeep)
                        .named("application-" + upkeep.word())
                        .context(Map.of(UPKEEP, upkeep.word()))
                        .every(every))
                .jobOrThrow();
        // Of several nodes that start at the same time, the job of one stays.
        boolean first = ordered(upkeep).get(0).name().equals(mine.name());
        if (!first) {
            jobs.cancel(mine.name());
        }
    }

    private List<Job> ordered(Upkeep upkeep) {
        return jobs.list().stream()
                .filter(job -> !job.state().over()
                        && upkeep.word().equals(job.settings().context().get(UPKEEP)))
                .sorted(Comparator.comparing(Job::submittedAt).thenComparing(Job::name))
                .toList();
    }
}
