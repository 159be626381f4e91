// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.StoreException;
import io.vacancy.jdbc.LossyProxy.Loss;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.request.Request;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.Optional;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** A connection that is lost around the commit: what is told of it is true, and nothing is done twice. */
class InDoubtTest {

    private static final Pattern PORT = Pattern.compile(":(\\d+)/");

    /** A harbour behind a line that can be lost, and how to lose it at the next commit. */
    private record Line(
            Bench bench, JdbcStore store, Vacancy vacancy, AtomicInteger commits, LossyProxy proxy, Loser loser)
            implements AutoCloseable {

        @Override
        public void close() {
            if (proxy != null) {
                proxy.close();
            }
        }

        Outcome delete(Loss loss, long later) {
            return delete(Request.erase("boat").key(1).expect(1), loss, later);
        }

        Outcome delete(Request request, Loss loss, long later) {
            commits.set(0);
            loser.lose(loss, later);
            return vacancy.execute(request);
        }

        boolean gone() {
            return bench.count("boat WHERE id = 1") == 0;
        }
    }

    private static final class Loser {

        private Loss loss = Loss.NONE;
        private long later;
        private boolean unreachable;

        void lose(Loss how, long afterMillis) {
            loss = how;
            later = afterMillis;
        }
    }

    private static Line line(Engine engine, boolean ownTables) {
        Bench bench = ArchiveTest.bench(engine);
        if (!ownTables) {
            bench.database().run("DROP TABLE vacancy_module", "DROP TABLE vacancy_version");
        }
        Loser loser = new Loser();
        AtomicInteger commits = new AtomicInteger();
        DataSource source = bench.database().source();
        LossyProxy proxy = null;
        Matcher port = PORT.matcher(bench.database().url());
        if (port.find()) {
            proxy = new LossyProxy(Integer.parseInt(port.group(1)));
            source = source(bench.database().url().replace(port.group(), ":" + proxy.port() + "/"));
        }
        DataSource lossy = lossy(source, loser, commits, proxy);
        JdbcStore store = JdbcStore.of(lossy);
        Vacancy vacancy = Vacancy.on(store).actor(() -> "Mira Holm").open();
        return new Line(bench, store, vacancy, commits, proxy, loser);
    }

    private static DataSource source(String url) {
        return (DataSource) Proxy.newProxyInstance(
                DataSource.class.getClassLoader(),
                new Class<?>[] {DataSource.class},
                (own, method, given) -> DriverManager.getConnection(url));
    }

    private static DataSource lossy(DataSource source, Loser loser, AtomicInteger commits, LossyProxy proxy) {
        return (DataSource) Proxy.newProxyInstance(
                DataSource.class.getClassLoader(), new Class<?>[] {DataSource.class}, (own, method, given) -> {
                    if (loser.unreachable) {
                        throw new SQLException("nobody is there", "08001");
                    }
                    Object result = invoke(method, source, given);
                    return result instanceof Connection connection ? lossy(connection, loser, commits, proxy) : result;
                });
    }

    private static Connection lossy(Connection connection, Loser loser, AtomicInteger commits, LossyProxy proxy) {
        boolean[] lost = {false};
        return (Connection) Proxy.newProxyInstance(
                Connection.class.getClassLoader(), new Class<?>[] {Connection.class}, (own, method, given) -> {
                    if (lost[0] && !method.getName().equals("close")) {
                        throw new SQLException("the connection is lost", "08006");
                    }
                    if (!method.getName().equals("commit")) {
                        return invoke(method, connection, given);
                    }
                    commits.incrementAndGet();
                    Loss loss = loser.loss;
                    if (loss == Loss.NONE) {
                        return invoke(method, connection, given);
                    }
                    loser.loss = Loss.NONE;
                    if (proxy != null) {
                        proxy.lose(loss, loser.later);
                        return invoke(method, connection, given);
                    }
                    // Without a server between, the driver itself loses it.
                    lost[0] = true;
                    if (loss == Loss.ANSWER) {
                        connection.commit();
                    } else {
                        connection.rollback();
                    }
                    throw new SQLException("the connection is lost", "08006");
                });
    }

    private static Object invoke(java.lang.reflect.Method method, Object on, Object[] given) throws Throwable {
        try {
            return method.invoke(on, given);
        } catch (InvocationTargetException thrown) {
            throw thrown.getCause();
        }
    }

