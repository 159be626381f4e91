// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.archive.SaveTarget;
import io.vacancy.engines.Engine;
import io.vacancy.json.saved.SavedFile;
import io.vacancy.json.saved.SavedFileWriter;
import io.vacancy.listener.Listener;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.junit.jupiter.api.io.TempDir;

/** Whatever fails after the commit, the outcome says that it was done, and tells what failed as a warning. */
class CommitBoundaryTest {

    @TempDir
    Path folder;

    /** A data source whose calls fail one after the other once something was committed: the first, the second... */
    private static final class FailingAfterCommit {

        private final DataSource source;
        private final AtomicInteger left = new AtomicInteger(-1);
        private final AtomicInteger failed = new AtomicInteger();
        private volatile boolean committed;

        FailingAfterCommit(DataSource source) {
            this.source = source;
        }

        void failAt(int call) {
            committed = false;
            failed.set(0);
            left.set(call);
        }

        DataSource asDataSource() {
            return wrapped(DataSource.class, source);
        }

        private <T> T wrapped(Class<T> type, T inner) {
            return type.cast(
                    Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (proxy, method, given) -> {
                        if (committed && left.getAndDecrement() == 0) {
                            failed.incrementAndGet();
                            if (method.getName().equals("close")) {
                                method.invoke(inner, given);
                            }
                            throw new SQLException("the network is down", "08006");
                        }
                        try {
                            Object result = method.invoke(inner, given);
                            committed |= method.getName().equals("commit");
                            return result instanceof Connection connection
                                    ? wrapped(Connection.class, connection)
                                    : result instanceof Statement statement
                                                    && method.getName().equals("createStatement")
                                            ? wrapped(Statement.class, statement)
                                            : result;
                        } catch (InvocationTargetException thrown) {
                            throw thrown.getCause();
                        }
                    }));
        }
    }

    private static final class Heard implements Listener {

        private final List<String> warnings = new ArrayList<>();
        private final List<Outcome.State> ended = new ArrayList<>();

        @Override
        public void ended(Request request, Outcome outcome) {
            ended.add(outcome.state());
        }

        @Override
        public void afterCommitFailed(Request request, Receipt receipt, String warning) {
            warnings.add(warning);
        }
    }

    @OnEveryEngine
    void everyCallToTheDatabaseAfterTheCommitMayFail(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        FailingAfterCommit source = new FailingAfterCommit(bench.database().source());
        Heard heard = new Heard();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source.asDataSource()))
                .actor(() -> "Mira Holm")
                .listener(heard)
                .sealEvery(Duration.ZERO)
                .open();
        int call = 0;
        int failures = 0;
        do {
            bench.database().run("INSERT INTO boat VALUES (900, 'Tern', 1)");
            heard.warnings.clear();
            heard.ended.clear();
            source.failAt(call);
            Outcome outcome = vacancy.execute(Request.erase("boat").key(900).expect(1));
            boolean failed = source.failed.get() > 0;
            source.failAt(-1);

            assertThat(outcome).as("call " + call).isInstanceOf(Outcome.Done.class);
            assertThat(bench.count("boat WHERE id = 900")).as("call " + call).isZero();
            Outcome.Done done = (Outcome.Done) outcome;
            assertThat(heard.ended).containsExactly(Outcome.State.DONE);
            assertThat(heard.warnings).isEqualTo(done.warnings());
            assertThat(done.message()).doesNotContain("Nothing was changed");
            assertThat(vacancy.receipt(done.receipt().id())).contains(done.receipt());
            failures += failed ? 1 : 0;
            call = failed ? call + 1 : -1;
        } while (call >= 0);
        // Giving the connection back, and sealing, are more than one call on every engine.
        assertThat(failures).isGreaterThan(5);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    private static final class Broken implements RowHandler, SaveTarget {

        @Override
        public String name() {
            return "gone";
        }

        @Override
        public void begin(ReceiptId receipt, List<ArchivedRows> lines) {}

        @Override
        public void begin() {}

        @Override
        public void take(Row row) {}

        @Override
        public void take(int line, Row row) {}

        @Override
        public void end() {}

        @Override
        public void committed() {
            throw new IllegalStateException("the file could not be renamed, it is gone.part");
        }
    }

    private static final class BrokenListener implements Listener {

        @Override
        public void ended(Request request, Outcome outcome) {
            throw new AssertionError("the index is down");
        }

        @Override
        public void afterCommitFailed(Request request, Receipt receipt, String warning) {
            throw new IllegalStateException("so is the pager");
        }
    }

    @OnEveryEngine
    void aFileWhoseNameIsTakenMeanwhileStaysBesideIt(Engine engine) throws IOException {
        Bench bench = ArchiveTest.bench(engine);
        Path wanted = folder.resolve("boat.jsonl");
        Outcome outcome;
        try (SavedFileWriter file = new SavedFileWriter(wanted)) {
            outcome = bench.vacancy()
                    .saveTo(file)
                    .onEachRow(row -> taken(wanted))
                    .execute(Request.erase("boat").key(1).expect(1));
        }
        assertThat(((Outcome.Done) outcome).warnings())
                .singleElement()
                .asString()
                .contains("could not be renamed", part().getFileName().toString());
        assertThat(Files.readString(wanted)).isEqualTo("mine");
        Files.delete(wanted);
        Files.move(part(), wanted);
        assertThat(bench.vacancy()
                        .execute(Request.restore(SavedFile.open(wanted), List.of("boat", "mooring", "note", "sticker"))
                                .expect(1))
                        .state())
                .isEqualTo(Outcome.State.DONE);
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    private Path part() throws IOException {
        try (Stream<Path> files = Files.list(folder)) {
            return files.filter(file -> file.toString().endsWith(".part"))
                    .findFirst()
                    .orElseThrow();
        }
    }

    private static void taken(Path wanted) {
        try {
            Files.writeString(wanted, "mine");
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }

    @OnEveryEngine
    void filesAndListenersMayFailOnOwnAndOnTheCallersConnection(Engine engine) throws SQLException {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .listener(new BrokenListener())
                .open()
                .onEachRow(new Broken())
                .saveTo(new Broken());

        Outcome own = vacancy.execute(Request.erase("boat").key(1).expect(1));
        assertThat(own).isInstanceOf(Outcome.Done.class);
        assertThat(((Outcome.Done) own).warnings())
                .hasSize(3)
                .allMatch(warning -> warning.startsWith("Committed, but "))
                .anyMatch(warning -> warning.contains("gone.part"))
                .anyMatch(warning -> warning.contains("the index is down"));

        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = vacancy.within(connection);
            Outcome inside = within.execute(Request.erase("boat").key(2).expect(1));
            assertThat(((Outcome.Done) inside).warnings()).isEmpty();
            connection.commit();
            assertThat(within.committed()).hasSize(3);
            assertThat(within.committed()).isEmpty();
            within.execute(Request.erase("boat").key(3).expect(1));
            connection.rollback();
            within.rolledBack();
            assertThat(within.committed()).isEmpty();
        }
        assertThat(bench.count("boat WHERE id IN (1, 2)")).isZero();
        assertThat(bench.count("boat WHERE id = 3")).isEqualTo(1);
    }
}
