// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.zaxxer.hikari.HikariConfig;
import com.zaxxer.hikari.HikariDataSource;
import io.vacancy.Vacancy;
import io.vacancy.access.Permission;
import io.vacancy.access.Permission.Act;
import io.vacancy.engines.Engine;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.StoreException;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.Test;

/** What goes wrong outside: told with step and table, nothing half done, the pooled connection clean again. */
class FaultsTest {

    private static final Request BOAT = Request.delete("boat").key(17).expect(1);

    @Test
    void aWrongPasswordIsToldAsSuch() {
        Bench bench = Bench.harbour(Engine.H2);
        org.h2.jdbcx.JdbcDataSource source = new org.h2.jdbcx.JdbcDataSource();
        source.setURL(bench.database().url());
        source.setUser("sa");
        source.setPassword("wrong-word");

        assertThatThrownBy(() -> JdbcStore.of(source))
                .isInstanceOfSatisfying(StoreException.class, failed -> assertThat(failed.hint())
                        .contains("password"))
                .hasMessageContaining("cannot be reached")
                .hasMessageNotContaining("wrong-word");
    }

    @Test
    void anUnknownEngineIsRefusedWithTheKnownOnes() {
        javax.sql.DataSource cobalt = proxy(
                javax.sql.DataSource.class,
                (self, method, arguments) -> proxy(
                        Connection.class,
                        (connection, call, given) -> call.getName().equals("getMetaData")
                                ? proxy(java.sql.DatabaseMetaData.class, (data, ask, none) -> "Cobalt")
                                : null));

        assertThatThrownBy(() -> JdbcStore.of(cobalt))
                .isInstanceOfSatisfying(io.vacancy.failure.MisuseException.class, failed -> assertThat(failed.hint())
                        .isEqualTo("It supports H2, MariaDB, PostgreSQL, SQLite."))
                .hasMessage("Vacancy does not support the database Cobalt.");
    }

