// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.pace;

import io.vacancy.failure.MisuseException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayDeque;
import java.util.Deque;
import java.util.List;
import java.util.Objects;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * Has jobs wait while replicas are behind. What is asked is asked again a second later at the earliest. A replica that
 * cannot be asked counts as one that is behind. For any thread.
 */
public final class ReplicationLag implements LoadProbe {

    private static final long ASKED_AGAIN_NANOS = 1_000_000_000;

    /** Reads how far behind the slowest replica is; a reason where that cannot be told. */
    @FunctionalInterface
    private interface Asking {
        @Nullable
        String ask(Connection connection) throws SQLException;
    }

    private final List<DataSource> asked;
    private final double most;
    private final Asking asking;
    /** Where the primary was, and when, oldest first: a replica that stands still tells no time. */
    private final Deque<Written> written = new ArrayDeque<>();

    private long askedAt = System.nanoTime() - ASKED_AGAIN_NANOS;
    private @Nullable String last;

    private record Written(double place, long nanos) {}

    private ReplicationLag(List<DataSource> asked, Duration most, boolean streams) {
        if (most.isNegative()) {
            throw new MisuseException("A lag must be 0 or more, not " + most + ".");
        }
        this.asked = List.copyOf(asked);
        this.most = most.toMillis() / 1000.0;
        this.asking = streams ? this::ofStreams : this::ofReplica;
    }

    /**
     * Of the replicas that stream from a PostgreSQL server, asked of that server: how long ago it was where they are now
     * ({@code pg_stat_replication.replay_lsn}), as far back as the probe has looked. Its user needs the role
     * {@code pg_monitor}. A replica that is not connected is not there to be waited for.
     *
     * @param primary connections to the server that jobs delete on
     * @param most how far behind the slowest may be
     */
    public static ReplicationLag postgresql(DataSource primary, Duration most) {
        return new ReplicationLag(List.of(Objects.requireNonNull(primary, "primary")), most, true);
    }

    /**
     * Of replicas of a MariaDB server, each asked itself ({@code Seconds_Behind_Master}); one whose replication is stopped
     * counts as one that is behind.
     *
     * @param replicas connections to each of them
     * @param most how far behind the slowest may be
     */
    public static ReplicationLag mariadb(List<DataSource> replicas, Duration most) {
        return new ReplicationLag(replicas, most, false);
    }

    @Override
    public synchronized @Nullable String reasonToWait() throws SQLException {
        if (System.nanoTime() - askedAt >= ASKED_AGAIN_NANOS) {
            last = ask();
            askedAt = System.nanoTime();
        }
        return last;
    }

    private @Nullable String ask() throws SQLException {
        for (DataSource each : asked) {
            try (Connection connection = each.getConnection()) {
                String reason = asking.ask(connection);
                if (reason != null) {
                    return reason;
                }
            }
        }
        return null;
    }

    private @Nullable String ofStreams(Connection connection) throws SQLException {
        String asks = "SELECT pg_wal_lsn_diff(pg_current_wal_lsn(), '0/0'), s.pid, pg_wal_lsn_diff(s.replay_lsn, '0/0')"
                + " FROM (SELECT 1) one LEFT JOIN pg_stat_replication s ON TRUE";
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery(asks)) {
            long now = System.nanoTime();
            double oldest = Double.MAX_VALUE;
            while (rows.next()) {
                double place = rows.getDouble(1);
                if (written.isEmpty() || written.getLast().place() < place) {
                    written.addLast(new Written(place, now));
                }
                boolean replica = rows.getObject(2) != null;
                double replayed = rows.getDouble(3);
                if (replica && rows.wasNull()) {
                    return "the database user may not see how far replicas are";
                }
                oldest = replica ? Math.min(oldest, replayed) : oldest;
            }
            while (written.size() > 1 && written.getFirst().place() <= oldest) {
                written.removeFirst();
            }
            Written first = written.getFirst();
            return first.place() <= oldest ? null : tooFar((now - first.nanos()) / 1e9);
        }
    }

    private @Nullable String ofReplica(Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SHOW ALL SLAVES STATUS")) {
            boolean any = false;
            while (rows.next()) {
                any = true;
                double seconds = rows.getDouble("Seconds_Behind_Master");
                if (rows.wasNull()) {
                    return "a replica does not replicate";
                }
                String reason = tooFar(seconds);
                if (reason != null) {
                    return reason;
                }
            }
            return any ? null : "a server that should be a replica is none";
        }
    }

    private @Nullable String tooFar(double seconds) {
        return seconds > most ? "a replica is " + Math.round(seconds) + " s behind" : null;
    }
}
