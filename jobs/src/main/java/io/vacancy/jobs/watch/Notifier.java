// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

/** Tells people or systems that a run of a job is over. Serves all threads. */
@FunctionalInterface
public interface Notifier {

    /**
     * Called after the end is committed, on a thread of the node that worked last; what it throws is logged, and nothing
     * else depends on it.
     *
     * @param job with its recipients in its settings, which may be none
     */
    void ended(Job job) throws Exception;
}
