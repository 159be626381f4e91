// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.engines.Engine;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import org.junit.jupiter.api.Test;

/** What a constraint has against rows that would be restored is told with the rows, and nothing is restored. */
class RejectedRowsTest {

    private static void isBlocked(Bench bench, Receipt gone, int rows, String word) {
        Preview back = bench.vacancy().preview(Request.restore(gone.id()));
        assertThat(back.state()).isEqualTo(Preview.State.READY);
        Outcome ending = bench.vacancy().execute(back, back.question().answer("yes"));
        assertThat(ending).isInstanceOf(Outcome.Blocked.class);
        Blocker blocker = ((Outcome.Blocked) ending).preview().blockers().get(0);
        assertThat(blocker.rows()).isEqualTo(rows);
        assertThat(blocker.sample()).hasSize(Math.min(rows, 5));
        assertThat(blocker.message())
                .startsWith("the database does not take them: ")
                .containsIgnoringCase(word);
    }

    @OnEveryEngine
    void aCheckThatCameSince(Engine engine) {
        String check = "CHECK (length > 0)";
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, length INTEGER)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)",
                "INSERT INTO boat VALUES (1, 9), (2, -1), (3, 12), (4, 0), (5, 7)",
                "INSERT INTO mooring VALUES (1, 1), (2, 2)");
        bench.vacancy().archive().setUp();
        Receipt gone = bench.vacancy()
                .execute(Request.erase("boat").everyRow().withoutConfirmation("test"))
                .receiptOrThrow();
        if (engine == Engine.SQLITE) {
            bench.database()
                    .run(
                            "DROP TABLE mooring",
                            "DROP TABLE boat",
                            "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, length INTEGER " + check + ")",
                            "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL,"
                                    + " FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)");
        } else {
            bench.database().run("ALTER TABLE boat ADD CONSTRAINT long_enough " + check);
        }
        isBlocked(bench, gone, 2, engine == Engine.SQLITE ? "length > 0" : "long_enough");
        assertThat(bench.count("boat")).isZero();
        // The others can come back by themselves.
        bench.vacancy()
                .execute(Request.restore(gone.id(), "boat").keys(1, 3, 5).withoutConfirmation("test"))
                .receiptOrThrow();
        assertThat(bench.count("boat")).isEqualTo(3);
        assertThat(bench.count("mooring")).isEqualTo(1);
    }

    @Test
    void aPeriodThatSomebodyElseHasTaken() {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, during daterange,"
                        + " CONSTRAINT one_at_a_time EXCLUDE USING gist (during WITH &&))",
                "INSERT INTO stay VALUES (1, '[2026-01-01,2026-02-01)'), (2, '[2026-03-01,2026-04-01)')");
        bench.vacancy().archive().setUp();
        Receipt gone = bench.vacancy()
                .execute(Request.erase("stay").everyRow().withoutConfirmation("test"))
                .receiptOrThrow();
        bench.database().run("INSERT INTO stay VALUES (3, '[2026-03-15,2026-03-20)')");
        isBlocked(bench, gone, 1, "one_at_a_time");
        assertThat(bench.count("stay")).isEqualTo(1);
    }
}