    @OnEveryEngine
    void aCommitWhoseAnswerIsLostIsDone(Engine engine) {
        try (Line line = line(engine, true)) {
            Outcome outcome = line.delete(Loss.ANSWER, 0);
            assertThat(outcome).isInstanceOf(Outcome.Done.class);
            assertThat(line.gone()).isTrue();
            assertThat(((Outcome.Done) outcome).warnings()).anyMatch(warning -> warning.contains("lost"));
            Receipt receipt = outcome.receiptOrThrow();
            assertThat(line.vacancy().receipt(receipt.id())).contains(receipt);
            assertThat(line.bench().count("vacancy_receipt")).isEqualTo(1);
            assertThat(line.bench().count("vacancy_trail")).isEqualTo(1);
        }
    }

    @OnEveryEngine
    void aCommitThatNeverArrivesIsTriedAgainUnderTheSameReceipt(Engine engine) {
        try (Line line = line(engine, true)) {
            Outcome outcome = line.delete(Loss.BEFORE, 0);
            assertThat(outcome).isInstanceOf(Outcome.Done.class);
            assertThat(line.gone()).isTrue();
            // The one that was lost, the one that counts, and perhaps that of the seal.
            assertThat(line.commits().get()).isGreaterThanOrEqualTo(2);
            assertThat(line.bench().count("vacancy_receipt")).isEqualTo(1);
            assertThat(line.bench().count("vacancy_trail")).isEqualTo(1);
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"POSTGRESQL", "MARIADB"})
    void aCommitThatArrivesLateIsWaitedFor(Engine engine) {
        try (Line line = line(engine, true)) {
            Outcome outcome = line.delete(Loss.LATE, 800);
            assertThat(outcome).as(outcome.message()).isInstanceOf(Outcome.Done.class);
            assertThat(line.gone()).isTrue();
            assertThat(line.bench().count("vacancy_receipt")).isEqualTo(1);
            assertThat(line.bench().count("vacancy_trail")).isEqualTo(1);
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"POSTGRESQL", "MARIADB"})
    void aCommitThatArrivesTooLateIsInDoubtAndToldOfAfterwards(Engine engine) throws InterruptedException {
        try (Line line = line(engine, true)) {
            Outcome outcome = line.delete(Loss.LATE, 7_000);
            assertThat(outcome).isInstanceOf(Outcome.InDoubt.class);
            assertThat(outcome.message())
                    .contains("not known")
                    .doesNotContain("Nothing was changed")
                    .doesNotContain("null");
            Outcome.InDoubt doubt = (Outcome.InDoubt) outcome;
            assertThat(line.gone()).isFalse();
            Optional<Receipt> receipt = Optional.empty();
            for (int i = 0; i < 100 && receipt.isEmpty(); i++) {
                Thread.sleep(150);
                receipt = line.vacancy().receipt(doubt.receipt());
            }
            assertThat(receipt).isPresent();
            assertThat(line.gone()).isTrue();
            assertThat(line.bench().count("vacancy_receipt")).isEqualTo(1);
        }
    }

    @OnEveryEngine
    void whereNobodyCanBeReachedItStaysInDoubt(Engine engine) {
        for (Loss loss : new Loss[] {Loss.BEFORE, Loss.ANSWER}) {
            try (Line line = line(engine, true)) {
                line.loser().lose(loss, 0);
                Vacancy vacancy = line.vacancy().onEachRow(row -> line.loser().unreachable = true);
                Outcome outcome = vacancy.execute(Request.erase("boat").key(1).expect(1));
                assertThat(outcome).isInstanceOf(Outcome.InDoubt.class);
                line.loser().unreachable = false;
                assertThat(line.gone()).isEqualTo(loss == Loss.ANSWER);
                assertThat(line.vacancy()
                                .receipt(((Outcome.InDoubt) outcome).receipt())
                                .isPresent())
                        .isEqualTo(loss == Loss.ANSWER);
            }
        }
    }

    @OnEveryEngine
    void aListenerThatFailsDoesNotHideTheDoubt(Engine engine) {
        try (Line line = line(engine, false)) {
            Vacancy vacancy = Vacancy.on(line.store())
                    .actor(() -> "Mira Holm")
                    .listener(new Listener() {
                        @Override
                        public void ended(Request request, Outcome outcome) {
                            throw new IllegalStateException("the index is down");
                        }
                    })
                    .open();
            line.loser().lose(Loss.ANSWER, 0);
            assertThat(vacancy.execute(Request.erase("boat").key(1).expect(1))).isInstanceOf(Outcome.InDoubt.class);
        }
    }

