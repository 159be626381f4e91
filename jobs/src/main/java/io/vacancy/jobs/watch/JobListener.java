// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.watch;

/** Hears how jobs stand, on the node that works on them and on its threads. What it throws is logged. */
@FunctionalInterface
public interface JobListener {

    /** A job began, committed a batch, waits, or ended. */
    void changed(Job job);
}
