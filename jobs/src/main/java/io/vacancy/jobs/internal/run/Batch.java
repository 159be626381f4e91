// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.internal.run;

import io.vacancy.Vacancy;
import io.vacancy.jobs.internal.store.JobTables;
import io.vacancy.jobs.internal.store.KeptJob;
import io.vacancy.jobs.internal.store.KeptJob.Run;
import io.vacancy.jobs.internal.store.KeptLane;
import io.vacancy.jobs.internal.store.ShownRow;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.watch.JobProgress;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.sql.Connection;
import java.sql.SQLException;
import java.time.Duration;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Some of the selected rows of a job, with all that depends on them, in one transaction: it removes them and notes that
 * they are dealt with, or does neither. One thread only.
 *
 * @see JobTables#advance
 */
final class Batch {

    /**
     * What a batch is a piece of.
     *
     * @param mostRows how many rows a batch may have, by its own limit and that in bytes; null for as many as there are
     */
    record Whole(
            Workshop at,
            Vacancy vacancy,
            KeptJob job,
            Run run,
            Request request,
            List<String> identity,
            @Nullable Long mostRows) {

        /** The same with what is kept of the job by now. */
        Whole with(KeptJob now) {
            return new Whole(at, vacancy, now, run, request, identity, mostRows);
        }

        /** The same with a limit in rows for that in bytes. */
        Whole limited(@Nullable Long most) {
            return new Whole(at, vacancy, job, run, request, identity, most);
        }
    }

    private static final Duration PATIENCE = Duration.ofSeconds(2);

    private final Whole of;
    private final KeptLane lane;
    private final JobTables.Chunk chunk;
    private final boolean together;
    private final boolean compares;
    private final boolean skips;
    private final long since;
    private final Map<List<String>, ShownRow> rows = new LinkedHashMap<>();
    private final Set<List<String>> seen = new HashSet<>();
    private final Set<List<String>> changed = new HashSet<>();
    private final Set<List<String>> taken = new HashSet<>();
    private KeptLane after;

    /**
     * @param selected rows of the chunk, from the place where the lane is
     * @param together whether nothing is put off any more
     * @param since when the batch before was over; what was rested since counts as work
     */
    Batch(Whole of, KeptLane lane, JobTables.Chunk chunk, List<ShownRow> selected, boolean together, long since) {
        this.since = since;
        this.of = of;
        this.lane = lane;
        this.after = lane;
        this.chunk = chunk;
        this.together = together;
        this.compares = of.job().settings().onChange() != ChangePolicy.MATCHING;
        this.skips = !together || of.request().onBlocked() == OnBlocked.SKIP;
        selected.forEach(row -> rows.put(row.key(), row));
    }

    int size() {
        return rows.size();
    }

    /** Whether its rows are compared with what was shown. */
    boolean compares() {
        return compares;
    }

    @Nullable
    Long mostRows() {
        return of.mostRows();
    }

    /** The lane as it stands when the batch is committed. */
    KeptLane after() {
        return after;
    }

    /** Carries it out. */
    Outcome execute() {
        Request piece = of.request()
                .piece(rows.values().stream()
                        .map(row -> row.asKey(of.identity()))
                        .toList())
                .filter(this::wants)
                .onBlocked(skips ? OnBlocked.SKIP : OnBlocked.REFUSE)
                .withoutConfirmation(of.job().confirmed());
        if (piece.lockTimeout() == null && of.at().tables().limitsWaiting()) {
            // Others are not to wait for a job that waits itself.
            piece = piece.lockTimeout(PATIENCE);
        }
        Long most = of.mostRows();
        return of.vacancy()
                .continuing(of.run().receipt(), lane.part(of.job().settings().lanes()))
                .onEachRow(taking())
                .beforeCommit((receipt, connection) -> note(receipt, (Connection) connection))
                .execute(most == null ? piece : piece.atMostInAll(most));
    }

    /** Asked for each row before anything is done, and again under the locks. */
    private boolean wants(Row row) {
        List<String> key = ShownRow.key(row, of.identity());
        ShownRow shown = rows.get(key);
        seen.add(key);
        if (shown == null || (compares && !ShownRow.digest(row).equals(shown.digest()))) {
            changed.add(key);
            return false;
        }
        return !changed.contains(key);
    }

    private RowHandler taking() {
        return new RowHandler() {
            @Override
            public void begin() {
                taken.clear();
            }

            @Override
            public void take(Row row) {
                taken.add(ShownRow.key(row, of.identity()));
            }
        };
    }

    /** In the transaction of the deletion itself, so that it is noted just where it is done. */
    private void note(Receipt receipt, Connection connection) throws SQLException {
        List<ShownRow> blocked = blocked();
        after = stepped(receipt, blocked);
        refuseChanges();
        if (!of.at().tables().advance(connection, lane, after)) {
            throw new LaneLostException();
        }
        if (!blocked.isEmpty() && !together) {
            of.at().tables().defer(connection, lane, of.job().settings().lanes(), blocked);
        }
    }

    /** Notes that nothing of it was left to be done, or that what is left is blocked. */
    void noteNothing() {
        taken.clear();
        List<ShownRow> blocked = blocked();
        after = stepped(null, blocked);
        refuseChanges();
        advance(together ? List.of() : blocked);
    }

    /** Puts all of it off to the next pass, since others hold it. */
    void putOff(JobProgress now) {
        after = lane.at(chunk.number(), lane.place() + rows.size(), lane.deferred() + 1, now);
        advance(List.copyOf(rows.values()));
    }

    private void advance(List<ShownRow> putOff) {
        if (!of.at().tables().advanceAndDefer(lane, after, of.job().settings().lanes(), putOff)) {
            throw new LaneLostException();
        }
    }

    private List<ShownRow> blocked() {
        return rows.values().stream()
                .filter(row -> seen.contains(row.key()) && !changed.contains(row.key()) && !taken.contains(row.key()))
                .toList();
    }

    private long missing() {
        return rows.keySet().stream().filter(key -> !seen.contains(key)).count();
    }

    private void refuseChanges() {
        if (of.job().settings().onChange() != ChangePolicy.STOP) {
            return;
        }
        if (missing() + changed.size() > 0) {
            throw new JobEndedException("Of the rows that were shown, " + missing() + " are gone and " + changed.size()
                    + " are different now, in a batch of " + rows.size() + ".");
        }
        Long expected = of.run().expected();
        long done = of.at().tables().progress(of.job().name(), of.run()).rows()
                + after.progress().rows()
                - lane.progress().rows();
        if (expected != null && done > expected) {
            throw new JobEndedException(
                    "More rows depend on the selected ones than were shown: " + done + " instead of " + expected + ".");
        }
    }

    private KeptLane stepped(@Nullable Receipt receipt, List<ShownRow> blocked) {
        Duration took = Duration.ofNanos(System.nanoTime() - since);
        long putOff = together ? 0 : blocked.size();
        JobProgress now = lane.progress()
                .handling(rows.size() - putOff, changed.size(), missing(), blocked.size() - putOff)
                .working(took, of.job().table());
        now = receipt == null ? now : now.with(receipt);
        return lane.at(chunk.number(), lane.place() + rows.size(), lane.deferred() + (putOff > 0 ? 1 : 0), now);
    }
}
