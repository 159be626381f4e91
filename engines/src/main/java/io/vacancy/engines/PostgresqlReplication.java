// SPDX-License-Identifier: Apache-2.0
package io.vacancy.engines;

import io.zonky.test.db.postgres.embedded.EmbeddedPostgres;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Comparator;
import java.util.stream.Stream;

/** A PostgreSQL server of its own and a replica that streams from it, made by a cold copy of its folder. */
public final class PostgresqlReplication implements AutoCloseable {

    private final Path folder;
    private final int port;
    private EmbeddedPostgres primary;
    private final EmbeddedPostgres replica;

    private PostgresqlReplication(Path folder) throws IOException {
        this.folder = folder;
        EmbeddedPostgres first = server(folder.resolve("primary"), 0);
        this.port = first.getPort();
        first.close();
        copy(folder.resolve("primary"), folder.resolve("replica"));
        Files.writeString(
                folder.resolve("replica/postgresql.auto.conf"),
                "primary_conninfo = 'host=localhost port=" + port + " user=postgres'\n");
        Files.createFile(folder.resolve("replica/standby.signal"));
        this.primary = server(folder.resolve("primary"), port);
        this.replica = server(folder.resolve("replica"), 0);
    }

    /** Makes and starts both. */
    public static PostgresqlReplication start() {
        try {
            return new PostgresqlReplication(Files.createTempDirectory("replication"));
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    private static EmbeddedPostgres server(Path data, int port) throws IOException {
        EmbeddedPostgres.Builder builder = EmbeddedPostgres.builder()
                .setDataDirectory(data)
                .setCleanDataDirectory(false)
                .setServerConfig("fsync", "off");
        return (port == 0 ? builder : builder.setPort(port)).start();
    }

    private static void copy(Path from, Path to) throws IOException {
        try (Stream<Path> files = Files.walk(from)) {
            for (Path file : (Iterable<Path>) files::iterator) {
                Path target = to.resolve(from.relativize(file).toString());
                if (Files.isDirectory(file)) {
                    Files.createDirectories(target);
                    target.toFile().setReadable(false, false);
                    target.toFile().setExecutable(false, false);
                    target.toFile().setReadable(true, true);
                    target.toFile().setExecutable(true, true);
                } else {
                    Files.copy(file, target);
                }
            }
        }
    }

    /** The server that is written on. */
    public Database primary() {
        return database(port);
    }

    /** The one that follows it, and can only be read. */
    public Database replica() {
        return database(replica.getPort());
    }

    private static Database database(int port) {
        UrlDataSource source = new UrlDataSource("jdbc:postgresql://localhost:" + port + "/postgres?user=postgres");
        return new Database(Engine.POSTGRESQL, source.url(), source);
    }

    /** Ends the server that is written on, with whatever is going on there, and starts it again. */
    public void restartPrimary() throws IOException {
        primary.close();
        primary = server(folder.resolve("primary"), port);
    }

    @Override
    public void close() throws IOException {
        replica.close();
        primary.close();
        try (Stream<Path> files = Files.walk(folder)) {
            files.sorted(Comparator.reverseOrder())
                    .forEach(file -> file.toFile().delete());
        }
    }
}
