// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.store;

import static io.vacancy.jobs.internal.store.Statements.query;
import static io.vacancy.jobs.internal.store.Statements.update;

import io.vacancy.jdbc.spi.OwnTableAccess;
import io.vacancy.jobs.internal.store.KeptLane.State;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Rows of lanes, and of what a job selects, inside a transaction. */
final class LaneRows {

    private final OwnTableAccess own;

    LaneRows(OwnTableAccess own) {
        this.own = own;
    }

    /** A lane at its beginning: the first chunk that is its own has its number. */
    void insertLane(Connection connection, String job, int run, int lane) throws SQLException {
        update(
                connection,
                "INSERT INTO " + own.name("job_lane")
                        + " (job, run, lane, state, pass, chunk, place, deferred, batches) VALUES (?, ?, ?, ?, 1, ?, 0, 0, 0)",
                job,
                run,
                lane,
                State.OPEN,
                lane);
    }

    void insertChunks(Connection connection, String job, int run, @Nullable BufferedReader selected)
            throws SQLException {
        if (selected == null) {
            return;
        }
        try (PreparedStatement insert = connection.prepareStatement(insertChunk())) {
            int chunk = 0;
            List<String> lines = new ArrayList<>(JobTables.CHUNK);
            for (String line = selected.readLine(); line != null; line = selected.readLine()) {
                lines.add(line);
                if (lines.size() == JobTables.CHUNK) {
                    insertChunk(insert, job, run, chunk++, lines);
                }
            }
            if (!lines.isEmpty()) {
                insertChunk(insert, job, run, chunk, lines);
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    static void insertChunk(PreparedStatement insert, String job, int run, int chunk, List<String> lines)
            throws SQLException {
        insert.setString(1, job);
        insert.setInt(2, run);
        insert.setInt(3, 1);
        insert.setInt(4, chunk);
        insert.setString(5, String.join("\n", lines));
        insert.executeUpdate();
        lines.clear();
    }

    String insertChunk() {
        return "INSERT INTO " + own.name("job_chunk") + " (job, run, pass, chunk, content) VALUES (?, ?, ?, ?, ?)";
    }

    KeptLane lane(Connection connection, String job, int run, int lane) throws SQLException {
        return query(
                        connection,
                        "SELECT state, lease, pass, chunk, place, deferred, batches, progress FROM "
                                + own.name("job_lane") + " WHERE job = ? AND run = ? AND lane = ?",
                        row -> new KeptLane(
                                job,
                                run,
                                lane,
                                KeptLane.state(row.getString("state")),
                                String.valueOf(row.getString("lease")),
                                row.getInt("pass"),
                                row.getInt("chunk"),
                                row.getInt("place"),
                                row.getInt("deferred"),
                                row.getLong("batches"),
                                Documents.progress(row.getString("progress"), null, null)),
                        job,
                        run,
                        lane)
                .get(0);
    }

    /**
     * Notes a step of a lane, if nobody else has noted it or has taken the lane over. Whoever notes the same step at the
     * same time waits for this transaction.
     *
     * @return false if somebody has; nothing may be committed then
     */
    boolean advance(Connection connection, KeptLane before, KeptLane after) throws SQLException {
        return update(
                        connection,
                        "UPDATE " + own.name("job_lane")
                                + " SET state = ?, pass = ?, chunk = ?, place = ?, deferred = ?, batches = ?, progress = ?"
                                + " WHERE job = ? AND run = ? AND lane = ? AND lease = ? AND batches = ?",
                        after.state(),
                        after.pass(),
                        after.chunk(),
                        after.place(),
                        after.deferred(),
                        after.batches(),
                        Documents.written(after.progress()),
                        before.job(),
                        before.run(),
                        before.lane(),
                        before.lease(),
                        before.batches())
                == 1;
    }

    /** Puts rows off to the pass after the one that a lane is in. */
    void defer(Connection connection, KeptLane lane, int lanes, List<ShownRow> rows) throws SQLException {
        update(
                connection,
                insertChunk(),
                lane.job(),
                lane.run(),
                lane.pass() + 1,
                lane.lane() + lanes * lane.deferred(),
                ShownRow.content(rows));
    }
}
