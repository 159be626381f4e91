// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.SkippedRow;
import io.vacancy.request.Key;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.PreparedStatement;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Relations of every shape, and the rules on them. */
class ShapesTest {

    private static Vacancy with(Bench bench, RuleBook rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .open();
    }

    @OnEveryEngine
    void aTreeTenThousandDeep(Engine engine) throws SQLException {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, answers INTEGER,"
                        + " FOREIGN KEY (answers) REFERENCES note (id))",
                "CREATE INDEX note_answers ON note (answers)");
        try (Connection connection = bench.database().connect();
                PreparedStatement insert = connection.prepareStatement("INSERT INTO note VALUES (?, ?)")) {
            connection.setAutoCommit(false);
            for (int id = 1; id <= 10_000; id++) {
                insert.setInt(1, id);
                insert.setObject(2, id == 1 ? null : id - 1);
                insert.executeUpdate();
            }
            connection.commit();
        }

        Outcome outcome = with(bench, RuleBook.build(book -> book.relation("note.answers", Rule.cascade())))
                .execute(Request.delete("note").key(2).expect(1));

        assertThat(outcome.receiptOrThrow().totals()).containsExactly(Map.entry(Action.DELETE, 9_999L));
        assertThat(bench.count("note")).isEqualTo(1);
    }

    @OnEveryEngine
    void aRowThatRefersToItselfAndCannotDoOtherwise(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE club (id INTEGER NOT NULL PRIMARY KEY, parent_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (parent_id) REFERENCES club (id))",
                "INSERT INTO club VALUES (1, 1)",
                "INSERT INTO club VALUES (2, 1)",
                "INSERT INTO club VALUES (3, 2)",
                "INSERT INTO club VALUES (9, 9)");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("club.parent_id", Rule.cascade())));

        assertThat(vacancy.execute(Request.delete("club").key(1).expect(1))
                        .receiptOrThrow()
                        .totals())
                .containsExactly(Map.entry(Action.DELETE, 3L));
        assertThat(bench.count("club")).isEqualTo(1);
    }

    @OnEveryEngine
    void twoTablesThatCannotDoWithoutEachOther(Engine engine) throws SQLException {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE skiff (id INTEGER NOT NULL PRIMARY KEY, captain_id INTEGER NOT NULL"
                        + (engine == Engine.SQLITE ? ", FOREIGN KEY (captain_id) REFERENCES captain (id)" : "") + ")",
                "CREATE TABLE captain (id INTEGER NOT NULL PRIMARY KEY, skiff_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (skiff_id) REFERENCES skiff (id))");
        try (Connection connection = bench.database().connect();
                Statement statement = connection.createStatement()) {
            if (engine == Engine.SQLITE) {
                statement.execute("PRAGMA foreign_keys = OFF");
            }
            for (int id = 1; id <= 2; id++) {
                statement.execute("INSERT INTO skiff VALUES (" + id + ", " + id + ")");
                statement.execute("INSERT INTO captain VALUES (" + id + ", " + id + ")");
            }
            if (engine != Engine.SQLITE) {
                statement.execute("ALTER TABLE skiff ADD FOREIGN KEY (captain_id) REFERENCES captain (id)");
            }
        }
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("captain.skiff_id", Rule.cascade())
                .relation("skiff.captain_id", Rule.cascade())));

        Preview preview = vacancy.preview(Request.delete("skiff").key(1));

        if (engine == Engine.H2 || engine == Engine.OTHER) {
            assertThat(preview.state()).isEqualTo(State.BLOCKED);
            assertThat(preview.blockers().get(0).reason()).contains(" cannot remove rows of several tables");
        } else {
            assertThat(vacancy.execute(preview, preview.question().answer("yes"))
                            .receiptOrThrow()
                            .totals())
                    .containsExactly(Map.entry(Action.DELETE, 2L));
            assertThat(bench.count("skiff")).isEqualTo(1);
            assertThat(bench.count("captain")).isEqualTo(1);
        }
    }

    @OnEveryEngine
    void compositePartlyNullAndUniqueKeysAndLinkTablesWithoutAKey(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE slip (pier VARCHAR(5) NOT NULL, no INTEGER NOT NULL, code VARCHAR(10) NOT NULL UNIQUE,"
                        + " PRIMARY KEY (pier, no))",
                "CREATE TABLE stay (id INTEGER NOT NULL PRIMARY KEY, pier VARCHAR(5), no INTEGER,"
                        + " FOREIGN KEY (pier, no) REFERENCES slip (pier, no))",
                "CREATE TABLE sign (id INTEGER NOT NULL PRIMARY KEY, code VARCHAR(10) NOT NULL,"
                        + " FOREIGN KEY (code) REFERENCES slip (code))",
                "CREATE TABLE lamp (pier VARCHAR(5) NOT NULL, no INTEGER NOT NULL, watts INTEGER,"
                        + " PRIMARY KEY (pier, no), FOREIGN KEY (pier, no) REFERENCES slip (pier, no))",
                "INSERT INTO slip VALUES ('A', 1, 'A1')",
                "INSERT INTO slip VALUES ('A', 2, 'A2')",
                "INSERT INTO stay VALUES (1, 'A', 1)",
                "INSERT INTO stay VALUES (2, 'A', NULL)",
                "INSERT INTO stay VALUES (3, NULL, 1)",
                "INSERT INTO stay VALUES (4, 'A', 2)",
                "INSERT INTO sign VALUES (1, 'A1')",
                "INSERT INTO sign VALUES (2, 'A2')",
                "INSERT INTO lamp VALUES ('A', 1, 40)",
                "INSERT INTO lamp VALUES ('A', 2, 60)");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation(
                        "stay(pier,no)", Rule.reassignTo(Key.of("pier", "A", "no", 2)))
                .relation("sign.code", Rule.reassignTo("A2"))
                .relation("lamp(pier,no)", Rule.cascade())));

        Receipt receipt = vacancy.execute(
                        Request.delete("slip").key("pier=A,no=1").expect(1))
                .receiptOrThrow();

        assertThat(receipt.totals()).containsOnly(Map.entry(Action.DELETE, 2L), Map.entry(Action.REASSIGN, 2L));
        assertThat(bench.count("stay WHERE pier = 'A' AND no = 2")).isEqualTo(2);
        assertThat(bench.count("stay")).isEqualTo(4);
        assertThat(bench.count("sign WHERE code = 'A2'")).isEqualTo(2);
        assertThat(bench.count("lamp")).isEqualTo(1);
    }

    @OnEveryEngine
    void aParentIsNamedByTheRequestOrByTheRowThatGoes(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("work_order.yard_id", Rule.reassign())
                .relation("logbook_entry.answers", Rule.reassignToParents("answers"))));
        long orders = bench.count("work_order WHERE yard_id = 1");
        long answering = bench.database()
                .number("SELECT MIN(a.id) FROM logbook_entry a WHERE a.answers IS NOT NULL AND EXISTS"
                        + " (SELECT 1 FROM logbook_entry b WHERE b.answers = a.id)");
        long itsParent = bench.database().number("SELECT answers FROM logbook_entry WHERE id = " + answering);
        long itsAnswers = bench.count("logbook_entry WHERE answers = " + answering);

        Preview unsaid = vacancy.preview(Request.delete("yard").key(1));
        Preview gone = vacancy.preview(Request.delete("yard").key(1).reassign("work_order.yard_id", 99));
        Preview itself = vacancy.preview(Request.delete("yard").key(1).reassign("work_order.yard_id", 1));
        Receipt receipt = vacancy.execute(Request.delete("yard")
                        .key(1)
                        .reassign("work_order.yard_id", 2)
                        .expect(1))
                .receiptOrThrow();
        vacancy.execute(Request.delete("logbook_entry").key(answering).expect(1))
                .receiptOrThrow();

        assertThat(unsaid.state()).isEqualTo(State.BLOCKED);
        assertThat(unsaid.blockers().get(0).reason()).contains("the request does not say which");
        assertThat(unsaid.blockers().get(0).permittedRules()).contains("reassign:KEY");
        assertThat(gone.blockers().get(0).reason()).contains("yard 99").contains("is not there");
        assertThat(itself.blockers().get(0).reason()).contains("is deleted itself");
        assertThat(receipt.rules()).containsExactly(Map.entry("work_order.yard_id", "reassign:2"));
        assertThat(receipt.totals()).containsEntry(Action.REASSIGN, orders);
        assertThat(bench.count("work_order WHERE yard_id = 1")).isZero();
        assertThat(bench.count("logbook_entry WHERE answers = " + itsParent)).isGreaterThanOrEqualTo(itsAnswers);
    }

    @OnEveryEngine
    void whatARequestMayAskForTheRuleBookSays(Engine engine) {
        Bench bench = Bench.harbour(engine);
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation(
                        "inspection.boat_id", List.of("cascade"), Rule.block("kept for the insurer"))
                .relation("fee.mooring_id", Rule.block("books are open"))));

        Preview blocked = vacancy.preview(Request.delete("boat").key(14));

        assertThat(blocked.blockers()).anySatisfy(blocker -> {
            assertThat(blocker.reason()).isEqualTo("kept for the insurer");
            assertThat(blocker.permittedRules()).containsExactly("cascade");
        });
        assertThatThrownBy(() -> vacancy.preview(Request.delete("boat").key(14).rule("fee.mooring_id", "cascade")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("does not permit cascade on fee.mooring_id");
        assertThat(vacancy.preview(Request.delete("mooring").key(503).rule("power_reading.mooring_id", "block:counted"))
                        .blockers())
                .extracting("reason")
                .contains("counted");
        assertThatThrownBy(() -> vacancy.preview(Request.delete("boat").key(14).rule("fee.moring_id", "cascade")))
                .hasMessageContaining("did you mean fee.mooring_id");
        assertThatThrownBy(() -> vacancy.preview(Request.delete("boat").key(14).rule("inspection.boat_id", "kascade")))
                .hasMessageContaining("is no rule");
    }

    @OnEveryEngine
    void aHundredThousandAreSparedInSets(Engine engine) throws SQLException {
        int many = engine == Engine.MARIADB || engine == Engine.H2 ? 20_000 : 100_000;
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE buoy (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE chain (id INTEGER NOT NULL PRIMARY KEY, buoy_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (buoy_id) REFERENCES buoy (id))",
                "CREATE TABLE link (id INTEGER NOT NULL PRIMARY KEY, chain_id INTEGER NOT NULL, rusty INTEGER NOT NULL,"
                        + " FOREIGN KEY (chain_id) REFERENCES chain (id))",
                "CREATE INDEX chain_buoy ON chain (buoy_id)",
                "CREATE INDEX link_chain ON link (chain_id)",
                "CREATE TABLE digit (n INTEGER NOT NULL PRIMARY KEY)",
                "INSERT INTO digit VALUES (0), (1), (2), (3), (4), (5), (6), (7), (8), (9)",
                "INSERT INTO buoy SELECT i FROM (SELECT a.n + 10 * b.n + 100 * c.n + 1000 * d.n + 10000 * e.n AS i FROM"
                        + " digit a CROSS JOIN digit b CROSS JOIN digit c CROSS JOIN digit d CROSS JOIN digit e) x"
                        + " WHERE i < " + many,
                "INSERT INTO chain SELECT id, id FROM buoy",
                "INSERT INTO link SELECT id, id, CASE WHEN id % 10 = 3 THEN 1 ELSE 0 END FROM chain");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("chain.buoy_id", Rule.cascade())
                .relation("link.chain_id", Rule.when(column("rusty").equalTo(1)).block("rusty"), Rule.cascade())));

        Receipt receipt = vacancy.execute(Request.delete("buoy")
                        .where(column("id").atLeast(0))
                        .onBlocked(OnBlocked.SKIP)
                        .withoutConfirmation("those that are sound"))
                .receiptOrThrow();

        assertThat(receipt.rows()).isEqualTo(many / 10 * 9);
        assertThat(receipt.skipped().rows()).isEqualTo(many / 10);
        assertThat(bench.count("buoy WHERE id % 10 = 3")).isEqualTo(many / 10);
        assertThat(bench.count("link")).isEqualTo(many / 10);
        try (Stream<SkippedRow> rows =
                vacancy.skipped(Request.delete("buoy").everyRow().onBlocked(OnBlocked.SKIP))) {
            Map<String, Long> reasons = rows.collect(Collectors.groupingBy(SkippedRow::reason, Collectors.counting()));
            assertThat(reasons).containsExactly(Map.entry("rusty", many / 10L));
        }
        Preview rest = vacancy.preview(Request.delete("buoy").everyRow().onBlocked(OnBlocked.SKIP));
        assertThat(rest.state()).isEqualTo(State.BLOCKED);
        assertThat(rest.skippedBy()).hasSize(1).allSatisfy(by -> assertThat(by.reason())
                .isEqualTo("rusty"));
    }

    @OnEveryEngine
    void whatTheDatabaseDoesByItselfTakesNoRowThatWasNotShown(Engine engine) {
        // A plain DELETE of the pier would take the berths along, and their lamps, without a word.
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE pier (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, pier_id INTEGER,"
                        + " FOREIGN KEY (pier_id) REFERENCES pier (id) ON DELETE CASCADE)",
                "CREATE TABLE lamp (id INTEGER NOT NULL PRIMARY KEY, berth_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (berth_id) REFERENCES berth (id) ON DELETE CASCADE)",
                "INSERT INTO pier VALUES (1)",
                "INSERT INTO pier VALUES (2)",
                "INSERT INTO berth VALUES (1, 1)",
                "INSERT INTO lamp VALUES (1, 1)");
        Vacancy kept = with(bench, RuleBook.build(book -> book.relation("berth.pier_id", Rule.reassignTo(2))));

        Receipt receipt = kept.execute(Request.delete("pier").key(1).expect(1)).receiptOrThrow();

        assertThat(receipt.totals()).containsOnly(Map.entry(Action.DELETE, 1L), Map.entry(Action.REASSIGN, 1L));
        assertThat(bench.count("berth WHERE pier_id = 2")).isEqualTo(1);
        assertThat(bench.count("lamp")).isEqualTo(1);
    }

    @OnEveryEngine
    void aCircleOverThreeTables(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE fleet (id INTEGER NOT NULL PRIMARY KEY, flagship INTEGER"
                        + (engine == Engine.SQLITE ? " REFERENCES ship (id)" : "") + ")",
                "CREATE TABLE squadron (id INTEGER NOT NULL PRIMARY KEY, fleet_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (fleet_id) REFERENCES fleet (id))",
                "CREATE TABLE ship (id INTEGER NOT NULL PRIMARY KEY, squadron_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (squadron_id) REFERENCES squadron (id))",
                "INSERT INTO fleet VALUES (1, NULL)",
                "INSERT INTO fleet VALUES (2, NULL)",
                "INSERT INTO fleet VALUES (3, NULL)",
                "INSERT INTO squadron VALUES (1, 1)",
                "INSERT INTO squadron VALUES (2, 2)",
                "INSERT INTO squadron VALUES (3, 3)",
                "INSERT INTO ship VALUES (1, 1)",
                "INSERT INTO ship VALUES (2, 2)",
                "INSERT INTO ship VALUES (3, 3)",
                engine == Engine.SQLITE
                        ? "CREATE INDEX ship_squadron ON ship (squadron_id)"
                        : "ALTER TABLE fleet ADD FOREIGN KEY (flagship) REFERENCES ship (id)",
                // Fleet 2 goes with a ship of fleet 1, and fleet 1 with a ship of fleet 2.
                "UPDATE fleet SET flagship = 1 WHERE id = 2",
                "UPDATE fleet SET flagship = 2 WHERE id = 1");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("squadron.fleet_id", Rule.cascade())
                .relation("ship.squadron_id", Rule.cascade())
                .relation("fleet.flagship", Rule.cascade())));

        Receipt receipt =
                vacancy.execute(Request.delete("ship").key(1).expect(1)).receiptOrThrow();

        assertThat(receipt.totals()).containsExactly(Map.entry(Action.DELETE, 6L));
        assertThat(bench.count("fleet")).isEqualTo(1);
        assertThat(bench.count("squadron")).isEqualTo(1);
        assertThat(bench.count("ship WHERE id = 3")).isEqualTo(1);
    }

    /** But SQLite, which has one schema to a file. */
    @ParameterizedTest(name = "{0}")
    @EnumSource(
            value = Engine.class,
            mode = EnumSource.Mode.EXCLUDE,
            names = {"SQLITE", "OTHER"})
    void relationsLeadFromOneSchemaIntoAnother(Engine engine) {
        String other = "archipelago_" + System.nanoTime();
        Bench bench = Bench.of(
                engine,
                (engine == Engine.MARIADB ? "CREATE DATABASE " : "CREATE SCHEMA ") + other,
                "CREATE TABLE " + other + ".island (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE island (id INTEGER NOT NULL PRIMARY KEY, near INTEGER,"
                        + " FOREIGN KEY (near) REFERENCES " + other + ".island (id))",
                "INSERT INTO " + other + ".island VALUES (1)",
                "INSERT INTO " + other + ".island VALUES (2)",
                "INSERT INTO island VALUES (10, 1)",
                "INSERT INTO island VALUES (11, 2)");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("island.near", Rule.cascade())));

        Receipt receipt = vacancy.execute(
                        Request.delete(other + ".island").key(1).expect(1))
                .receiptOrThrow();

        assertThat(receipt.effects())
                .extracting(effect -> effect.table().toString())
                .containsExactly(other + ".island", "island");
        assertThat(bench.count(other + ".island")).isEqualTo(1);
        assertThat(bench.count("island WHERE id = 11")).isEqualTo(1);
        assertThat(bench.count("island")).isEqualTo(1);
    }

    @OnEveryEngine
    void statementsGrowWithRelationsAndDepthNeverWithRows(Engine engine) {
        int few = statementsForSparing(engine, 3);
        int many = statementsForSparing(engine, 60);

        // A key table takes the place of bound keys in between, which costs a few statements once; on H2, where they
        // are shared, a few more.
        assertThat(many).isLessThanOrEqualTo(few + (engine == Engine.H2 ? 18 : 12));
    }

    private static int statementsForSparing(Engine engine, int boats) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE note (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, answers INTEGER,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id), FOREIGN KEY (answers) REFERENCES note (id))",
                "CREATE TABLE stamp (id INTEGER NOT NULL PRIMARY KEY, note_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (note_id) REFERENCES note (id))");
        for (int boat = 1; boat <= boats; boat++) {
            bench.database()
                    .run(
                            "INSERT INTO boat VALUES (" + boat + ")",
                            "INSERT INTO note VALUES (" + (2 * boat) + ", " + boat + ", NULL)",
                            "INSERT INTO note VALUES (" + (2 * boat + 1) + ", " + boat + ", " + (2 * boat) + ")");
        }
        bench.database().run("INSERT INTO stamp VALUES (1, 3)");
        CountingSource source = new CountingSource(bench.database().source());
        Vacancy vacancy = Vacancy.on(JdbcStore.of(source).withKeysInMemory(20))
                .rules(RuleBook.build(
                        book -> book.relation("note.boat_id", Rule.cascade()).relation("note.answers", Rule.cascade())))
                .actor(() -> "Mira Holm")
                .open();
        source.statements();
        Receipt receipt = vacancy.execute(Request.delete("boat")
                        .everyRow()
                        .onBlocked(OnBlocked.SKIP)
                        .withoutConfirmation("a count"))
                .receiptOrThrow();
        assertThat(receipt.rows()).isEqualTo(boats - 1);
        assertThat(receipt.skipped().rows()).isEqualTo(1);
        return source.statements();
    }

    @OnEveryEngine
    void declaredRelationsAreFollowedAcrossTypesThatCompareEqual(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE boat (id BIGINT NOT NULL PRIMARY KEY, call_sign VARCHAR(20))",
                "CREATE TABLE message (id INTEGER NOT NULL PRIMARY KEY, boat INTEGER, sign VARCHAR(8))",
                "INSERT INTO boat VALUES (17, 'VQ17')",
                "INSERT INTO boat VALUES (18, NULL)",
                "INSERT INTO message VALUES (1, 17, NULL)",
                "INSERT INTO message VALUES (2, NULL, 'VQ17')",
                "INSERT INTO message VALUES (3, 18, NULL)");
        Vacancy vacancy = with(bench, RuleBook.build(book -> book.relation("message.boat -> boat.id", Rule.cascade())
                .relation("message.sign -> boat.call_sign", Rule.setNull())));

        Receipt receipt =
                vacancy.execute(Request.delete("boat").key(17).expect(1)).receiptOrThrow();

        assertThat(receipt.totals()).containsOnly(Map.entry(Action.DELETE, 2L), Map.entry(Action.SET_NULL, 1L));
        assertThat(bench.count("message WHERE sign IS NULL")).isEqualTo(2);
    }

    @OnEveryEngine
    void whatCannotWorkIsToldWhenTheRuleBookIsRead(Engine engine) {
        Bench bench = Bench.harbour(engine);

        wrong(bench, "work_order.yard_id", Rule.reassignTo("north"), "\"north\" cannot be a value of yard.id");
        wrong(bench, "logbook_entry.answers", Rule.reassignToParents("subject"), "another kind of value");
        wrong(bench, "mooring.boat_id", Rule.setNull(), "cannot be NULL");
        wrong(bench, "mooring.boat", Rule.cascade(), "did you mean mooring.boat_id?");
        wrong(bench, "fee.mooring_id", Rule.when(column("name").isNull()).cascade(), "name is not in table fee");
    }

    private static void wrong(Bench bench, String relation, Rule rule, String message) {
        assertThatThrownBy(() -> with(bench, RuleBook.build(book -> book.relation(relation, rule))))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining(message);
    }
}
