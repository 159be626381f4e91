// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import static io.vacancy.jobs.internal.store.Statements.query;
import static io.vacancy.jobs.internal.store.Statements.update;

import io.vacancy.jdbc.spi.OwnTableAccess;
import io.vacancy.jobs.internal.store.KeptLane.State;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Instant;
import java.util.List;

/** Rows that say when lanes are picked up, inside a transaction. */
final class ScheduleRows {

    private final OwnTableAccess own;

    ScheduleRows(OwnTableAccess own) {
        this.own = own;
    }

    /** Has a lane picked up at a time, or earlier than it would be. */
    void schedule(Connection connection, String job, int lane, Instant at) throws SQLException {
        String instance = KeptLane.instance(job, lane);
        List<Boolean> there = query(
                connection,
                "SELECT picked FROM " + own.name("job_schedule") + " WHERE task_name = ? AND task_instance = ?",
                row -> row.getBoolean(1),
                JobTables.TASK,
                instance);
        if (there.isEmpty()) {
            update(
                    connection,
                    "INSERT INTO " + own.name("job_schedule")
                            + " (task_name, task_instance, execution_time, picked, version) VALUES (?, ?, ?, ?, 1)",
                    JobTables.TASK,
                    instance,
                    at.toEpochMilli(),
                    false);
        } else if (!there.get(0)) {
            update(
                    connection,
                    "UPDATE " + own.name("job_schedule") + " SET execution_time = ?, version = version + 1"
                            + " WHERE task_name = ? AND task_instance = ? AND picked = ?",
                    at.toEpochMilli(),
                    JobTables.TASK,
                    instance,
                    false);
        }
    }

    void wake(Connection connection, String job, Instant at) throws SQLException {
        List<Integer> open = query(
                connection,
                "SELECT lane FROM " + own.name("job_lane") + " WHERE job = ? AND state <> ?",
                row -> row.getInt(1),
                job,
                State.OVER);
        for (int lane : open) {
            schedule(connection, job, lane, at);
        }
    }
}
