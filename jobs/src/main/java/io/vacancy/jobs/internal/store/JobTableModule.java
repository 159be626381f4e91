// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import io.vacancy.jdbc.spi.OwnTableModule;
import io.vacancy.jdbc.spi.OwnTableScript;
import java.util.List;

/** Jobs, their runs, what they select, and when they are picked up. */
public final class JobTableModule implements OwnTableModule {

    @Override
    public String name() {
        return "job";
    }

    @Override
    public int version() {
        return 1;
    }

    @Override
    public List<String> tables() {
        return List.of("job", "job_run", "job_lane", "job_chunk", "job_schedule");
    }

    @Override
    public List<String> upgrade(int from, OwnTableScript script) {
        return from < 1 ? first(script) : List.of();
    }

    private static List<String> first(OwnTableScript script) {
        String text = script.dialect().definitions().longText();
        return List.of(
                script.create(
                        "job",
                        "name VARCHAR(100) NOT NULL PRIMARY KEY",
                        "request_id VARCHAR(64) UNIQUE",
                        "request_digest VARCHAR(64)",
                        "title VARCHAR(255) NOT NULL",
                        "table_name VARCHAR(255)",
                        "request " + text + " NOT NULL",
                        "confirmed " + text + " NOT NULL",
                        "actor VARCHAR(255) NOT NULL",
                        "caller " + text + " NOT NULL",
                        "scopes " + text,
                        "rules_digest VARCHAR(140) NOT NULL",
                        "settings " + text + " NOT NULL",
                        "state VARCHAR(20) NOT NULL",
                        "wanted VARCHAR(20)",
                        "made_at VARCHAR(30) NOT NULL",
                        "due_at VARCHAR(30)",
                        "run INTEGER NOT NULL"),
                script.create(
                        "job_run",
                        "job VARCHAR(100) NOT NULL",
                        "run INTEGER NOT NULL",
                        "state VARCHAR(20) NOT NULL",
                        "receipt_id VARCHAR(64) NOT NULL",
                        "started_at VARCHAR(30)",
                        "ended_at VARCHAR(30)",
                        "selected BIGINT",
                        "expected BIGINT",
                        "reason " + text,
                        "progress " + text,
                        "PRIMARY KEY (job, run)"),
                script.index("job_run", "ended", "ended_at"),
                script.create(
                        "job_lane",
                        "job VARCHAR(100) NOT NULL",
                        "run INTEGER NOT NULL",
                        "lane INTEGER NOT NULL",
                        "state VARCHAR(20) NOT NULL",
                        "lease VARCHAR(64)",
                        "node VARCHAR(100)",
                        "pass INTEGER NOT NULL",
                        "chunk INTEGER NOT NULL",
                        "place INTEGER NOT NULL",
                        "deferred INTEGER NOT NULL",
                        "batches BIGINT NOT NULL",
                        "progress " + text,
                        "PRIMARY KEY (job, run, lane)"),
                script.create(
                        "job_chunk",
                        "job VARCHAR(100) NOT NULL",
                        "run INTEGER NOT NULL",
                        "pass INTEGER NOT NULL",
                        "chunk INTEGER NOT NULL",
                        "content " + text + " NOT NULL",
                        "PRIMARY KEY (job, run, pass, chunk)"),
                // The columns are those that the scheduler asks for; points in time are milliseconds since 1970.
                script.create(
                        "job_schedule",
                        "task_name VARCHAR(100) NOT NULL",
                        "task_instance VARCHAR(120) NOT NULL",
                        "task_data " + text,
                        "execution_time BIGINT NOT NULL",
                        "picked BOOLEAN NOT NULL",
                        "picked_by VARCHAR(50)",
                        "last_success BIGINT",
                        "last_failure BIGINT",
                        "consecutive_failures INTEGER",
                        "last_heartbeat BIGINT",
                        "version BIGINT NOT NULL",
                        "PRIMARY KEY (task_name, task_instance)"),
                script.index("job_schedule", "time", "execution_time"));
    }
}
