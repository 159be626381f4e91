// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import org.junit.jupiter.api.Test;

/** Rows that PostgreSQL's policies hide are not deleted by a foreign key that nobody looked behind. */
class RowSecurityTest {

    private static final RuleBook RULES = RuleBook.build(
            book -> book.relation("mooring.boat_id", Rule.cascade()).relation("fee.mooring_id", Rule.block("unpaid")));

    private static Bench bench() {
        return Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE boat (id INTEGER PRIMARY KEY, harbour_id INTEGER)",
                "CREATE TABLE mooring (id INTEGER PRIMARY KEY, harbour_id INTEGER, boat_id INTEGER REFERENCES boat ON"
                        + " DELETE CASCADE)",
                "CREATE TABLE fee (id INTEGER PRIMARY KEY, harbour_id INTEGER, mooring_id INTEGER REFERENCES mooring ON"
                        + " DELETE CASCADE)",
                "INSERT INTO boat VALUES (1, 7), (2, 7)",
                "INSERT INTO mooring VALUES (10, 7, 1), (11, 8, 1)",
                "INSERT INTO fee VALUES (100, 8, 10)",
                "ALTER TABLE mooring ENABLE ROW LEVEL SECURITY",
                "ALTER TABLE fee ENABLE ROW LEVEL SECURITY",
                "CREATE POLICY own ON mooring USING (harbour_id = 7)",
                "CREATE POLICY own ON fee USING (harbour_id = 7)",
                "DROP ROLE IF EXISTS clerk",
                "CREATE ROLE clerk",
                "GRANT ALL ON ALL TABLES IN SCHEMA public TO clerk");
    }

    private static Outcome asClerk(Bench bench, RuleBook rules, Request request) throws SQLException {
        try (Connection connection = bench.database().source().getConnection();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("SET LOCAL ROLE clerk");
            Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                    .rules(rules)
                    .actor(() -> "Mira Holm")
                    .open()
                    .within(connection);
            Preview preview = vacancy.preview(request);
            Outcome outcome = preview.state() == Preview.State.READY
                    ? vacancy.execute(preview, preview.question().answer("yes"))
                    : vacancy.execute(request.expect(1));
            connection.rollback();
            return outcome;
        }
    }

    @Test
    void aDeletionIsRefusedWhereAPolicyMayHideWhatItReaches() throws SQLException {
        Bench bench = bench();
        Outcome refused = asClerk(bench, RULES, Request.erase("boat").key(1));
        assertThat(refused.state()).isEqualTo(Outcome.State.REFUSED);
        assertThat(refused.message())
                .contains("A row security policy may hide rows of mooring, fee from this database user");
        assertThat(asClerk(bench, RULES, Request.erase("boat").key(2)).state()).isEqualTo(Outcome.State.REFUSED);
        // Of the selected table what is seen is meant.
        assertThat(asClerk(bench, RULES, Request.erase("fee").key(100)).state()).isEqualTo(Outcome.State.NOTHING);
        assertThat(bench.count("mooring")).isEqualTo(2);

        RuleBook promised = RuleBook.build(book -> book.table("mooring", table -> table.withNothingHidden())
                .table("fee", table -> table.withNothingHidden())
                .relation("mooring.boat_id", Rule.cascade())
                .relation("fee.mooring_id", Rule.cascade()));
        assertThat(asClerk(bench, promised, Request.erase("boat").key(2)).state())
                .isEqualTo(Outcome.State.DONE);

        // From the owner nothing is hidden, unless the table says so.
        assertThat(bench.vacancy().preview(Request.erase("boat").key(2)).state())
                .isEqualTo(Preview.State.READY);
    }
}
