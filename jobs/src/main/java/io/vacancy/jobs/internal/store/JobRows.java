// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import static io.vacancy.jobs.internal.store.Statements.query;
import static io.vacancy.jobs.internal.store.Statements.update;

import io.vacancy.archive.ReceiptId;
import io.vacancy.jdbc.spi.OwnTableAccess;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptJob.Wanted;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.jobs.watch.JobState;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Rows of jobs and their runs, inside a transaction. */
final class JobRows {

    private final OwnTableAccess own;

    JobRows(OwnTableAccess own) {
        this.own = own;
    }

    void insertJob(Connection connection, KeptJob job) throws SQLException {
        update(
                connection,
                "INSERT INTO " + own.name("job")
                        + " (name, request_id, request_digest, title, table_name, request, confirmed, actor, caller, scopes,"
                        + " rules_digest, settings, state, made_at, due_at, run)"
                        + " VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
                job.name(),
                job.requestId(),
                job.requestDigest(),
                job.title(),
                job.table(),
                job.request(),
                job.confirmed(),
                job.actor(),
                Documents.written(job.account()),
                job.scopes(),
                job.rulesDigest(),
                Documents.written(job.settings()),
                job.state().word(),
                job.madeAt(),
                job.dueAt(),
                job.run());
    }

    void insertRun(Connection connection, String job, Run run) throws SQLException {
        update(
                connection,
                "INSERT INTO " + own.name("job_run")
                        + " (job, run, state, receipt_id, selected, expected) VALUES (?, ?, ?, ?, "
                        + literal(run.selected()) + ", " + literal(run.expected()) + ")",
                job,
                run.run(),
                run.state().word(),
                run.receipt());
    }

    static String literal(@Nullable Long number) {
        return number == null ? "NULL" : number.toString();
    }

    List<KeptJob> jobs(Connection connection, String which, @Nullable Object... values) throws SQLException {
        return query(
                connection,
                "SELECT name, request_id, request_digest, title, table_name, request, confirmed, actor, caller, scopes,"
                        + " rules_digest, settings, state, wanted, made_at, due_at, run FROM " + own.name("job") + " "
                        + which,
                JobRows::job,
                values);
    }

    static KeptJob job(ResultSet row) throws SQLException {
        String wanted = row.getString("wanted");
        return new KeptJob(
                row.getString("name"),
                row.getString("request_id"),
                row.getString("request_digest"),
                row.getString("title"),
                row.getString("table_name"),
                row.getString("request"),
                row.getString("confirmed"),
                row.getString("actor"),
                Documents.account(row.getString("caller")),
                Objects.requireNonNullElse(row.getString("scopes"), ""),
                row.getString("rules_digest"),
                Documents.settings(row.getString("settings")),
                state(row.getString("state")),
                wanted == null ? null : Wanted.valueOf(wanted),
                Objects.requireNonNull(Statements.time(row, "made_at")),
                Statements.time(row, "due_at"),
                row.getInt("run"));
    }

    static JobState state(String word) {
        for (JobState state : JobState.values()) {
            if (state.word().equals(word)) {
                return state;
            }
        }
        throw new IllegalStateException("a job is in a state that this program does not know: " + word);
    }

    List<Run> runs(Connection connection, String which, @Nullable Object... values) throws SQLException {
        return query(
                connection,
                "SELECT run, state, receipt_id, started_at, ended_at, selected, expected, reason FROM "
                        + own.name("job_run") + " " + which,
                row -> new Run(
                        row.getInt("run"),
                        state(row.getString("state")),
                        ReceiptId.of(row.getString("receipt_id")),
                        Statements.time(row, "started_at"),
                        Statements.time(row, "ended_at"),
                        Statements.number(row, "selected"),
                        Statements.number(row, "expected"),
                        row.getString("reason")),
                values);
    }

    JobProgress progress(Connection connection, String job, Run run) throws SQLException {
        List<JobProgress> ended = query(
                connection,
                "SELECT progress FROM " + own.name("job_run") + " WHERE job = ? AND run = ? AND progress IS NOT NULL",
                row -> Documents.progress(row.getString(1), run.selected(), run.expected()),
                job,
                run.run());
        return ended.isEmpty()
                ? query(
                                connection,
                                "SELECT progress FROM " + own.name("job_lane") + " WHERE job = ? AND run = ?",
                                row -> Documents.progress(row.getString(1), run.selected(), run.expected()),
                                job,
                                run.run())
                        .stream()
                        .reduce(Documents.progress(null, run.selected(), run.expected()), JobProgress::plus)
                : ended.get(0);
    }
}
