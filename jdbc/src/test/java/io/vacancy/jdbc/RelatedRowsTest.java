// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.RelatedRows.children;
import static io.vacancy.condition.RelatedRows.parent;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Permission;
import io.vacancy.access.Scope;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.stream.Stream;

/** Conditions on the existence of rows that a relation connects with a row. */
class RelatedRowsTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), town INTEGER)",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER, town INTEGER, left_on DATE,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE fee (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, town INTEGER, paid BOOLEAN,"
                + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "CREATE TABLE entry (id INTEGER NOT NULL PRIMARY KEY, answers INTEGER, body VARCHAR(10),"
                + " FOREIGN KEY (answers) REFERENCES entry (id))",
        "INSERT INTO skipper VALUES (1, 'Mira Holm', 1), (2, 'Jon Sund', 1), (3, 'Ada Vik', 2)",
        "INSERT INTO boat VALUES (10, 1, 1, NULL), (11, 1, 1, '2020-05-01'), (12, 2, 1, NULL), (13, NULL, 2, NULL)",
        "INSERT INTO fee VALUES (100, 10, 1, TRUE), (101, 11, 1, FALSE), (102, 12, 2, FALSE), (103, 12, 1, TRUE)",
        "INSERT INTO entry VALUES (1, NULL, 'a'), (2, 1, 'b'), (3, 1, 'c'), (4, 3, 'd')"
    };

    private static Vacancy with(Bench bench, RuleBook rules, Scope scope, Permission permission) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .scope(() -> scope)
                .permission(permission)
                .open();
    }

    private static List<Object> ids(Vacancy vacancy, Request request) {
        try (Stream<Row> rows = vacancy.rows(request)) {
            return rows.map(row -> row.get("id")).sorted().toList();
        }
    }

    private static List<Object> where(Bench bench, String table, Condition condition) {
        List<Object> ids = ids(bench.vacancy(), Request.delete(table).where(condition));
        // The same after a way through JSON.
        Condition again = JsonReader.condition(new JsonWriter().write(condition));
        assertThat(again).isEqualTo(condition);
        return ids;
    }

    private static List<Object> where(Bench bench, String table, String text) {
        return where(bench, table, SearchCondition.read(text));
    }

    @OnEveryEngine
    void childrenAndParentsAreLookedForByTheirRelation(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);

        assertThat(where(bench, "boat", children("fee.boat_id").exists())).containsExactly(10L, 11L, 12L);
        assertThat(where(bench, "boat", children("fee.boat_id").notExists())).containsExactly(13L);
        assertThat(where(
                        bench,
                        "boat",
                        children("fee.boat_id").exists(column("paid").isNot(true))))
                .containsExactly(11L, 12L);
        assertThat(where(
                        bench,
                        "skipper",
                        children("boat.skipper_id")
                                .notExists(children("fee.boat_id")
                                        .exists(column("paid").isNot(true)))))
                .containsExactly(3L);
        assertThat(where(
                        bench,
                        "fee",
                        parent("fee.boat_id").exists(column("left_on").isNotNull())))
                .containsExactly(101L);
        // A link that is NULL leads to no row.
        assertThat(where(bench, "boat", parent("boat.skipper_id").notExists())).containsExactly(13L);
        assertThat(where(
                        bench,
                        "entry",
                        children("entry.answers")
                                .exists(children("entry.answers").exists())))
                .containsExactly(1L);
        assertThat(where(
                        bench,
                        "entry",
                        parent("entry.answers").exists(column("body").equalTo("a"))))
                .containsExactly(2L, 3L);
    }

    @OnEveryEngine
    void theyMayBeLookedForFarAway(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        for (int id = 5; id <= 50; id++) {
            bench.database().run("INSERT INTO entry VALUES (" + id + ", " + (id == 5 ? "NULL" : id - 1) + ", 'x')");
        }
        Condition far = children("entry.answers").exists();
        for (int level = 1; level < Condition.FARTHEST_RELATED; level++) {
            far = children("entry.answers").exists(far);
        }
        Condition farther = children("entry.answers").exists(far);

        assertThat(where(bench, "entry", far.and(column("id").greaterThan(35L))))
                .containsExactly(36L, 37L, 38L, 39L, 40L);
        assertThatThrownBy(() -> where(bench, "entry", farther))
                .isInstanceOf(MisuseException.class)
                .hasMessage("A condition follows more than 10 relations, one behind the other.");
    }

    @OnEveryEngine
    void theStandardsExistsSaysTheSame(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);

        assertThat(where(
                        bench,
                        "boat",
                        "NOT EXISTS (SELECT 1 FROM fee WHERE fee.boat_id = boat.id AND paid IS NOT TRUE)"
                                + " AND left_on IS NULL"))
                .containsExactly(10L, 13L);
        assertThat(where(
                        bench,
                        "SKIPPER",
                        "exists (select * from boat b where skipper.id = b.skipper_id and exists"
                                + " (select 1 from fee where boat_id = b.id and fee.paid = false))"))
                .containsExactly(1L, 2L);
        assertThat(where(
                        bench,
                        "fee",
                        "EXISTS (SELECT 1 FROM boat WHERE boat.id = fee.boat_id AND (left_on IS NOT NULL OR id = 12))"))
                .containsExactly(101L, 102L, 103L);
        assertThat(where(
                        bench,
                        "entry",
                        "EXISTS (SELECT 1 FROM entry answer WHERE answer.answers = entry.id AND answer.body > 'b')"))
                .containsExactly(1L, 3L);
    }

    @OnEveryEngine
    void whatIsShownOfAConditionMeansTheSameWhenItIsReadAgain(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Condition condition = SearchCondition.read("EXISTS (SELECT 1 FROM entry a WHERE a.answers = entry.id AND EXISTS"
                + " (SELECT 1 FROM entry b WHERE a.id = b.answers AND b.body <> 'x'))");

        String shown = ConditionText.of(condition);

        assertThat(shown).contains("FROM entry related_1").contains("FROM entry related_2");
        assertThat(SearchCondition.read(shown)).isEqualTo(condition);
        assertThat(where(bench, "entry", shown)).containsExactly(1L);
    }

    @OnEveryEngine
    void aRuleMayLookAtRowsFurtherAway(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        RuleBook rules = RuleBookFile.read("""
                version: 1
                relations:
                  boat.skipper_id:
                    - {block: "something is unpaid", when: "EXISTS (SELECT 1 FROM fee WHERE fee.boat_id = boat.id AND paid IS NOT TRUE)"}
                    - cascade
                  fee.boat_id: cascade
                """, "rules");
        Vacancy vacancy = with(bench, rules, Scope.everything(), (who, table, act) -> null);

        Preview unpaid = vacancy.preview(Request.erase("skipper").key(1));
        bench.database().run("UPDATE fee SET paid = TRUE WHERE id = 101");
        Preview paid = vacancy.preview(Request.erase("skipper").key(1));
        Outcome outcome = vacancy.execute(paid, paid.question().answer("yes"));

        assertThat(unpaid.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.reason()).isEqualTo("something is unpaid");
            assertThat(blocker.rows()).isEqualTo(1);
        });
        assertThat(outcome.receiptOrThrow().rows()).isEqualTo(1);
        assertThat(bench.count("boat WHERE skipper_id = 1")).isZero();
        assertThat(bench.count("fee WHERE boat_id IN (10, 11)")).isZero();
    }

    @OnEveryEngine
    void rowsOutsideTheScopeAreNotThere(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Scope scope = Scope.where("town", 1);
        Vacancy vacancy = with(bench, RuleBook.empty(), scope, (who, table, act) -> null);
        Condition unpaid = children("fee.boat_id").exists(column("paid").isNot(true));

        assertThat(ids(vacancy, Request.delete("boat").where(unpaid))).containsExactly(11L);
        assertThat(ids(vacancy, Request.delete("boat").where(unpaid.not()))).containsExactly(10L, 12L);
        // A scope may look at related rows itself.
        Scope owned = table -> table.has("skipper_id")
                ? parent("boat.skipper_id").exists(column("name").like("Mira%"))
                : null;
        assertThat(ids(
                        with(bench, RuleBook.empty(), owned, (who, table, act) -> null),
                        Request.delete("boat").everyRow()))
                .containsExactly(10L, 11L);
        // A table that the scope says nothing of cannot be asked about either.
        Condition answered = children("entry.answers").exists();
        assertThatThrownBy(() -> vacancy.preview(Request.delete("entry").where(answered)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("Table entry is closed");
    }

    @OnEveryEngine
    void whoMayNotLookAtATableCannotAskAboutItsRows(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = with(
                bench,
                RuleBook.empty(),
                Scope.everything(),
                (who, table, act) -> table.is("fee") && act == Permission.Act.LOOK ? "Fees are secret." : null);
        Request request = Request.delete("boat")
                .where(children("fee.boat_id").exists(column("id").greaterThan(101)));

        assertThatThrownBy(() -> vacancy.preview(request))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Fees are secret.");
        assertThatThrownBy(() -> vacancy.rows(request).close()).hasMessage("Fees are secret.");
        assertThatThrownBy(() -> vacancy.execute(request.expect(1))).hasMessage("Fees are secret.");
    }

    @OnEveryEngine
    void softDeletedRowsCountOnlyWhereMarkedRowsAreIncluded(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        RuleBook rules = RuleBookFile.read("""
                version: 1
                tables:
                  boat: {marker: {date: left_on}}
                relations:
                  boat.skipper_id:
                    - {block: "it has a boat", when: "EXISTS (SELECT 1 FROM skipper WHERE skipper.id = boat.skipper_id)"}
                """, "rules");
        bench.database().run("UPDATE boat SET left_on = '2020-05-01' WHERE skipper_id = 1");
        Vacancy vacancy = with(bench, rules, Scope.everything(), (who, table, act) -> null);
        Request withBoat =
                Request.erase("skipper").where(children("boat.skipper_id").exists());

        assertThat(ids(vacancy, withBoat)).containsExactly(2L);
        assertThat(ids(vacancy, withBoat.includingMarked())).containsExactly(1L, 2L);
    }

    @OnEveryEngine
    void whatIsNoRelationIsRefused(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);

        assertThatThrownBy(
                        () -> where(bench, "boat", children("boat.skipper_id").exists()))
                .isInstanceOf(MisuseException.class)
                .hasMessage("Rows of boat have no child rows by boat.skipper_id.");
        assertThatThrownBy(() -> where(bench, "boat", children("fee.boatid").exists()))
                .hasMessageContaining("did you mean fee.boat_id?");
        assertThatThrownBy(() -> where(bench, "boat", "EXISTS (SELECT 1 FROM fee WHERE fee.town = boat.town)"))
                .hasMessageContaining("No relation between boat and fee is by fee.town = boat.town");
        assertThatThrownBy(() -> where(bench, "skipper", "EXISTS (SELECT 1 FROM fee WHERE fee.boat_id = boat.id)"))
                .hasMessageContaining("the condition is on skipper");
        assertThatThrownBy(() -> where(
                        bench,
                        "boat",
                        children("fee.boat_id").exists(column("pade").isNull())))
                .hasMessageContaining("did you mean paid?");
    }
}
