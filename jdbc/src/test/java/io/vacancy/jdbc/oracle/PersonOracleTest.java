// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Persons are forgotten in random databases by random policies, judged by an oracle that works row by row. */
@Execution(ExecutionMode.CONCURRENT)
class PersonOracleTest {

    private static final int CASES = Integer.getInteger("vacancy.cases", 200) / 4;

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void everythingThatBelongsToAPersonIsErasedBlankedOrKeptAndComesBack(Engine engine) throws SQLException {
        Long only = Long.getLong("vacancy.seed");
        Map<String, Integer> endings = new TreeMap<>();
        for (long seed = 1; seed <= (only == null ? CASES : 1); seed++) {
            endings.merge(check(engine, only == null ? seed : only), 1, Integer::sum);
        }
        if (only == null && CASES >= 40) {
            assertThat(endings.getOrDefault("done", 0)).as("%s", endings).isGreaterThan(CASES / 5);
            assertThat(endings.getOrDefault("blocked", 0)).as("%s", endings).isGreaterThan(CASES / 10);
        }
    }

    private static String check(Engine engine, long seed) throws SQLException {
        PersonWorld world = new PersonWorld(seed);
        world.forget(1);
        String told = "seed " + seed + " on " + engine + ":\n" + String.join(";\n", world.script()) + ";\n"
                + world.ruleBook();
        Database database = engine.fresh();
        database.run(world.script().toArray(String[]::new));
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()).withKeysInMemory(seed % 2 == 0 ? 500 : 2))
                .rules(RuleBookFile.read(world.ruleBook(), "rules"))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        Preview preview = vacancy.preview(Request.forget("t0").key(1));
        List<Map<Integer, Map<String, Integer>>> before = rows(database, world);
        assertThat(blockers(preview)).as("what blocks in\n%s", told).isEqualTo(sizes(world.blockers));
        if (world.blockers.isEmpty()) {
            assertThat(counts(preview, Action.DELETE)).as("erased in\n%s", told).isEqualTo(world.erased());
            assertThat(counts(preview, Action.BLANK)).as("blanked in\n%s", told).isEqualTo(world.blanked());
            assertThat(counts(preview, Action.KEEP)).as("kept in\n%s", told).isEqualTo(world.kept);
        }
        // Of three cases one goes without having been shown.
        Outcome outcome = seed % 3 > 0
                ? vacancy.execute(
                        preview, preview.question().answer(preview.question().awaited()))
                : vacancy.execute(Request.forget("t0").key(1).withoutConfirmation("a test"));
        assertThat(outcome instanceof Outcome.Done)
                .as("%s\nended as %s", told, outcome.message())
                .isEqualTo(world.blockers.isEmpty());
        assertThat(rows(database, world))
                .as("after\n%s", told)
                .isEqualTo(outcome instanceof Outcome.Done ? world.afterwards() : before);
        if (outcome instanceof Outcome.Done done) {
            vacancy.execute(Request.restore(done.receipt().id()).withoutConfirmation("a test"))
                    .receiptOrThrow();
            assertThat(rows(database, world)).as("back from\n%s", told).isEqualTo(before);
        }
        database.drop();
        return outcome.state().word();
    }

    private static Map<String, Long> counts(Preview preview, Action action) {
        Map<String, Long> counts = new TreeMap<>();
        for (Effect effect : preview.effects()) {
            if (effect.action() == action) {
                counts.merge(effect.table().name(), effect.rows(), Long::sum);
            }
        }
        return counts;
    }

    private static Map<String, Long> blockers(Preview preview) {
        Map<String, Long> counts = new TreeMap<>();
        for (Blocker blocker : preview.blockers()) {
            counts.merge(blocker.relation().replaceAll(" ->.*", ""), blocker.rows(), Long::sum);
        }
        return counts;
    }

    private static Map<String, Long> sizes(Map<String, ? extends Set<Integer>> rows) {
        Map<String, Long> sizes = new TreeMap<>();
        rows.forEach((name, some) -> sizes.put(name, (long) some.size()));
        return sizes;
    }

    private static List<Map<Integer, Map<String, Integer>>> rows(Database database, PersonWorld world)
            throws SQLException {
        List<Map<Integer, Map<String, Integer>>> all = new ArrayList<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (int table = 0; table < world.rows.size(); table++) {
                Map<Integer, Map<String, Integer>> found = new TreeMap<>();
                try (ResultSet rows = statement.executeQuery("SELECT * FROM t" + table)) {
                    while (rows.next()) {
                        Map<String, Integer> row = new LinkedHashMap<>();
                        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                            int value = rows.getInt(i);
                            row.put(
                                    rows.getMetaData().getColumnLabel(i).toLowerCase(Locale.ROOT),
                                    rows.wasNull() ? null : value);
                        }
                        found.put(rows.getInt("id"), row);
                    }
                }
                all.add(found);
            }
        }
        return all;
    }
}
