// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc.oracle;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.request.SelectionStep;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.TrailEntry;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.TreeMap;
import java.util.stream.Stream;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A harbour in plain collections, to which the same is done, knows what happened to every row. */
class HistoryOracleTest {

    private static final int BOATS = 5;
    private static final int ACTS = 40;

    private final Map<Integer, Boolean> boats = new TreeMap<>();
    /** By number: whether it is marked. Mooring n is boat n / 10's, reading n mooring n / 10's. */
    private final Map<Integer, Boolean> moorings = new TreeMap<>();

    private final Map<Integer, Boolean> readings = new TreeMap<>();
    /** What happened to each row, newest first, as "kind ending". */
    private final Map<String, List<String>> told = new HashMap<>();
    /** What a receipt can bring back: rows by table, and whether they were marked. */
    private final Map<String, Map<String, Map<Integer, Boolean>>> kept = new LinkedHashMap<>();

    private static Vacancy opened(Database database) {
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY)",
                "CREATE TABLE mooring (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER NOT NULL, left_on DATE,"
                        + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, mooring_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (mooring_id) REFERENCES mooring (id))");
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RuleBook.build(book -> book.table("mooring", t -> t.marker(Marker.date("left_on")))
                        .relation("mooring.boat_id", Rule.cascade())
                        .relation("reading.mooring_id", Rule.cascade())
                        .whenSoftDeleted("reading.mooring_id", Rule.leave())))
                .actor(() -> "Mira Holm")
                .open();
        vacancy.archive().setUp();
        return vacancy;
    }

    private void build(Database database) {
        for (int boat = 1; boat <= BOATS; boat++) {
            database.run("INSERT INTO boat VALUES (" + boat + ")");
            boats.put(boat, false);
            for (int mooring = 10 * boat; mooring < 10 * boat + 2; mooring++) {
                database.run("INSERT INTO mooring VALUES (" + mooring + ", " + boat + ", NULL)");
                moorings.put(mooring, false);
                for (int reading = 10 * mooring; reading < 10 * mooring + 2; reading++) {
                    database.run("INSERT INTO reading VALUES (" + reading + ", " + mooring + ")");
                    readings.put(reading, false);
                }
            }
        }
    }

    @ParameterizedTest(name = "{0}")
    @MethodSource("io.vacancy.engines.Engine#all")
    void historyTellsWhatHappened(Engine engine) {
        Random random = new Random(Integer.getInteger("vacancy.seed", 31) + engine.ordinal());
        Database database = engine.fresh();
        Vacancy vacancy = opened(database);
        build(database);
        for (int act = 0; act < ACTS; act++) {
            switch (random.nextInt(6)) {
                case 0 -> erase(vacancy, "boat", 1 + random.nextInt(BOATS));
                case 1 -> erase(vacancy, "mooring", mooring(random));
                case 2 -> mark(vacancy, mooring(random), true);
                case 3 -> mark(vacancy, mooring(random), false);
                case 4 -> bringBack(vacancy, random);
                default -> purge(vacancy, random);
            }
        }

        assertThat(rows(database, "boat")).isEqualTo(boats.size());
        assertThat(rows(database, "mooring")).isEqualTo(moorings.size());
        assertThat(rows(database, "mooring WHERE left_on IS NOT NULL"))
                .isEqualTo(moorings.values().stream().filter(marked -> marked).count());
        assertThat(rows(database, "reading")).isEqualTo(readings.size());
        for (int boat = 1; boat <= BOATS; boat++) {
            check(vacancy, "boat", boat);
            for (int mooring = 10 * boat; mooring < 10 * boat + 2; mooring++) {
                check(vacancy, "mooring", mooring);
                check(vacancy, "reading", 10 * mooring);
                check(vacancy, "reading", 10 * mooring + 1);
            }
        }
        assertThat(told.values().stream().mapToInt(List::size).sum())
                .as("what happened at all")
                .isGreaterThan(ACTS);
        vacancy.trail().seal();
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    private static long rows(Database database, String what) {
        return database.count(what);
    }

    private static int mooring(Random random) {
        return 10 * (1 + random.nextInt(BOATS)) + random.nextInt(2);
    }

    private void check(Vacancy vacancy, String table, int key) {
        try (Stream<TrailEntry> entries = vacancy.history().of(table, key).open()) {
            assertThat(entries.map(entry ->
                                    entry.kind().word() + " " + entry.ending().word())
                            .toList())
                    .as(table + " " + key)
                    .isEqualTo(told.getOrDefault(table + key, List.of()));
        }
    }

    private void tell(String table, int key, String what) {
        told.computeIfAbsent(table + key, row -> new ArrayList<>()).add(0, what);
    }

    private Map<Integer, Boolean> of(String table) {
        return switch (table) {
            case "boat" -> boats;
            case "mooring" -> moorings;
            default -> readings;
        };
    }

    private void erase(Vacancy vacancy, String table, int key) {
        Outcome outcome =
                vacancy.execute(Request.erase(table).key(key).includingMarked().withoutConfirmation("a test"));
        if (!of(table).containsKey(key)) {
            assertThat(outcome).isInstanceOf(Outcome.Nothing.class);
            return;
        }
        Map<String, Map<Integer, Boolean>> gone = new LinkedHashMap<>();
        for (String each : List.of("boat", "mooring", "reading")) {
            Map<Integer, Boolean> rows = new TreeMap<>();
            of(each).forEach((row, marked) -> {
                String path = Integer.toString(row);
                // A row hangs on every row whose number its own begins with.
                if (path.length() >= Integer.toString(key).length()
                        && path.startsWith(Integer.toString(key))
                        && depth(each) >= depth(table)) {
                    rows.put(row, marked);
                }
            });
            rows.keySet().forEach(row -> {
                of(each).remove(row);
                tell(each, row, "erase done");
            });
            if (!rows.isEmpty()) {
                gone.put(each, rows);
            }
        }
        kept.put(outcome.receiptOrThrow().id().value(), gone);
    }

    private static int depth(String table) {
        return List.of("boat", "mooring", "reading").indexOf(table);
    }

    private void mark(Vacancy vacancy, int mooring, boolean marked) {
        if (!marked && !moorings.containsKey(mooring)) {
            // What is archived is brought back elsewhere.
            return;
        }
        SelectionStep step = marked ? Request.softDelete("mooring") : Request.restore("mooring");
        Outcome outcome = vacancy.execute(step.key(mooring).withoutConfirmation("a test"));
        boolean there = moorings.containsKey(mooring) && moorings.get(mooring) != marked;
        assertThat(outcome instanceof Outcome.Done).as("marking " + mooring).isEqualTo(there);
        if (there) {
            moorings.put(mooring, marked);
            tell("mooring", mooring, marked ? "soft-delete done" : "restore done");
        }
    }

    private void bringBack(Vacancy vacancy, Random random) {
        String receipt = any(random);
        if (receipt == null) {
            return;
        }
        Map<String, Map<Integer, Boolean>> rows = kept.get(receipt);
        String root = rows.keySet().iterator().next();
        boolean free = rows.entrySet().stream()
                .noneMatch(table -> table.getValue().keySet().stream().anyMatch(of(table.getKey())::containsKey));
        boolean parent =
                root.equals("boat") || rows.get(root).keySet().stream().allMatch(row -> boats.containsKey(row / 10));
        Preview back = vacancy.preview(Request.restore(ReceiptId.of(receipt)));
        Outcome outcome =
                vacancy.execute(back, back.question().answer(back.question().awaited()));
        if (free && parent) {
            assertThat(outcome).isInstanceOf(Outcome.Done.class);
            rows.forEach((table, images) -> images.forEach((row, marked) -> {
                of(table).put(row, marked);
                tell(table, row, "restore done");
            }));
            // Its images are used, and stay until they are purged.
            kept.remove(receipt);
        } else {
            assertThat(outcome.state()).isEqualTo(Outcome.State.BLOCKED);
            // Of what did not come back only the selected rows are told, where they are few.
            rows.get(root).keySet().forEach(row -> tell(root, row, "restore blocked"));
        }
    }

    private void purge(Vacancy vacancy, Random random) {
        String receipt = any(random);
        if (receipt == null) {
            return;
        }
        Map<String, Map<Integer, Boolean>> rows = kept.remove(receipt);
        vacancy.execute(Request.purge(ReceiptId.of(receipt)).withoutConfirmation("a test"))
                .receiptOrThrow();
        rows.forEach((table, images) -> images.keySet().forEach(row -> tell(table, row, "purge done")));
    }

    private String any(Random random) {
        return kept.isEmpty() ? null : List.copyOf(kept.keySet()).get(random.nextInt(kept.size()));
    }
}
