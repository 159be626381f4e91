// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs.pace;

import io.vacancy.failure.MisuseException;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Objects;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;

/**
 * Has jobs wait while replicas are behind. What is asked is asked again a second later at the earliest. A replica that
 * cannot be asked counts as one that is behind.
 */
public final class ReplicationLag implements LoadProbe {

    private static final long ASKED_AGAIN_NANOS = 1_000_000_000;

    private final String asks;
    private final List<DataSource> asked;
    private final Duration most;
    private long askedAt = System.nanoTime() - ASKED_AGAIN_NANOS;
    private @Nullable String last;

    private ReplicationLag(String asks, List<DataSource> asked, Duration most) {
        if (most.isNegative()) {
            throw new MisuseException("A lag must be 0 or more, not " + most + ".");
        }
        this.asks = asks;
        this.asked = List.copyOf(asked);
        this.most = most;
    }

    /**
     * Of the replicas that stream from a PostgreSQL server, asked of that server: how long ago it wrote what they have not
     * replayed yet ({@code pg_stat_replication}). Its user needs the role {@code pg_monitor}, or sees no lag.
     *
     * @param primary connections to the server that jobs delete on
     * @param most how far behind the slowest may be
     */
    public static ReplicationLag postgresql(DataSource primary, Duration most) {
        return new ReplicationLag(
                "SELECT COALESCE(MAX(EXTRACT(EPOCH FROM replay_lag)), 0) FROM pg_stat_replication",
                List.of(Objects.requireNonNull(primary, "primary")),
                most);
    }

    /**
     * Of replicas of a MariaDB server, each asked itself ({@code Seconds_Behind_Master}); one whose replication is stopped
     * counts as one that is behind.
     *
     * @param replicas connections to each of them
     * @param most how far behind the slowest may be
     */
    public static ReplicationLag mariadb(List<DataSource> replicas, Duration most) {
        return new ReplicationLag("SHOW ALL SLAVES STATUS", replicas, most);
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
            try (Connection connection = each.getConnection();
                    Statement statement = connection.createStatement();
                    ResultSet rows = statement.executeQuery(asks)) {
                boolean named = asks.startsWith("SHOW");
                boolean any = false;
                while (rows.next()) {
                    any = true;
                    double seconds = named ? rows.getDouble("Seconds_Behind_Master") : rows.getDouble(1);
                    if (rows.wasNull()) {
                        return "a replica does not replicate";
                    }
                    if (seconds > most.toMillis() / 1000.0) {
                        return "a replica is " + Math.round(seconds) + " s behind";
                    }
                }
                if (!any) {
                    return "a server that should be a replica is none";
                }
            }
        }
        return null;
    }
}
