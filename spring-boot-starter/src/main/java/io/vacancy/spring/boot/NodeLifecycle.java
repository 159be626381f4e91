// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.jobs.Jobs;
import org.springframework.context.SmartLifecycle;

/** Has this process carry out jobs from when the application is up until it goes down. */
final class NodeLifecycle implements SmartLifecycle {

    private final Jobs jobs;
    private final OwnTablesMode ownTables;
    private final UpkeepSchedules upkeep;
    private volatile boolean running;

    NodeLifecycle(Jobs jobs, OwnTablesMode ownTables, UpkeepSchedules upkeep) {
        this.upkeep = upkeep;
        this.jobs = jobs;
        this.ownTables = ownTables;
    }

    @Override
    public void start() {
        // Jobs are kept in Vacancy's own tables, so without these there are none.
        if (ownTables != OwnTablesMode.NEVER) {
            upkeep.apply();
            jobs.start();
            running = true;
        }
    }

    @Override
    public void stop() {
        jobs.close();
        running = false;
    }

    @Override
    public boolean isRunning() {
        return running;
    }
}
