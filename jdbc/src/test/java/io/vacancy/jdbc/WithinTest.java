// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.TransactionLostException;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import io.vacancy.spi.CallerTransaction;
import io.vacancy.spi.CallerTransaction.Completion;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.function.Consumer;
import java.util.stream.LongStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

class WithinTest {

    @OnEveryEngine
    void aDeletionIsPartOfTheCallersTransaction(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            execute(connection, "UPDATE yard SET name = 'Slip and Daughters' WHERE id = 1");

            Outcome outcome = bench.vacancy()
                    .within(connection)
                    .execute(Request.delete("boat").key(17).expect(1));
            assertThat(outcome).isInstanceOf(Outcome.Done.class);
            connection.rollback();
            assertThat(bench.count("boat")).isEqualTo(8);

            execute(connection, "UPDATE yard SET name = 'Slip and Daughters' WHERE id = 1");
            bench.vacancy()
                    .within(connection)
                    .execute(Request.delete("boat").key(17).expect(1))
                    .receiptOrThrow();
            connection.commit();
        }
        assertThat(bench.count("boat")).isEqualTo(7);
        assertThat(bench.count("yard WHERE name = 'Slip and Daughters'")).isEqualTo(1);
    }

    @OnEveryEngine
    void whatDoesNotGoThroughLeavesTheCallersWorkAsItWas(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            execute(connection, "UPDATE yard SET name = 'Slip and Daughters' WHERE id = 1");

            assertThat(bench.vacancy()
                            .within(connection)
                            .execute(Request.delete("boat").key(14).expect(1)))
                    .isInstanceOf(Outcome.Blocked.class);
            assertThat(bench.vacancy()
                            .within(connection)
                            .execute(Request.delete("boat").keys(11, 12).expect(1)))
                    .isInstanceOf(Outcome.Refused.class);
            assertThat(bench.vacancy()
                            .within(connection)
                            .preview(Request.delete("boat").key(17))
                            .state())
                    .isEqualTo(Preview.State.READY);
            connection.commit();
        }
        assertThat(bench.count("yard WHERE name = 'Slip and Daughters'")).isEqualTo(1);
        assertThat(bench.count("boat")).isEqualTo(8);
    }

    @OnEveryEngine
    void manyKeysNeitherCommitNorStayBehind(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        StringBuilder rows = new StringBuilder("INSERT INTO fee VALUES ");
        for (int id = 10_000; id < 12_000; id++) {
            rows.append(id == 10_000 ? "" : ", ").append("(" + id + ", 7, 501, 1.00, '2026-01-01', TRUE)");
        }
        bench.database().run(rows.toString());
        List<Long> keys = LongStream.range(10_000, 12_000).boxed().toList();
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            for (int time = 0; time < 2; time++) {
                bench.vacancy()
                        .within(connection)
                        .execute(Request.delete("fee").keys(keys).expect(2_000))
                        .receiptOrThrow();
                connection.rollback();
            }
            assertThat(bench.count("fee")).isEqualTo(2_009);
            bench.vacancy()
                    .within(connection)
                    .execute(Request.delete("fee").keys(keys).expect(2_000))
                    .receiptOrThrow();
            connection.commit();
        }
        assertThat(bench.count("fee")).isEqualTo(9);
    }

    @OnEveryEngine
    void aSnapshotOlderThanTheLocksIsRefusedWhereNoForeignKeyHolds(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        Vacancy declared = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(
                        book -> book.relation("radio_message.call_sign -> boat.call_sign", Rule.block("was heard"))))
                .actor(() -> "Mira Holm")
                .open();
        try (Connection connection = bench.database().connect()) {
            boolean locksTables = engine == Engine.SQLITE || engine == Engine.OTHER;
            if (!locksTables) {
                connection.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
            }
            connection.setAutoCommit(false);
            Vacancy within = declared.within(connection);
            if (locksTables) {
                // One writer at a time, who cannot begin on an old snapshot.
                assertThat(within.execute(Request.delete("boat").key(15).expect(1)))
                        .isInstanceOf(Outcome.Done.class);
            } else {
                assertThatThrownBy(() ->
                                within.execute(Request.delete("boat").key(15).expect(1)))
                        .isInstanceOf(MisuseException.class)
                        .hasMessageContaining("before the locks");
            }
            connection.rollback();
        }
    }

    /** What was done while a stream was open is not undone by closing it, whoever did it. */
    @OnEveryEngine
    void closingAStreamUndoesNothing(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = bench.vacancy().within(connection);
            try (Stream<Row> boats = within.rows(Request.delete("boat").everyRow())) {
                assertThat(boats.count()).isEqualTo(8);
                execute(connection, "UPDATE yard SET name = 'Slip and Daughters' WHERE id = 1");
                within.execute(Request.delete("boat").key(17).expect(1)).receiptOrThrow();
            }
            connection.commit();
        }
        assertThat(bench.count("boat")).isEqualTo(7);
        assertThat(bench.count("yard WHERE name = 'Slip and Daughters'")).isEqualTo(1);
    }

    @OnEveryEngine
    void aConnectionThatCommitsByItselfIsRefused(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        try (Connection connection = bench.database().connect()) {
            assertThatThrownBy(() -> bench.vacancy().within(connection))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("commits by itself");
        }
        assertThatThrownBy(() -> bench.vacancy().within("a string")).isInstanceOf(MisuseException.class);
    }

    @OnEveryEngine
    void aProxyThatForbidsEndingTheTransactionIsGoodEnough(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        List<String> called = new ArrayList<>();
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Connection proxy = (Connection) Proxy.newProxyInstance(
                    getClass().getClassLoader(), new Class<?>[] {Connection.class}, (self, method, arguments) -> {
                        called.add(method.getName());
                        try {
                            return method.invoke(connection, arguments);
                        } catch (InvocationTargetException failed) {
                            throw failed.getCause();
                        }
                    });
            bench.vacancy()
                    .within(proxy)
                    .execute(Request.delete("boat").key(17).expect(1))
                    .receiptOrThrow();
            connection.commit();
        }
        assertThat(bench.count("boat")).isEqualTo(7);
        assertThat(called).doesNotContain("commit", "close", "setAutoCommit", "setTransactionIsolation", "unwrap");
    }

    /** A transaction as a framework would have it: on a thread, with callbacks. */
    private static final class Unit implements CallerTransaction {

        private final Connection connection;
        private boolean readOnly;
        private final List<Consumer<Completion>> told = new ArrayList<>();

        Unit(Connection connection) {
            this.connection = connection;
        }

        @Override
        public Object connection() {
            return connection;
        }

        @Override
        public boolean readOnly() {
            return readOnly;
        }

        @Override
        public void whenCompleted(Consumer<Completion> committed) {
            told.add(committed);
        }

        void end(boolean commit) throws SQLException {
            if (commit) {
                connection.commit();
            } else {
                connection.rollback();
            }
            tell(commit ? Completion.COMMITTED : Completion.ROLLED_BACK);
        }

        void tell(Completion completion) {
            told.forEach(each -> each.accept(completion));
        }
    }

    @OnEveryEngine
    void theTransactionOfAFrameworkIsJoinedAndLeft(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        ThreadLocal<CallerTransaction> current = new ThreadLocal<>();
        List<String> heard = new ArrayList<>();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .joining(current::get)
                .listener(new Listener() {
                    @Override
                    public void ended(Request request, Outcome outcome) {
                        heard.add(outcome.state().word());
                    }
                })
                .open();
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Unit first = new Unit(connection);
            current.set(first);
            assertThat(vacancy.execute(Request.delete("boat").key(17).expect(1)))
                    .isInstanceOf(Outcome.Done.class);
            assertThat(vacancy.preview(Request.delete("boat").key(17)).state()).isEqualTo(Preview.State.NOTHING);
            assertThat(heard).isEmpty();
            first.end(false);
            assertThat(heard).isEmpty();

            Unit second = new Unit(connection);
            current.set(second);
            vacancy.execute(Request.delete("boat").key(17).expect(1)).receiptOrThrow();
            second.end(true);
            assertThat(heard).containsExactly("done");
            assertThat(second.told).hasSize(1);

            Unit third = new Unit(connection);
            current.set(third);
            vacancy.execute(Request.delete("boat").key(15).expect(1)).receiptOrThrow();
            connection.rollback();
            third.tell(Completion.UNKNOWN);
            assertThat(heard).containsExactly("done", "in-doubt");
            heard.remove("in-doubt");

            Unit readOnly = new Unit(connection);
            readOnly.readOnly = true;
            current.set(readOnly);
            assertThat(vacancy.preview(Request.delete("boat").key(15)).state()).isEqualTo(Preview.State.READY);
            assertThatThrownBy(
                            () -> vacancy.execute(Request.delete("boat").key(15).expect(1)))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("can only be read");
            connection.rollback();
            // On a connection of its own, whatever the thread is in.
            vacancy.separately()
                    .execute(Request.delete("boat").key(15).expect(1))
                    .receiptOrThrow();
            assertThat(heard).containsExactly("done", "done");
            current.remove();
        }

        assertThat(vacancy.execute(Request.delete("boat").key(15).expect(1))).isInstanceOf(Outcome.Nothing.class);
        assertThat(heard).containsExactly("done", "done", "nothing");
        assertThat(bench.count("boat")).isEqualTo(6);
    }

    private static void execute(Connection connection, String sql) throws SQLException {
        try (Statement statement = connection.createStatement()) {
            statement.execute(sql);
        }
    }
    /** MariaDB ends the whole transaction that loses a deadlock, and the caller's earlier work with it. */
    @Test
    void aDeadlockThatTakesTheCallersWorkAlongIsTold() throws Exception {
        Bench bench = Bench.of(
                Engine.MARIADB,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE ledger (id INTEGER NOT NULL PRIMARY KEY, n INTEGER)",
                "INSERT INTO boat VALUES (1)",
                "INSERT INTO ledger VALUES (1, 0), (2, 0), (3, 0), (4, 0), (5, 0), (6, 0), (7, 0), (8, 0)");
        try (Connection ours = bench.database().connect();
                Connection theirs = bench.database().connect();
                Statement work = ours.createStatement();
                Statement other = theirs.createStatement()) {
            ours.setAutoCommit(false);
            theirs.setAutoCommit(false);
            ours.setTransactionIsolation(Connection.TRANSACTION_READ_COMMITTED);
            work.execute("UPDATE ledger SET n = 1 WHERE id = 1");
            // More rows changed: the other one wins.
            other.execute("UPDATE ledger SET n = 2 WHERE id > 1");
            other.execute("SELECT * FROM boat WHERE id = 1 FOR UPDATE");
            CompletableFuture<Void> waiting = CompletableFuture.runAsync(() -> {
                try {
                    Thread.sleep(700);
                    other.execute("UPDATE ledger SET n = 2 WHERE id = 1");
                } catch (Exception failed) {
                    throw new IllegalStateException(failed);
                }
            });
            assertThatThrownBy(() -> bench.vacancy()
                            .within(ours)
                            .execute(Request.erase("boat").key(1).expect(1)))
                    .isInstanceOf(TransactionLostException.class)
                    .hasMessageContaining("everything that was done in it before");
            waiting.get(20, TimeUnit.SECONDS);
            ours.rollback();
            theirs.commit();
        }
        assertThat(bench.count("ledger WHERE n = 1")).isZero();
        assertThat(bench.count("boat")).isEqualTo(1);
    }

    @Test
    void aTransactionThatAnEarlierErrorHasSpoiltIsTold() throws Exception {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO boat VALUES (1)");
        try (Connection ours = bench.database().connect();
                Statement work = ours.createStatement()) {
            ours.setAutoCommit(false);
            assertThatThrownBy(() -> work.execute("INSERT INTO boat VALUES (1)"))
                    .isInstanceOf(SQLException.class);
            assertThatThrownBy(() -> bench.vacancy()
                            .within(ours)
                            .execute(Request.erase("boat").key(1).expect(1)))
                    .isInstanceOf(TransactionLostException.class)
                    .hasMessageStartingWith(
                            "A statement failed in this transaction before, and the database takes no other in it");
        }
    }

    @Test
    void aTransactionThatSeesWhatIsNoMoreIsToBeBegunAnew() throws Exception {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, n INTEGER)",
                "INSERT INTO boat VALUES (1, 1)");
        try (Connection ours = bench.database().connect();
                Statement work = ours.createStatement()) {
            ours.setAutoCommit(false);
            ours.setTransactionIsolation(Connection.TRANSACTION_REPEATABLE_READ);
            work.execute("SELECT * FROM boat");
            bench.database().run("UPDATE boat SET n = 2");
            Outcome ending = bench.vacancy()
                    .within(ours)
                    .execute(Request.erase("boat").key(1).expect(1));
            assertThat(ending).isInstanceOf(Outcome.Busy.class);
            assertThat(((Outcome.Busy) ending).detail())
                    .contains("This transaction still sees the rows as they were, so begin it anew.");
            ours.rollback();
        }
        assertThat(bench.count("boat")).isEqualTo(1);
    }
}
