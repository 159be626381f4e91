// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.notice;

import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;

/** Tells the log: what failed as a warning, all else as information. */
public final class LogNotifier implements Notifier {

    private static final Logger LOG = LoggerFactory.getLogger(LogNotifier.class);

    @Override
    public void ended(Job job) {
        if (job.state() == JobState.FAILED) {
            LOG.warn(job.message());
        } else {
            LOG.info(job.message());
        }
    }

    @Override
    public String toString() {
        return "the log";
    }
}
