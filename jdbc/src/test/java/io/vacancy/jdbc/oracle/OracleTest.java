// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.preview.SkipReason;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rulebook.sql.SearchCondition;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Statement;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeMap;
import org.junit.jupiter.api.parallel.Execution;
import org.junit.jupiter.api.parallel.ExecutionMode;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Random databases, rules and requests, judged by an oracle that works row by row. {@code -Dvacancy.cases}
 * says how many, {@code -Dvacancy.seed} which one alone.
 */
@Execution(ExecutionMode.CONCURRENT)
class OracleTest {

    private static final int CASES = Integer.getInteger("vacancy.cases", 200);

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void everyRowGoesStaysOrBlocksAsTheOracleSays(Engine engine) throws SQLException {
        check(engine, CASES, Kind.DELETE);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void aMergeGivesEveryChildRowToTheRowThatStays(Engine engine) throws SQLException {
        check(engine, CASES / 2, Kind.MERGE);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void everyRowIsBlankedThatTheOracleSaysAndNothingElseChanges(Engine engine) throws SQLException {
        check(engine, CASES / 2, Kind.BLANK);
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void rowsOfSeveralTablesGoTogetherAndNoneCountsTwice(Engine engine) throws SQLException {
        check(engine, CASES / 2, Kind.PLUS);
    }

    private enum Kind {
        DELETE,
        PLUS,
        MERGE,
        BLANK;

        /** Of a merge only collisions block, of a blanking only rows outside the scope. */
        int blocked(int cases) {
            return switch (this) {
                case DELETE, PLUS -> cases / 10;
                case MERGE -> cases / 20;
                case BLANK -> 0;
            };
        }
    }

    private static void check(Engine engine, int cases, Kind kind) throws SQLException {
        Long only = Long.getLong("vacancy.seed");
        Map<String, Integer> endings = new TreeMap<>();
        for (long seed = 1; seed <= (only == null ? cases : 1); seed++) {
            endings.merge(check(engine, only == null ? seed : only, kind), 1, Integer::sum);
        }
        if (only == null && cases >= 50) {
            // A generator that only ever blocks, or only ever finds nothing, would prove little.
            assertThat(endings.get("done")).isGreaterThan(cases / 5);
            assertThat(endings.get("blocked")).isGreaterThan(kind.blocked(cases));
        }
    }

    private static String check(Engine engine, long seed, Kind kind) throws SQLException {
        World world = new World(new Random(seed));
        String ruleBook = world.ruleBook();
        boolean merging = kind == Kind.MERGE;
        if (kind == Kind.BLANK) {
            world.blank();
        }
        if (kind == Kind.PLUS) {
            world.plus(new Random(seed));
        }
        Integer into = merging ? world.merge(new Random(seed)) : null;
        if (merging && into == null) {
            return "no two rows";
        }
        List<String> script = world.script(engine);
        String told = "seed " + seed + " on " + engine + ":\n" + String.join(";\n", script) + ";\n" + ruleBook
                + (world.blanking ? "blank" : "delete") + " rows of t" + world.root + " keys " + world.selected
                + (world.selectedBy == null ? "" : ", those with " + world.selectedBy.text())
                + (world.others.isEmpty() ? "" : " and of others " + world.others)
                + (world.scoped ? " where owner = 1" : "")
                + (world.skipping ? " skipping" : "") + (merging ? " merging into " + into : "");
        Database database = engine.fresh();
        build(database, script);
        Random filling = new Random(seed);
        for (int table = 0; table < world.tables; table++) {
            fill(database, engine, "t" + table, filling);
        }
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source())
                        // Half of the cases keep their keys in key tables almost from the start.
                        .withKeysInMemory(seed % 2 == 0 ? 500 : 2))
                .rules(RuleBookFile.read(ruleBook, "rules"))
                .actor(() -> "Mira Holm")
                .scope(() -> world.scoped ? Scope.where("owner", 1) : Scope.everything())
                .open();
        Oracle oracle = new Oracle(world);
        boolean archived = seed % 3 != 0;
        if (archived) {
            vacancy.archive().setUp();
        }
        List<String> before = texts(database, world);

        SelectionStep selection = world.blanking ? Request.blank("t" + world.root) : Request.delete("t" + world.root);
        Request request = into != null
                ? Request.merge("t" + world.root).key(world.selected.get(0)).into(into)
                : (world.selectedBy == null
                                ? selection.keys(world.selected)
                                : selection.where(SearchCondition.read(world.selectedBy.text())))
                        .onBlocked(world.skipping ? OnBlocked.SKIP : OnBlocked.REFUSE);
        for (Map.Entry<Integer, List<Integer>> other : world.others.entrySet()) {
            request = request.plus(Request.delete("t" + other.getKey()).keys(other.getValue()));
        }
        Preview preview = vacancy.preview(request);
        compare(told, oracle, preview);
        // Of four cases three are asked about; the fourth goes without having been shown, in fewer statements.
        boolean asked = seed % 4 != 3;
        Outcome outcome = asked
                ? vacancy.execute(
                        preview, preview.question().answer(preview.question().awaited()))
                : vacancy.execute(request.withoutConfirmation("a test"));

        boolean done = !oracle.nothing() && !oracle.everythingSpared() && !oracle.refused() && !oracle.blocked();
        assertThat(outcome instanceof Outcome.Done)
                .as("%s\nended as %s", told, outcome.message())
                .isEqualTo(done);
        if (done) {
            assertThat(counts(outcome.receiptOrThrow().effects())).as(told).isEqualTo(counts(preview.effects()));
        }
        List<Map<Integer, Map<String, Integer>>> wanted = done ? oracle.afterwards() : List.copyOf(world.rows);
        for (int table = 0; table < world.tables; table++) {
            assertThat(rows(database, table))
                    .as("t%d after\n%s", table, told)
                    .isEqualTo(new TreeMap<>(wanted.get(table)));
        }
        if (done && archived) {
            Preview back =
                    vacancy.preview(Request.restore(outcome.receiptOrThrow().id()));
            assertThat(back.state())
                    .as("%s\nback from\n%s", back.blockers(), told)
                    .isEqualTo(State.READY);
            vacancy.execute(back, back.question().answer(back.question().awaited()))
                    .receiptOrThrow();
            assertThat(texts(database, world)).as("back from\n%s", told).isEqualTo(before);
        }
        database.drop();
        return outcome.state().word();
    }

    private static void build(Database database, List<String> script) throws SQLException {
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            for (String sql : script) {
                statement.execute(sql);
            }
            connection.commit();
        }
    }

