// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotSetUpException;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.Bypass;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;

/** Triggers see what is done around Vacancy, and never what is done through it. */
class BypassTest {

    private static final RuleBook RULES =
            RuleBook.build(book -> book.table("boat", table -> table.marker(Marker.date("left_on")))
                    .table("skipper", table -> table.personal("email")));

    private static Bench bench(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE skipper (email VARCHAR(40) NOT NULL PRIMARY KEY)",
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), left_on DATE)",
                "CREATE TABLE mooring (pier INTEGER NOT NULL, berth VARCHAR(10) NOT NULL, boat_id INTEGER,"
                        + " PRIMARY KEY (pier, berth), FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "INSERT INTO skipper VALUES ('mira@harbour.example')",
                "INSERT INTO boat VALUES (1, 'Osprey', NULL), (2, 'Heron', NULL), (3, 'Tern', NULL), (4, 'Gull', NULL)",
                "INSERT INTO mooring VALUES (7, 'a', 1), (7, 'b''c', 2), (8, 'd', NULL), (8, 'e', NULL)");
        return bench;
    }

    private static Vacancy open(Bench bench) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> "Mira Holm")
                .open();
    }

    @OnEveryEngine
    void whatNoReceiptCoversIsRecorded(Engine engine) throws SQLException {
        Bench bench = bench(engine);
        Vacancy vacancy = open(bench);
        assertThatThrownBy(() -> vacancy.trail().bypassTriggers(false)).isInstanceOf(NotSetUpException.class);
        vacancy.archive().setUp();
        if (engine == Engine.H2) {
            assertThatThrownBy(() -> vacancy.trail().bypassTriggers(false))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("no triggers that can be written in SQL");
            return;
        }
        bench.database().run(vacancy.trail().bypassTriggers(false).toArray(String[]::new));
        vacancy.refresh();
        assertThat(vacancy.archive().ready()).isTrue();
        assertThat(vacancy.trail().bypasses(10)).isEmpty();

        // Through Vacancy: nothing is recorded, and nothing of the triggers is told.
        Preview preview = vacancy.preview(Request.erase("boat").key(1).rule("mooring.boat_id", "cascade"));
        assertThat(preview.warnings()).isEmpty();
        Receipt gone =
                vacancy.execute(preview, preview.question().answer("yes")).receiptOrThrow();
        vacancy.execute(Request.restore(gone.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        vacancy.execute(Request.softDelete("boat").key(3).expect(1)).receiptOrThrow();
        vacancy.execute(Request.restore("boat").key(3).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(vacancy.trail().bypasses(10)).isEmpty();
        assertThat(bench.count("vacancy_executing")).isZero();

        // Around it, in the same transaction before and after a receipt.
        try (Connection connection = bench.database().source().getConnection();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("DELETE FROM mooring WHERE pier = 7 AND boat_id = 2");
            vacancy.within(connection)
                    .execute(Request.erase("boat").key(2).expect(1))
                    .receiptOrThrow();
            statement.execute("UPDATE boat SET left_on = '2026-05-04' WHERE id = 3");
            statement.execute("UPDATE boat SET name = 'Terns' WHERE id = 3");
            statement.execute("DELETE FROM boat WHERE id = 4");
            statement.execute("DELETE FROM skipper");
            connection.commit();
        }
        List<Bypass> found = vacancy.trail().bypasses(10);
        assertThat(found)
                .extracting(Bypass::table, Bypass::key, Bypass::action)
                .containsExactly(
                        tuple("skipper", null, "delete"),
                        tuple("boat", "4", "delete"),
                        tuple("boat", "3", "mark"),
                        tuple("mooring", "pier=7,berth=b'c", "delete"));
        assertThat(found)
                .allSatisfy(bypass -> assertThat(bypass.at()).isAfter(gone.at().minusSeconds(60)));
        assertThat(found).extracting(Bypass::user).allMatch(user -> (user == null) == (engine == Engine.SQLITE));
        assertThat(vacancy.trail().bypasses(1)).hasSize(1);
        if (engine == Engine.POSTGRESQL) {
            bench.database().run("TRUNCATE mooring");
            assertThat(vacancy.trail().bypasses(1)).extracting(Bypass::action).containsExactly("truncate");
        }
        // Its tables are not taken for the application's, and are brought up to date with the others.
        assertThat(vacancy.archive().script()).isEmpty();
        assertThat(vacancy.schema().tables()).extracting(Object::toString).doesNotContain("vacancy_bypass");
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RULES)
                .actor(() -> "Jonas Reik")
                .scope(() -> Scope.where("id", 1).open("skipper").open("mooring"))
                .open();
        assertThatThrownBy(() -> scoped.trail().bypasses(10)).isInstanceOf(MisuseException.class);
    }

    @OnEveryEngine
    void whatNoReceiptCoversIsRefused(Engine engine) {
        if (engine == Engine.H2) {
            return;
        }
        Bench bench = bench(engine);
        Vacancy vacancy = open(bench);
        vacancy.archive().setUp();
        bench.database().run(vacancy.trail().bypassTriggers(false).toArray(String[]::new));
        vacancy.refresh();
        bench.database().run(vacancy.trail().bypassTriggers(true, "boat").toArray(String[]::new));
        for (String around :
                List.of("DELETE FROM boat WHERE id = 4", "UPDATE boat SET left_on = '2026-05-04' WHERE id = 3")) {
            assertThatThrownBy(() -> bench.database().run(around))
                    .hasStackTraceContaining("Rows of boat are deleted and marked through Vacancy only");
        }
        bench.database().run("UPDATE boat SET name = 'Terns' WHERE id = 3");
        vacancy.execute(Request.erase("boat").key(4).expect(1)).receiptOrThrow();
        vacancy.execute(Request.softDelete("boat").key(3).expect(1)).receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(vacancy.trail().bypasses(10)).isEmpty();
    }
}
