// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Request;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Random soft deletes and restores, held against a reading of the rules row by row. */
@Execution(ExecutionMode.CONCURRENT)
class MarkedOracleTest {

    private static final int CASES = Integer.getInteger("vacancy.cases", 200) / 2;

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void everyRowIsMarkedErasedOrBlocksAndComesBackAsItWas(Engine engine) throws SQLException {
        Long only = Long.getLong("vacancy.seed");
        Database database = engine.fresh();
        Map<String, Integer> endings = new TreeMap<>();
        for (long seed = 1; seed <= (only == null ? CASES : 1); seed++) {
            endings.merge(check(database, only == null ? seed : only), 1, Integer::sum);
        }
        if (only == null && CASES >= 50) {
            assertThat(endings.get("back")).isGreaterThan(CASES / 5);
            assertThat(endings.get("blocked")).isGreaterThan(CASES / 20);
        }
    }

    private static String check(Database database, long seed) throws SQLException {
        MarkedWorld world = new MarkedWorld(new Random(seed));
        String told = "seed " + seed + " on " + database.engine() + ":\n" + world;
        database.run(world.script().toArray(String[]::new));
        try {
            return check(database, world, told, seed);
        } catch (RuntimeException failed) {
            throw new AssertionError(told, failed);
        } finally {
            for (int table = world.kinds.size() - 1; table >= 0; table--) {
                database.run("DROP TABLE m" + table);
            }
        }
    }

    private static String check(Database database, MarkedWorld world, String told, long seed) throws SQLException {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()).withKeysInMemory(seed % 2 == 0 ? 500 : 2))
                .rules(world.rules())
                .actor(() -> "Mira Holm")
                .open();
        Map<String, String> before = rows(database, world);

        Request request = Request.softDelete("m0").keys(world.selected);
        for (Map.Entry<Integer, List<Integer>> other : world.others.entrySet()) {
            request = request.plus(Request.softDelete("m" + other.getKey()).keys(other.getValue()));
        }
        Preview preview = vacancy.preview(request);

        State expected = world.going.isEmpty() ? State.NOTHING : world.blocking.isEmpty() ? State.READY : State.BLOCKED;
        assertThat(preview.state()).as("%s\n%s", preview.blockers(), told).isEqualTo(expected);
        Outcome outcome = vacancy.execute(request.withoutConfirmation("a test"));
        if (expected != State.READY) {
            assertThat(outcome).as(told).isNotInstanceOf(Outcome.Done.class);
            assertThat(preview.blockers().stream().mapToLong(Blocker::rows).sum())
                    .as(told)
                    .isEqualTo(world.blocking.size());
            assertThat(rows(database, world)).as(told).isEqualTo(before);
            return outcome.state().word();
        }
        assertThat(outcome.receiptOrThrow().totals().getOrDefault(Action.SOFT_DELETE, 0L))
                .as(told)
                .isEqualTo(world.going.size());
        Map<String, String> marked = rows(database, world);
        for (String row : before.keySet()) {
            assertThat(marked.containsKey(row)).as("%s in\n%s", row, told).isEqualTo(!world.erased.contains(row));
            if (!world.erased.contains(row)) {
                assertThat(marked.get(row).equals(before.get(row)))
                        .as("%s in\n%s", row, told)
                        .isEqualTo(!world.going.contains(row));
            }
        }
        return back(database, world, vacancy, outcome.receiptOrThrow().id(), before, told);
    }

    private static String back(
            Database database,
            MarkedWorld world,
            Vacancy vacancy,
            ReceiptId receipt,
            Map<String, String> before,
            String told)
            throws SQLException {
        Preview back = vacancy.preview(Request.restore(receipt));
        long hanging = world.hangingOnMarked().size();
        assertThat(back.blockers().stream().mapToLong(Blocker::rows).sum())
                .as(told)
                .isEqualTo(hanging);
        if (hanging > 0) {
            assertThat(back.state()).as(told).isEqualTo(State.BLOCKED);
            return "held";
        }
        vacancy.execute(back, back.question().answer("yes")).receiptOrThrow();
        before.keySet().removeAll(world.erased);
        assertThat(rows(database, world)).as(told).isEqualTo(before);
        return "back";
    }

    private static Map<String, String> rows(Database database, MarkedWorld world) throws SQLException {
        Map<String, String> all = new TreeMap<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (int table = 0; table < world.kinds.size(); table++) {
                try (ResultSet rows = statement.executeQuery("SELECT * FROM m" + table)) {
                    while (rows.next()) {
                        StringBuilder row = new StringBuilder();
                        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                            row.append(rows.getString(i)).append(' ');
                        }
                        all.put("m" + table + " " + rows.getInt("id"), row.toString());
                    }
                }
            }
        }
        return all;
    }
}