    /** Gives every table a column of a random type, with values that a careless copy would lose. */
    private static void fill(Database database, Engine engine, String table, Random random) {
        String[][] types = {
            {"DECIMAL(20,4)", "id * 1000000000000.0001"},
            {"VARCHAR(60)", "CASE WHEN MOD(id, 3) = 0 THEN '' WHEN MOD(id, 3) = 1 THEN 'it''s, \"so\"; ü' END"},
            {"TIMESTAMP", "'2024-02-29 23:59:59'"},
            {"DATE", "'0999-12-31'"},
            {
                engine == Engine.POSTGRESQL ? "BYTEA" : "VARBINARY(40)",
                engine == Engine.POSTGRESQL ? "'\\x00ff'" : "X'00ff'"
            },
            {engine == Engine.POSTGRESQL || engine == Engine.H2 ? "DOUBLE PRECISION" : "DOUBLE", "id / 3.0"},
            {
                engine == Engine.H2 || engine == Engine.POSTGRESQL ? "INTEGER ARRAY" : "INTEGER",
                engine == Engine.H2 || engine == Engine.POSTGRESQL ? "ARRAY[id, NULL]" : "-id"
            }
        };
        String[] type = types[random.nextInt(types.length)];
        database.run(
                "ALTER TABLE " + table + " ADD COLUMN filler " + type[0],
                "UPDATE " + table + " SET filler = " + type[1]);
    }

