// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.condition.RelatedRows;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.RowSample;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.schema.Relation;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.IntStream;
import java.util.stream.Stream;

/** Child rows that hold several keys in one column. */
class KeyListTest {

    private static final String[] TABLES = {
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, sign VARCHAR(20) NOT NULL UNIQUE)",
        "CREATE TABLE tour (id INTEGER NOT NULL PRIMARY KEY, boat_ids VARCHAR(200), paid INTEGER)",
        "CREATE TABLE stop (id INTEGER NOT NULL PRIMARY KEY, tour_id INTEGER, FOREIGN KEY (tour_id) REFERENCES tour (id))",
        "INSERT INTO boat VALUES (1, 'HV 1'), (2, 'HV 2'), (12, 'HV 12'), (21, 'HV 21')",
        "INSERT INTO tour VALUES (1, '1', 1), (2, '12,21', 1), (3, ' 2 , 12 ', 0), (4, NULL, 1), (5, '', 1), (6, '1,99', 1)",
        "INSERT INTO stop VALUES (10, 1), (20, 2), (60, 6)"
    };

    private static String rules(String rule) {
        return """
                version: 1
                relations:
                  stop.tour_id: cascade
                  "tour.boat_ids[] -> boat.id": %s
                """.formatted(rule);
    }

    @OnEveryEngine
    void rowsGoWithAnyRowTheyName(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("cascade"));
        vacancy.archive().setUp();

        Preview preview = vacancy.preview(Request.delete("boat").key(1));

        assertThat(Bench.written(preview.effects()))
                .containsExactly("delete boat null 1", "delete tour tour.boat_ids[] 2", "delete stop stop.tour_id 2");
        Receipt receipt = Bench.done(vacancy, Request.delete("boat").keys(1, 2)).receiptOrThrow();
        assertThat(bench.count("tour")).isEqualTo(3);
        assertThat(bench.count("tour WHERE id = 2")).isEqualTo(1);
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("tour WHERE boat_ids = ' 2 , 12 '")).isEqualTo(1);
        assertThat(bench.count("stop")).isEqualTo(3);
    }

    @OnEveryEngine
    void rowsThatNameOneBlockOrStay(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy blocking = bench.with(rules("[{block: \"unpaid\", when: \"paid = 0 OR paid IS NULL\"}, leave]"));

        assertThat(blocking.preview(Request.delete("boat").key(12)).state()).isEqualTo(State.BLOCKED);
        assertThat(blocking.preview(Request.delete("boat").key(21)).state()).isEqualTo(State.READY);
        Outcome outcome = Bench.done(blocking, Request.delete("boat").everyRow().onBlocked(OnBlocked.SKIP));
        assertThat(outcome.receiptOrThrow().rows()).isEqualTo(2);
        assertThat(bench.count("boat WHERE id IN (2, 12)")).isEqualTo(2);
        assertThat(bench.count("tour")).isEqualTo(6);
    }

    @OnEveryEngine
    void keysThatLeadNowhereAreOrphans(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.with(rules("leave"));

        assertThat(orphans(vacancy)).containsExactly(6L);
        Bench.done(vacancy, Request.delete("boat").key(12));
        assertThat(orphans(vacancy)).containsExactly(2L, 3L, 6L);
        assertThatThrownBy(() -> vacancy.preview(Request.unlinkOrphans("tour.boat_ids[]")))
                .isInstanceOf(MisuseException.class)
                .hasMessage("No key is taken out of the lists of tour.boat_ids[].");
        Bench.done(vacancy, Request.erase("tour").orphansOf("tour.boat_ids[]"));
        assertThat(bench.count("tour")).isEqualTo(3);
        assertThat(vacancy.tables().orphans("tour.boat_ids[]")).isEmpty();
    }

    private static Set<Long> orphans(Vacancy vacancy) {
        Map<Relation, RowSample> orphans = vacancy.tables().orphans("tour.boat_ids[]");
        return orphans.values().stream()
                .flatMap(sample -> sample.sample().stream())
                .map(row -> (Long) row.get("id"))
                .collect(Collectors.toCollection(TreeSet::new));
    }

    @OnEveryEngine
    void arraysAndTextsAreListsToo(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        String json = engine == Engine.POSTGRESQL ? "JSONB" : engine == Engine.SQLITE ? "TEXT" : "JSON";
        String value = engine == Engine.H2 ? "JSON '[%s]'" : "'[%s]'";
        boolean arrays = engine == Engine.POSTGRESQL || engine == Engine.H2;
        bench.database()
                .run(
                        "CREATE TABLE fleet (id INTEGER NOT NULL PRIMARY KEY, signs " + json + ", numbers "
                                + (arrays ? "INTEGER ARRAY" : "VARCHAR(40)") + ")",
                        "INSERT INTO fleet VALUES (1, " + value.formatted("\"HV 1\", \"HV 12\"") + ", "
                                + (arrays ? "ARRAY[2, 12]" : "'2,12'") + "), (2, " + value.formatted("\"HV 2\"")
                                + ", NULL), (3, " + value.formatted("") + ", " + (arrays ? "ARRAY[1, 1]" : "'1,1'")
                                + ")");
        Vacancy vacancy = bench.with("""
                version: 1
                relations:
                  "fleet.signs[] -> boat.sign": {block: "sails in a fleet"}
                  "fleet.numbers[] -> boat.id": {block: "sails in a fleet"}
                """);

        assertThat(blocking(vacancy, 1)).containsExactlyInAnyOrder("fleet.signs[] 1", "fleet.numbers[] 1");
        assertThat(blocking(vacancy, 2)).containsExactlyInAnyOrder("fleet.signs[] 1", "fleet.numbers[] 1");
        assertThat(blocking(vacancy, 21)).isEmpty();
        assertThat(vacancy.tables().orphans("fleet.signs[]", "fleet.numbers[]")).isEmpty();
        bench.database().run("DELETE FROM boat WHERE id = 1");
        assertThat(vacancy.tables().orphans("fleet.signs[]", "fleet.numbers[]").values())
                .extracting(RowSample::rows)
                .containsExactly(1L, 1L);
    }

    private static List<String> blocking(Vacancy vacancy, int boat) {
        return vacancy.preview(Request.erase("boat").key(boat)).blockers().stream()
                .map(blocker -> blocker.relation() + " " + blocker.rows())
                .toList();
    }

    @OnEveryEngine
    void anyListsAreFollowedAsTheyAreWritten(Engine engine) {
        long seed = Long.getLong("vacancy.seed", System.nanoTime());
        Random random = new Random(seed);
        for (int round = 0; round < 12; round++) {
            List<Integer> boats = IntStream.range(1, 30)
                    .filter(id -> random.nextBoolean())
                    .boxed()
                    .toList();
            List<List<Integer>> tours = Stream.generate(
                            () -> random.ints(random.nextInt(5), 1, 32).boxed().toList())
                    .limit(25)
                    .toList();
            List<String> statements = new ArrayList<>(List.of(TABLES[0], TABLES[1], TABLES[2]));
            boats.forEach(id -> statements.add("INSERT INTO boat VALUES (" + id + ", 'S" + id + "')"));
            for (int i = 0; i < tours.size(); i++) {
                String separator = random.nextBoolean() ? "," : ", ";
                String list = tours.get(i).stream().map(String::valueOf).collect(Collectors.joining(separator));
                statements.add("INSERT INTO tour VALUES (" + i + ", '"
                        + (random.nextBoolean() ? list : "[" + list + "]") + "', 1)");
            }
            Bench bench = Bench.of(engine, statements.toArray(String[]::new));
            Vacancy vacancy = bench.with(rules("cascade"));
            Set<Integer> going =
                    boats.stream().filter(id -> random.nextInt(4) == 0).collect(Collectors.toSet());
            long with = tours.stream()
                    .filter(tour -> tour.stream().anyMatch(going::contains))
                    .count();
            long missing =
                    tours.stream().filter(tour -> !boats.containsAll(tour)).count();
            String told = engine + ", seed " + seed + ", round " + round + ": " + tours + " without " + going;

            assertThat(vacancy.tables().orphans("tour.boat_ids[]").values().stream()
                            .mapToLong(RowSample::rows)
                            .sum())
                    .as(told)
                    .isEqualTo(missing);
            if (!going.isEmpty()) {
                Bench.done(vacancy, Request.erase("boat").where(column("id").in(List.copyOf(going))));
            }
            assertThat(bench.count("tour")).as(told).isEqualTo(tours.size() - with);
            assertThat(bench.count("boat")).as(told).isEqualTo(boats.size() - going.size());
        }
    }

    @OnEveryEngine
    void whatCannotBeMeantIsRefused(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);

        for (String wrong : List.of("set-null", "reassign: 1")) {
            assertThatThrownBy(() -> bench.with(rules(wrong.startsWith("re") ? "{" + wrong + "}" : wrong)))
                    .isInstanceOf(RuleBookException.class)
                    .hasMessageContaining("no key is taken out of a list");
        }
        assertThatThrownBy(() -> bench.with("version: 1\nrelations: {\"tour.paid[] -> boat.id\": cascade}"))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("which is no list of keys");
        assertThatThrownBy(
                        () -> bench.with("version: 1\nrelations: {\"tour(boat_ids[],paid) -> boat(id,id)\": cascade}"))
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("where no list of keys can stand");
        Vacancy vacancy = bench.with(rules("leave"));
        assertThatThrownBy(() -> vacancy.preview(Request.erase("boat")
                        .where(RelatedRows.children("tour.boat_ids[]").exists())))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("is a list of keys");
        Preview merge = vacancy.preview(Request.merge("boat").key(1).into(2));
        assertThat(merge.blockers())
                .extracting(blocker -> blocker.reason())
                .containsExactly("they name it in a list, and no key is taken out of a list");
    }
}
