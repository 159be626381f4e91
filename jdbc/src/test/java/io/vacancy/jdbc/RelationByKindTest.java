// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static io.vacancy.condition.RelatedRows.children;
import static io.vacancy.condition.RelatedRows.parent;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.condition.Condition;
import io.vacancy.condition.ConditionText;
import io.vacancy.engines.Engine;
import io.vacancy.failure.RuleBookException;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rulebook.sql.SearchCondition;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Row;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Child rows whose parent is said by its kind and its key, in two columns. */
class RelationByKindTest {

    private static final String OF_BOAT = "remark(subject_id,subject_type='boat')";
    private static final String OF_SKIPPER = "remark(subject_id,subject_type='skipper')";

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, town INTEGER)",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER, town INTEGER,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE remark (id INTEGER NOT NULL PRIMARY KEY, subject_type VARCHAR(20), subject_id INTEGER, body VARCHAR(9))",
        "INSERT INTO skipper VALUES (1, 1), (2, 1)",
        "INSERT INTO boat VALUES (1, 2, 1), (2, 1, 2)",
        "INSERT INTO remark VALUES (10, 'boat', 1, 'a'), (11, 'skipper', 1, 'b'), (12, 'boat', 2, 'c'), (13, NULL, 1, 'd'),"
                + " (14, 'boat', NULL, 'e'), (15, 'boat', 99, 'f'), (16, 'skipper', 2, 'g')"
    };

    private static RuleBook rules(String ofBoat, String ofSkipper) {
        return RuleBookFile.read("""
                version: 1
                relations:
                  boat.skipper_id: cascade
                  "%s -> boat.id": %s
                  "%s -> skipper.id": %s
                """.formatted(OF_BOAT, ofBoat, OF_SKIPPER, ofSkipper), "rules");
    }

    private static List<Object> ids(Vacancy vacancy, Request request) {
        try (Stream<Row> rows = vacancy.rows(request)) {
            return rows.map(row -> row.get("id")).sorted().toList();
        }
    }

    @OnEveryEngine
    void onlyRowsOfTheKindGoWithAParent(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("cascade", "{block: noted}"));

        assertThat(vacancy.preview(Request.erase("boat").key(1)).totals()).isEqualTo(Map.of(Action.DELETE, 2L));
        assertThat(vacancy.preview(Request.erase("skipper").key(1)).blockers())
                .singleElement()
                .satisfies(blocker -> {
                    assertThat(blocker.relation()).isEqualTo(OF_SKIPPER);
                    assertThat(blocker.rows()).isEqualTo(1);
                });
        Bench.done(vacancy, Request.erase("boat").key(1)).receiptOrThrow();
        assertThat(bench.count("remark WHERE id = 10")).isZero();
        assertThat(bench.count("remark")).isEqualTo(6);
        Vacancy leaving = bench.with(rules("cascade", "leave"));
        assertThat(leaving.preview(Request.erase("skipper").key(1)).totals()).isEqualTo(Map.of(Action.DELETE, 3L));
    }

    @OnEveryEngine
    void linksOfTheKindAreEmptiedAndPutBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("set-null", "cascade"));
        vacancy.archive().setUp();

        Receipt receipt = Bench.done(vacancy, Request.erase("skipper").key(1)).receiptOrThrow();

        assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 3L, Action.SET_NULL, 1L));
        assertThat(bench.count("remark WHERE id = 12 AND subject_id IS NULL")).isEqualTo(1);
        assertThat(bench.count("remark WHERE id = 11")).isZero();
        assertThat(bench.count("remark WHERE subject_id = 1")).isEqualTo(2);

        assertThat(Bench.done(vacancy, Request.restore(receipt.id())).state().word())
                .isEqualTo("done");
        assertThat(bench.count("remark WHERE id = 12 AND subject_id = 2")).isEqualTo(1);
        assertThat(bench.count("remark WHERE id = 11 AND subject_id = 1")).isEqualTo(1);
    }

    @OnEveryEngine
    void ofOneReceiptOnlyWhatBelongsToARowComesBackWithIt(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("cascade", "cascade"));
        vacancy.archive().setUp();
        // Takes skipper 1, boat 2, and remarks of both: 11 is of skipper 1, 12 of boat 2.
        Receipt receipt = Bench.done(vacancy, Request.erase("skipper").key(1)).receiptOrThrow();
        bench.database().run("INSERT INTO skipper VALUES (1, 1)");

        Preview boat = vacancy.preview(Request.restore(receipt.id(), "boat").key(2));

        assertThat(boat.totals()).isEqualTo(Map.of(Action.RESTORE, 2L));
        assertThat(Bench.done(vacancy, Request.restore(receipt.id(), "boat").key(2))
                        .state()
                        .word())
                .isEqualTo("done");
        assertThat(bench.count("remark WHERE id = 12")).isEqualTo(1);
        assertThat(bench.count("remark WHERE id = 11")).isZero();
    }

    @OnEveryEngine
    void orphansAreThoseOfTheKind(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("cascade", "cascade"));

        assertThat(ids(vacancy, Request.erase("remark").orphansOf(OF_BOAT))).containsExactly(15L);
        assertThat(ids(vacancy, Request.erase("remark").orphansOf(OF_SKIPPER + " -> skipper.id")))
                .isEmpty();
        Bench.done(vacancy, Request.unlinkOrphans(OF_BOAT)).receiptOrThrow();
        assertThat(bench.count("remark WHERE id = 15 AND subject_id IS NULL")).isEqualTo(1);
    }

    @OnEveryEngine
    void relatedRowsScopesAndMergesFollowTheKind(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        RuleBook rules = rules("cascade", "cascade");
        Vacancy vacancy = bench.with(rules);
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .scope(() -> Scope.where("town", 1).through(OF_BOAT))
                .open();

        assertThat(ids(
                        vacancy,
                        Request.erase("skipper")
                                .where(children(OF_SKIPPER)
                                        .exists(column("body").equalTo("b")))))
                .containsExactly(1L);
        assertThat(ids(vacancy, Request.erase("remark").where(parent(OF_BOAT).exists())))
                .containsExactly(10L, 12L);
        assertThat(
                        ids(
                                vacancy,
                                Request.erase("boat")
                                        .where(
                                                SearchCondition.read(
                                                        "EXISTS (SELECT 1 FROM remark WHERE remark.subject_id = boat.id AND body = 'b')"))))
                .isEmpty();
        Condition ofBoat = parent(OF_BOAT).exists().readFor(vacancy.schema().table("remark"), vacancy.schema());
        assertThat(ConditionText.of(ofBoat))
                .isEqualTo("(EXISTS (SELECT 1 FROM boat WHERE boat.id = remark.subject_id) AND subject_type = 'boat')");
        RuleBook twice = RuleBook.build(book -> book.relation(OF_BOAT + " -> boat.id", Rule.cascade())
                .relation("remark(subject_id,subject_type='vessel') -> boat.id", Rule.cascade()));
        assertThatThrownBy(() -> bench.with(twice)
                        .preview(Request.erase("boat")
                                .where(SearchCondition.read(
                                        "EXISTS (SELECT 1 FROM remark WHERE remark.subject_id = boat.id)"))))
                .hasMessageContaining("Several relations between boat and remark compare these columns");
        assertThat(ids(scoped, Request.erase("remark").everyRow())).containsExactly(10L);

        Bench.done(vacancy, Request.merge("boat").key(1).into(2)).receiptOrThrow();
        assertThat(bench.count("remark WHERE subject_type = 'boat' AND subject_id = 2"))
                .isEqualTo(2);
        assertThat(bench.count("remark WHERE subject_type = 'skipper' AND subject_id = 1"))
                .isEqualTo(1);
    }

    @OnEveryEngine
    void kindsMayBeNumbersAndWrongOnesAreErrors(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE pier (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE photo (id INTEGER NOT NULL PRIMARY KEY, kind INTEGER NOT NULL, of_id INTEGER NOT NULL)",
                "INSERT INTO pier VALUES (1)",
                "INSERT INTO photo VALUES (1, 7, 1), (2, 8, 1)",
                "CREATE TABLE track (id INTEGER NOT NULL PRIMARY KEY, kind VARCHAR(30), of_id INTEGER)",
                "INSERT INTO track VALUES (1, 'a, ''b'' (c)', 1), (2, 'a', 1)");
        RuleBook odd =
                RuleBook.build(book -> book.relation("track(of_id, kind='a, ''b'' (c)') -> pier.id", Rule.cascade()));
        assertThat(bench.with(odd).preview(Request.erase("pier").key(1)).totals())
                .isEqualTo(Map.of(Action.DELETE, 2L));
        RuleBook numbers = RuleBook.build(book -> book.relation("photo(of_id, kind=7) -> pier.id", Rule.cascade()));

        assertThat(bench.with(numbers).preview(Request.erase("pier").key(1)).totals())
                .isEqualTo(Map.of(Action.DELETE, 2L));
        Map.of(
                        "photo(of_id, kind='x') -> pier.id", "\"x\" cannot be a value of photo.kind",
                        "photo(of_id, knd=7) -> pier.id", "did you mean kind?",
                        "photo(kind=7) -> pier.id", "names no column that refers to a row",
                        "photo(of_id, kind=7, id=8) -> pier.id", "names several values",
                        "photo.of_id -> pier(id, id=7)", "has a value behind its arrow")
                .forEach((written, why) -> assertThatThrownBy(
                                () -> bench.with(RuleBook.build(book -> book.relation(written, Rule.cascade())))
                                        .preview(Request.erase("pier").key(1)))
                        .isInstanceOf(RuleBookException.class)
                        .hasMessageContaining(why));
    }
}
