// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.pace;

import org.jspecify.annotations.Nullable;

/** Tells a job to hold on while something else needs the machine, such as replicas that lag. Serves all threads. */
@FunctionalInterface
public interface LoadProbe {

    /**
     * Why the next batch should wait, in a few words, or null if it need not. Asked before every batch, and while it
     * waits; what it throws counts as a reason to wait.
     */
    @Nullable
    String reasonToWait() throws Exception;
}
