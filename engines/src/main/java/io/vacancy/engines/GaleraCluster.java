// SPDX-License-Identifier: Apache-2.0
package io.vacancy.engines;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Comparator;
import java.util.List;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;

/**
 * Three nodes of a replicated MariaDB cluster on loopback, from the packages galera-4, mariadb-server and rsync of the
 * operating system. To be started as root, since the servers run as the user mysql.
 */
public final class GaleraCluster implements AutoCloseable {

    /** How many nodes it has, numbered from 1. */
    public static final int NODES = 3;

    private static final Path PROVIDER = Path.of("/usr/lib/galera/libgalera_smm.so");
    private static final List<Path> PROGRAMS =
            List.of(Path.of("/usr/sbin/mariadbd"), Path.of("/usr/bin/mariadb-install-db"), Path.of("/usr/bin/rsync"));
    private static final int PATIENCE_SECONDS = 120;
    private static final int SQL_PORT = 4610;
    private static final int GROUP_PORT = 4620;

    private final Path folder;
    private final @Nullable Process[] nodes = new Process[NODES];

    private GaleraCluster(Path folder) {
        this.folder = folder;
    }

    /** Whether the packages are installed, and it may be started. */
    public static boolean installed() {
        return Files.exists(PROVIDER)
                && PROGRAMS.stream().allMatch(Files::exists)
                && "root".equals(System.getProperty("user.name"));
    }

    /** Makes and starts one, which takes about half a minute. */
    @SuppressWarnings("MustBeClosedChecker")
    public static GaleraCluster start() {
        try {
            GaleraCluster cluster = new GaleraCluster(Files.createTempDirectory("galera"));
            run("chmod", "755", cluster.folder.toString());
            run("chown", "mysql", cluster.folder.toString());
            cluster.begin(1, "gcomm://");
            try (Connection connection = cluster.source(1, "mysql").getConnection();
                    Statement statement = connection.createStatement()) {
                statement.execute("CREATE DATABASE harbour CHARACTER SET utf8mb4");
            }
            for (int node = 2; node <= NODES; node++) {
                cluster.again(node);
            }
            return cluster;
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        } catch (SQLException failed) {
            throw new IllegalStateException(failed);
        }
    }

    /** The database, through one of the nodes. */
    public Database through(int node) {
        return new Database(Engine.MARIADB, source(node, "harbour").url(), source(node, "harbour"));
    }

    /** The same, with options of the driver: name=value, separated by {@code &}. */
    public Database through(int node, String options) {
        UrlDataSource source = new UrlDataSource(source(node, "harbour").url() + "&" + options);
        return new Database(Engine.MARIADB, source.url(), source);
    }

    private static UrlDataSource source(int node, String database) {
        return new UrlDataSource("jdbc:mariadb://127.0.0.1:" + (SQL_PORT + node) + "/" + database
                + "?user=root&sessionVariables=wsrep_sync_wait=1");
    }

    /** Ends a node at once, as a power cut does. */
    public void kill(int node) throws InterruptedException {
        Process process = nodes[node - 1];
        if (process != null) {
            process.destroyForcibly().waitFor();
        }
    }

    /** Starts a node again. */
    public void again(int node) {
        StringBuilder members = new StringBuilder("gcomm://");
        for (int member = 1; member <= NODES; member++) {
            members.append(member == 1 ? "" : ",").append("127.0.0.1:").append(port(member, 1));
        }
        begin(node, members.toString());
    }

    private static int port(int node, int of) {
        return GROUP_PORT + 10 * node + of;
    }

    private void begin(int node, String address) {
        Path data = folder.resolve("n" + node);
        if (!Files.exists(data)) {
            run(
                    "mariadb-install-db",
                    "--no-defaults",
                    "--datadir=" + data,
                    "--user=mysql",
                    "--auth-root-authentication-method=normal",
                    "--skip-test-db");
        }
        List<String> words = new ArrayList<>(Arrays.asList(
                "mariadbd",
                "--no-defaults",
                "--user=mysql",
                "--datadir=" + data,
                "--port=" + (SQL_PORT + node),
                "--bind-address=127.0.0.1",
                "--socket=" + folder.resolve("n" + node + ".sock"),
                "--pid-file=" + folder.resolve("n" + node + ".pid"),
                "--log-error=" + folder.resolve("n" + node + ".err"),
                "--binlog-format=ROW",
                "--default-storage-engine=InnoDB",
                "--innodb-autoinc-lock-mode=2",
                "--innodb-flush-log-at-trx-commit=0",
                "--innodb-buffer-pool-size=128M",
                "--wsrep-on=ON",
                "--wsrep-provider=" + PROVIDER,
                "--wsrep-cluster-name=harbour",
                "--wsrep-cluster-address=" + address,
                "--wsrep-node-name=n" + node,
                "--wsrep-node-address=127.0.0.1",
                "--wsrep-sst-method=rsync",
                "--wsrep-sst-receive-address=127.0.0.1:" + port(node, 4),
                "--wsrep-provider-options=gmcast.listen_addr=tcp://127.0.0.1:" + port(node, 1)
                        + ";ist.recv_addr=127.0.0.1:" + port(node, 3)
                        + ";gcache.size=64M;pc.recovery=false;evs.suspect_timeout=PT3S;evs.inactive_timeout=PT6S",
                "--skip-name-resolve"));
        try {
            nodes[node - 1] = new ProcessBuilder(words)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
        awaitSynced(node);
    }

    private void awaitSynced(int node) {
        for (int second = 0; second < PATIENCE_SECONDS; second++) {
            try (Connection connection = source(node, "mysql").getConnection();
                    Statement statement = connection.createStatement();
                    ResultSet rows = statement.executeQuery("SHOW STATUS LIKE 'wsrep_local_state_comment'")) {
                if (rows.next() && rows.getString(2).equals("Synced")) {
                    return;
                }
            } catch (SQLException notYet) {
                // It is still starting.
            }
            try {
                Thread.sleep(1000);
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
                throw new IllegalStateException(interrupted);
            }
        }
        throw new IllegalStateException("node " + node + " of the cluster does not start; see " + folder);
    }

    private static void run(String... words) {
        try {
            Process process = new ProcessBuilder(words)
                    .redirectErrorStream(true)
                    .redirectOutput(ProcessBuilder.Redirect.DISCARD)
                    .start();
            if (!process.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS) || process.exitValue() != 0) {
                throw new IllegalStateException("failed: " + String.join(" ", words));
            }
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        } catch (InterruptedException interrupted) {
            Thread.currentThread().interrupt();
            throw new IllegalStateException(interrupted);
        }
    }

    @Override
    public void close() {
        for (Process node : nodes) {
            if (node != null) {
                node.destroyForcibly();
            }
        }
        try (Stream<Path> files = Files.walk(folder)) {
            files.sorted(Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        } catch (IOException left) {
            throw new UncheckedIOException(left);
        }
    }
}