    @OnEveryEngine
    void withoutOwnTablesItStaysInDoubt(Engine engine) {
        for (Loss loss : new Loss[] {Loss.BEFORE, Loss.ANSWER}) {
            try (Line line = line(engine, false)) {
                Outcome outcome = line.delete(loss, 0);
                assertThat(outcome).isInstanceOf(Outcome.InDoubt.class);
                assertThat(outcome.message()).contains("no receipts").contains("look at the rows");
                assertThat(line.gone()).isEqualTo(loss == Loss.ANSWER);
                assertThat(line.commits().get()).isEqualTo(1);
            }
        }
    }

    @ParameterizedTest
    @EnumSource(names = {"POSTGRESQL", "MARIADB"})
    void aConnectionThatIsLostBeforeTheCommitChangedNothing(Engine engine) {
        try (Line line = line(engine, true)) {
            Vacancy vacancy = line.vacancy().onEachRow(row -> line.proxy().lose(Loss.BEFORE, 0));
            assertThatThrownBy(
                            () -> vacancy.execute(Request.erase("boat").key(1).expect(1)))
                    .isInstanceOf(StoreException.class)
                    .hasMessageContaining("Nothing was changed");
            assertThat(line.gone()).isFalse();
            assertThat(line.commits().get()).isZero();
        }
    }

    @OnEveryEngine
    void theSameIdAfterALostAnswerReturnsTheFirstReceipt(Engine engine) {
        try (Line line = line(engine, true)) {
            Request request = Request.erase("boat").key(1).id("form-4711").withoutConfirmation("a test");
            line.loser().lose(Loss.ANSWER, 0);
            Vacancy unreachable = line.vacancy().onEachRow(row -> line.loser().unreachable = true);
            Outcome doubt = unreachable.execute(request);
            assertThat(doubt).isInstanceOf(Outcome.InDoubt.class);
            line.loser().unreachable = false;
            Outcome again = line.vacancy().execute(request);
            assertThat(again).isInstanceOf(Outcome.Done.class);
            assertThat(((Outcome.Done) again).repeated()).isTrue();
            assertThat(again.receiptOrThrow().id()).isEqualTo(((Outcome.InDoubt) doubt).receipt());
            assertThat(line.bench().count("vacancy_receipt")).isEqualTo(1);
        }
    }

    @OnEveryEngine
    void afterAsManyLossesAsAttemptsItIsKnownThatNothingWasChanged(Engine engine) {
        try (Line line = line(engine, true)) {
            line.loser().lose(Loss.BEFORE, 0);
            Vacancy always = line.vacancy().onEachRow(row -> line.loser().lose(Loss.BEFORE, 0));
            assertThatThrownBy(() -> always.execute(Request.erase("boat").key(1).expect(1)))
                    .isInstanceOf(StoreException.class)
                    .hasMessageContaining("Nothing was changed");
            assertThat(line.gone()).isFalse();
            assertThat(line.bench().count("vacancy_receipt")).isZero();
        }
    }

    /** Ended just before its commit, a session of H2 says so; ended during it, only what comes after does: {@link StressTest}. */
    @Test
    void aSessionThatIsEndedJustBeforeItsCommitIsBegunAnew() {
        Bench bench = Bench.of(
                Engine.H2, "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)", "INSERT INTO boat VALUES (1), (2)");
        bench.vacancy().archive().setUp();
        AtomicInteger endings = new AtomicInteger();
        DataSource ending = (DataSource) Proxy.newProxyInstance(
                DataSource.class.getClassLoader(), new Class<?>[] {DataSource.class}, (own, method, given) -> {
                    Connection connection = bench.database().source().getConnection();
                    return Proxy.newProxyInstance(
                            Connection.class.getClassLoader(),
                            new Class<?>[] {Connection.class},
                            (it, called, values) -> {
                                if (called.getName().equals("commit")
                                        && endings.getAndUpdate(left -> Math.max(0, left - 1)) > 0) {
                                    end(bench, connection);
                                }
                                return invoke(called, connection, values);
                            });
                });
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(ending)).actor(() -> "Mira Holm").open();
        vacancy.preview(Request.erase("boat").key(1));
        endings.set(1);
        Outcome ended = vacancy.execute(Request.erase("boat").key(1).expect(1));
        assertThat(ended).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("boat")).isEqualTo(1);
        assertThat(bench.count("vacancy_receipt")).isEqualTo(1);
    }

    private static void end(Bench bench, Connection connection) throws SQLException {
        try (Statement statement = connection.createStatement();
                ResultSet row = statement.executeQuery("SELECT SESSION_ID()")) {
            row.next();
            bench.database().run("CALL ABORT_SESSION(" + row.getInt(1) + ")");
        }
    }
}