    private static <T> T proxy(Class<T> type, java.lang.reflect.InvocationHandler handler) {
        return type.cast(
                java.lang.reflect.Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, handler));
    }

    @Test
    void aMissingRightOnOneChildTableNamesItAndRollsEverythingBack() throws SQLException {
        Bench bench = Bench.harbour(Engine.POSTGRESQL);
        bench.database()
                .run(
                        "DROP ROLE IF EXISTS clerk",
                        "CREATE ROLE clerk LOGIN",
                        "GRANT SELECT, UPDATE, DELETE ON ALL TABLES IN SCHEMA public TO clerk",
                        "REVOKE DELETE ON power_reading FROM clerk");
        try (HikariDataSource pool = pool(bench.database().url().replace("user=postgres", "user=clerk"))) {
            assertThatThrownBy(() -> open(pool, null).execute(BOAT))
                    .isInstanceOfSatisfying(StoreException.class, failed -> {
                        assertThat(failed.table()).isEqualTo("power_reading");
                        assertThat(failed.step()).isEqualTo("removing rows of");
                        assertThat(failed).hasMessageContaining("removing rows of table power_reading");
                        assertThat(failed.hint()).contains("lacks a right");
                    });
            assertWhole(bench);
            assertClean(pool);
            bench.database().run("GRANT DELETE ON power_reading TO clerk");
            assertThat(open(pool, null).execute(BOAT)).isInstanceOf(Outcome.Done.class);
            bench.database().run("DROP OWNED BY clerk");
        }
    }

    @Test
    void aServerThatGoesAwayInTheMiddleLeavesEverythingAsItWas() throws SQLException {
        Bench bench = Bench.harbour(Engine.POSTGRESQL);
        try (HikariDataSource pool = pool(bench.database().url())) {
            Permission cutTheLine = (who, table, act) -> {
                if (act == Act.CHANGE_LINKS) {
                    bench.database()
                            .run("SELECT pg_terminate_backend(pid) FROM pg_stat_activity"
                                    + " WHERE datname = current_database() AND state = 'idle in transaction'");
                }
                return null;
            };
            assertThatThrownBy(() -> open(pool, cutTheLine).execute(BOAT))
                    .isInstanceOfSatisfying(StoreException.class, failed -> {
                        assertThat(failed.hint()).contains("connection is gone");
                        assertThat(failed.table()).isNotNull();
                    });
            assertWhole(bench);
            assertClean(pool);
            assertThat(open(pool, null).execute(BOAT)).isInstanceOf(Outcome.Done.class);
        }
    }

    @Test
    void aStatementThatTakesTooLongIsToldWithItsTable() throws SQLException {
        Bench bench = Bench.harbour(Engine.POSTGRESQL);
        try (HikariDataSource pool = pool(bench.database().url() + "&options=-c%20statement_timeout=300");
                Connection other = bench.database().connect()) {
            other.setAutoCommit(false);
            try (Statement statement = other.createStatement()) {
                statement.execute("UPDATE mooring SET left_on = NULL WHERE id = 507");
            }
            assertThatThrownBy(() -> open(pool, null).execute(BOAT))
                    .isInstanceOfSatisfying(StoreException.class, failed -> {
                        assertThat(failed.table()).isEqualTo("mooring");
                        assertThat(failed.relation()).isEqualTo("mooring.boat_id");
                        assertThat(failed.hint()).contains("longer than a statement may take");
                    });
            other.rollback();
            assertWhole(bench);
            assertClean(pool);
        }
    }

    @Test
    void aDatabaseThatCanOnlyBeReadIsPreviewedAndNotDeletedFrom() throws SQLException {
        Bench bench = Bench.harbour(Engine.POSTGRESQL);
        String url = bench.database().url() + "&options=-c%20default_transaction_read_only=on";
        try (HikariDataSource pool = pool(url)) {
            Vacancy vacancy = open(pool, null);
            assertThat(vacancy.preview(BOAT).effects()).hasSize(6);
            assertThatThrownBy(() -> vacancy.execute(BOAT))
                    .isInstanceOfSatisfying(StoreException.class, failed -> assertThat(failed.hint())
                            .contains("only be read"));
            assertWhole(bench);
            assertClean(pool);
        }
    }

    @Test
    void aFullDiskUndoesWhatWasDoneUntilThen() throws SQLException {
        Bench bench = Bench.harbour(Engine.SQLITE);
        bench.database()
                .run(
                        "CREATE TABLE copy (kept BLOB)",
                        "CREATE TRIGGER copying AFTER DELETE ON mooring BEGIN INSERT INTO copy VALUES (zeroblob(900000)); END");
        long pages = bench.database().number("PRAGMA page_count");
        try (HikariDataSource pool = pool(bench.database().url() + "?max_page_count=" + (pages + 20))) {
            assertThatThrownBy(() -> open(pool, null).execute(BOAT))
                    .isInstanceOfSatisfying(StoreException.class, failed -> {
                        assertThat(failed.table()).isEqualTo("mooring");
                        assertThat(failed.hint()).contains("no room left");
                    });
            assertWhole(bench);
            assertClean(pool);
        }
    }

    @OnEveryEngine
    void theNumberOfStatementsDoesNotGrowWithTheRows(Engine engine) {
        Bench bench = Bench.harbour(engine);
        CountingSource counting = new CountingSource(bench.database().source());
        Vacancy vacancy =
                Vacancy.on(JdbcStore.of(counting)).actor(() -> "Mira Holm").open();

        vacancy.execute(Request.delete("boat").key(12).expect(1)).receiptOrThrow();
        int few = counting.statements();
        vacancy.preview(Request.delete("boat").key(17));
        int previewFew = counting.statements();
        StringBuilder fees = new StringBuilder("INSERT INTO fee VALUES (10000, 7, 507, 1.00, '2026-01-01', TRUE)");
        for (int id = 10_001; id < 10_400; id++) {
            fees.append(", (" + id + ", 7, 507, 1.00, '2026-01-01', TRUE)");
        }
        bench.database().run(fees.toString());
        vacancy.preview(Request.delete("boat").key(17));
        int previewMany = counting.statements();
        vacancy.execute(Request.delete("boat").key(17).expect(1)).receiptOrThrow();
        int many = counting.statements();

        System.out.println(engine + ": statements of a preview " + previewFew + " with 15 rows, " + previewMany
                + " with 415; of a deletion " + few + " and " + many);
        assertThat(previewMany).isEqualTo(previewFew).isLessThan(30);
        // The first boat has no readings and no work orders, so that fewer tables are touched.
        assertThat(many).isLessThan(40);
        assertThat(many - few).isLessThan(10);
    }

    private static HikariDataSource pool(String url) {
        HikariConfig config = new HikariConfig();
        config.setJdbcUrl(url);
        config.setMaximumPoolSize(1);
        return new HikariDataSource(config);
    }

    private static Vacancy open(DataSource source, Permission permission) {
        Vacancy.Builder builder = Vacancy.on(JdbcStore.of(source)).actor(() -> "Mira Holm");
        return (permission == null ? builder : builder.permission(permission)).open();
    }

    private static void assertWhole(Bench bench) {
        assertThat(bench.count("boat")).isEqualTo(8);
        assertThat(bench.count("mooring")).isEqualTo(8);
        assertThat(bench.count("fee")).isEqualTo(9);
        assertThat(bench.count("power_reading")).isEqualTo(10);
        assertThat(bench.count("work_order WHERE boat_id = 17")).isEqualTo(2);
    }

    private static void assertClean(HikariDataSource pool) throws SQLException {
        try (Connection connection = pool.getConnection();
                Statement statement = connection.createStatement()) {
            assertThat(connection.getAutoCommit()).isTrue();
            statement.executeQuery("SELECT COUNT(*) FROM boat").close();
        }
    }

    /** A trigger that refuses without an error would say "changed, look again" for ever. */
    @OnEveryEngine
    void whatATriggerKeepsSilentlyIsRefusedWithItsName(Engine engine) {
        List<String> statements = new ArrayList<>(List.of(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE rope (id INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO boat VALUES (1), (2)",
                "INSERT INTO rope VALUES (1)"));
        switch (engine) {
            case SQLITE ->
                statements.add("CREATE TRIGGER keeper BEFORE DELETE ON boat WHEN OLD.id = 1 BEGIN SELECT RAISE(IGNORE);"
                        + " END");
            case POSTGRESQL ->
                statements.addAll(List.of(
                        "CREATE FUNCTION keep() RETURNS trigger LANGUAGE plpgsql AS 'BEGIN IF OLD.id = 1 THEN RETURN NULL;"
                                + " END IF; RETURN OLD; END'",
                        "CREATE TRIGGER keeper BEFORE DELETE ON boat FOR EACH ROW EXECUTE FUNCTION keep()",
                        "CREATE RULE ropekeeper AS ON DELETE TO rope DO INSTEAD NOTHING"));
            default -> {
                return; // Triggers of the others refuse with an error or not at all.
            }
        }
        Bench bench = Bench.of(engine, statements.toArray(String[]::new));
        bench.vacancy().archive().setUp();
        for (Request request : List.of(
                Request.erase("boat").key(1).expect(1),
                Request.erase("boat").keys(List.of(1, 2)).withoutConfirmation("a test"))) {
            Outcome refused = bench.vacancy().execute(request);
            assertThat(refused.state()).isEqualTo(Outcome.State.REFUSED);
            assertThat(refused.message()).contains("a trigger or rule of the table", "keeper");
        }
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(bench.vacancy()
                        .execute(Request.erase("boat").key(2).expect(1))
                        .state())
                .isEqualTo(Outcome.State.DONE);
        if (engine == Engine.POSTGRESQL) {
            Outcome refused =
                    bench.vacancy().execute(Request.erase("rope").key(1).expect(1));
            assertThat(refused.message()).contains("ropekeeper");
        }
    }

    /** A node of a cluster that has lost the others says so at the first statement, which is that of reading the tables. */
    @Test
    void aNodeThatIsNotReadyIsBusyFromTheStart() {
        DataSource notReady = (DataSource) Proxy.newProxyInstance(
                DataSource.class.getClassLoader(), new Class<?>[] {DataSource.class}, (own, method, given) -> {
                    Connection connection = Engine.MARIADB.fresh().connect();
                    return Proxy.newProxyInstance(
                            Connection.class.getClassLoader(),
                            new Class<?>[] {Connection.class},
                            (it, called, values) -> {
                                if (called.getName().equals("prepareStatement")) {
                                    throw new SQLException(
                                            "WSREP has not yet prepared node for application use", "08S01", 1047);
                                }
                                return called.invoke(connection, values);
                            });
                });
        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(notReady))
                        .actor(() -> "Mira Holm")
                        .open()
                        .preview(Request.erase("boat").key(1)))
                .isInstanceOf(BusyException.class)
                .hasMessageContaining("WSREP has not yet prepared node");
    }
}
