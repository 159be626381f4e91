// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/**
 * Whether jobs get on.
 *
 * @param findings what is to be looked at, a sentence each; none where all is well
 * @param jobs how many there are in each state, of those that are kept
 */
public record JobHealth(List<String> findings, Map<JobState, Long> jobs) {

    public JobHealth {
        findings = List.copyOf(findings);
        jobs = Map.copyOf(jobs);
    }

    /** Whether there is nothing to be looked at. */
    public boolean sound() {
        return findings.isEmpty();
    }

    /**
     * Looks at all jobs.
     *
     * @param overdue how long after its time a job is late
     */
    public static JobHealth of(List<Job> jobs, Instant now, Duration overdue) {
        List<String> findings = new ArrayList<>();
        Map<JobState, Long> states = new TreeMap<>();
        for (Job job : jobs) {
            states.merge(job.state(), 1L, Long::sum);
            Instant due = job.dueAt();
            boolean waits = job.state() == JobState.SCHEDULED || job.state() == JobState.WAITING;
            if (waits && due != null && due.plus(overdue).isBefore(now)) {
                findings.add("Job " + job.name() + " was due at " + due + ", and no node has taken it up.");
            }
            String reason = job.reason();
            if (reason != null && job.state() != JobState.CANCELLED) {
                findings.add(what(job) + ": " + reason);
            }
        }
        return new JobHealth(findings, states);
    }

    private static String what(Job job) {
        return switch (job.state()) {
            case FAILED -> "Job " + job.name() + " failed";
            case WAITING -> "Job " + job.name() + " waits";
            default -> "The last run of job " + job.name() + " failed";
        };
    }

    /** Where nobody could tell. */
    public static JobHealth unknown(String why) {
        return new JobHealth(List.of("How jobs stand is not known: " + why), Map.of());
    }
}