    private static List<String> texts(Database database, World world) throws SQLException {
        List<String> texts = new ArrayList<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement()) {
            for (int table = 0; table < world.tables; table++) {
                try (ResultSet rows = statement.executeQuery("SELECT * FROM t" + table)) {
                    while (rows.next()) {
                        StringBuilder row = new StringBuilder("t" + table);
                        for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                            row.append(' ').append(rows.getString(i));
                        }
                        texts.add(row.toString());
                    }
                }
            }
        }
        texts.sort(null);
        return texts;
    }

    private static void compare(String told, Oracle oracle, Preview preview) {
        State state = oracle.nothing()
                ? State.NOTHING
                : oracle.everythingSpared()
                        ? State.BLOCKED
                        : oracle.refused() ? State.REFUSED : oracle.blocked() ? State.BLOCKED : State.READY;
        assertThat(preview.state()).as("%s\n%s", preview.blockers(), told).isEqualTo(state);
        Map<String, Long> going = new TreeMap<>();
        Map<String, Long> nulled = new TreeMap<>();
        Map<String, Long> blanked = new TreeMap<>();
        for (Effect effect : preview.effects()) {
            if (effect.action() == Action.DELETE) {
                going.merge(effect.table().name(), effect.rows(), Long::sum);
            } else if (effect.action() == Action.BLANK) {
                blanked.merge(effect.table().name(), effect.rows(), Long::sum);
            } else {
                nulled.merge(ownName(effect.relation()), effect.rows(), Long::sum);
            }
        }
        if (!preview.effects().isEmpty()) {
            assertThat(preview.effects().get(0).relation())
                    .as("the selected rows come first in\n%s", told)
                    .isNull();
        }
        Map<String, Long> blockers = new TreeMap<>();
        boolean hidden = false;
        for (Blocker blocker : preview.blockers()) {
            if (blocker.rows() == 0) {
                // That there is something, and neither what nor where.
                assertThat(blocker).as(told).isEqualTo(Blocker.hidden(preview.table()));
                hidden = true;
            } else {
                blockers.merge(ownName(blocker.relation()), blocker.rows(), Long::sum);
            }
        }
        assertThat(going).as("what goes in\n%s", told).isEqualTo(oracle.going());
        assertThat(nulled).as("what loses its link in\n%s", told).isEqualTo(sizes(oracle.changed));
        assertThat(blanked).as("what is blanked in\n%s", told).isEqualTo(sizes(oracle.blanked));
        assertThat(preview.skipped().rows()).as("what is spared in\n%s", told).isEqualTo(oracle.skipped.size());
        assertThat(preview.skippedBy().stream().mapToLong(SkipReason::rows).sum())
                .as("reasons for what is spared in\n%s", told)
                .isEqualTo(oracle.skipped.size());
        assertThat(blockers).as("what blocks in\n%s", told).isEqualTo(sizes(oracle.blockers));
        assertThat(hidden).as("what crosses the scope in\n%s", told).isEqualTo(!oracle.crossings.isEmpty());
    }

    private static List<String> counts(List<Effect> effects) {
        return effects.stream()
                .map(effect -> effect.action() + " " + effect.table() + " " + effect.relation() + " " + effect.rows())
                .toList();
    }

    private static String ownName(String relation) {
        return relation.replaceAll(" ->.*", "");
    }

    private static Map<String, Long> sizes(Map<String, ?> rows) {
        Map<String, Long> sizes = new TreeMap<>();
        rows.forEach((name, some) ->
                sizes.put(name, some instanceof Map<?, ?> map ? (long) map.size() : (long) ((Set<?>) some).size()));
        return sizes;
    }

    private static Map<Integer, Map<String, Integer>> rows(Database database, int table) throws SQLException {
        Map<Integer, Map<String, Integer>> all = new TreeMap<>();
        try (Connection connection = database.connect();
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SELECT * FROM t" + table)) {
            while (rows.next()) {
                Map<String, Integer> row = new LinkedHashMap<>();
                // The last column is the filler, which says nothing of relations.
                for (int i = 1; i < rows.getMetaData().getColumnCount(); i++) {
                    int value = rows.getInt(i);
                    row.put(rows.getMetaData().getColumnLabel(i), rows.wasNull() ? null : value);
                }
                all.put(rows.getInt("id"), row);
            }
        }
        return all;
    }
}
