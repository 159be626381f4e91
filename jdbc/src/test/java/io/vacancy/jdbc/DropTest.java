// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatCode;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.tuple;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.StoreException;
import io.vacancy.json.JsonReader;
import io.vacancy.json.JsonWriter;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Blocker;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.question.Question.Strength;
import io.vacancy.question.QuestionId;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.schema.Row;
import io.vacancy.trail.TrailEntry;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.Method;
import java.lang.reflect.Proxy;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.SQLNonTransientConnectionException;
import java.sql.Statement;
import java.time.Duration;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import javax.sql.DataSource;
import org.h2.jdbcx.JdbcDataSource;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Tables and columns that are dropped, and come back. */
class DropTest {

    private static final String[] TABLES = {
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40) NOT NULL, length_cm INTEGER DEFAULT 0)",
        "CREATE TABLE survey (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, grade VARCHAR(10), seen DATE NOT NULL,"
                + " note VARCHAR(100), UNIQUE (boat_id, seen), FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "CREATE INDEX survey_grade ON survey (grade)",
        "INSERT INTO boat VALUES (1, 'Osprey', 900), (2, 'Merlin', NULL)",
        "INSERT INTO survey VALUES (1, 1, 'A', '2024-05-01', 'sound'), (2, 1, 'B', '2025-05-01', NULL),"
                + " (3, 2, NULL, '2025-06-01', 'soft deck')"
    };

    private static Set<Row> held(Vacancy vacancy, String table) {
        try (Stream<Row> rows = vacancy.rows(Request.erase(table).everyRow())) {
            return rows.collect(Collectors.toSet());
        }
    }

    @OnEveryEngine
    void aTableGoesAndComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "survey");

        Preview preview = vacancy.preview(Request.drop("survey"));

        assertThat(preview.state()).isEqualTo(State.READY);
        assertThat(preview.title()).isEqualTo("Drop table survey with all its 3 rows");
        assertThat(preview.question().strength()).isEqualTo(Strength.TABLE);
        assertThat(preview.question().awaited()).isEqualTo("survey");
        assertThat(preview.totals()).isEqualTo(Map.of(Action.DROP, 3L));
        assertThat(preview.warnings())
                .anyMatch(warning -> warning.toLowerCase(Locale.ROOT).contains("index survey_grade"));
        Receipt receipt = Bench.done(vacancy, Request.drop("survey").because("no longer kept"))
                .receiptOrThrow();
        assertThat(receipt.archived()).isTrue();
        assertThat(receipt.definition()).isNotEmpty();
        assertThat(vacancy.schema().tables()).noneMatch(table -> table.name().is("survey"));
        assertThat(vacancy.receipt(receipt.id()).orElseThrow().definition()).isEqualTo(receipt.definition());
        assertThat(vacancy.receipt(receipt.id()).orElseThrow().totals()).isEqualTo(Map.of(Action.DROP, 3L));
        assertThat(vacancy.trail().verify().verified()).isTrue();
        TrailEntry entry = vacancy.history().page(5).entries().get(0);
        assertThat(entry.kind()).isEqualTo(TrailEntry.Kind.DROP);
        assertThat(entry.affected().get(0).keys()).containsExactly("1", "2", "3");

        bench.database().run(receipt.definition().toArray(String[]::new));
        vacancy.refresh();
        Receipt back = vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();

        assertThat(back.totals()).isEqualTo(Map.of(Action.RESTORE, 3L));
        assertThat(held(vacancy, "survey")).isEqualTo(before);
        assertThat(vacancy.schema()
                        .relationsFrom(vacancy.schema().table("survey").name()))
                .hasSize(1);
        assertThat(vacancy.schema().table("survey").indexed(List.of("grade"))).isTrue();
        assertThat(vacancy.preview(Request.drop("survey")).state()).isEqualTo(State.READY);
    }

    @OnEveryEngine
    void aColumnGoesAndComesBack(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "boat");

        Preview preview = vacancy.preview(Request.dropColumn("BOAT", "length_cm"));

        assertThat(preview.title()).isEqualTo("Drop column length_cm of boat, which has a value in 1 row");
        assertThat(preview.question().awaited()).isEqualTo("boat.length_cm");
        Receipt receipt =
                Bench.done(vacancy, Request.dropColumn("boat", "length_cm")).receiptOrThrow();
        assertThat(vacancy.schema().table("boat").has("length_cm")).isFalse();
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(receipt.effects().get(0).becomes()).isEqualTo("length_cm");

        receipt.definition().stream()
                .filter(statement -> !statement.startsWith("--"))
                .forEach(bench.database()::run);
        vacancy.refresh();
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();

        assertThat(held(vacancy, "boat")).isEqualTo(before);
    }

    @OnEveryEngine
    void whatUsesItBlocks(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database()
                .run("CREATE VIEW sound_boats AS SELECT b.id, b.name FROM boat b JOIN survey s ON s.boat_id = b.id"
                        + " WHERE s.grade = 'A'");
        Vacancy vacancy = bench.with("""
                version: 1
                tables:
                  survey: {label: "{note}"}
                """);
        vacancy.archive().setUp();

        assertThat(reasons(vacancy, Request.drop("boat")))
                .containsExactlyInAnyOrder(
                        "survey.boat_id: the foreign key has to go first",
                        "view sound_boats uses it, and has to go first");
        assertThat(reasons(vacancy, Request.drop("survey")))
                .hasSize(2)
                .contains("view sound_boats uses it, and has to go first")
                .anyMatch(reason -> reason.contains("the rule book names it") && reason.contains("survey"));
        assertThat(reasons(vacancy, Request.dropColumn("survey", "grade")))
                .contains("view sound_boats uses it, and has to go first")
                .anyMatch(reason -> reason.toLowerCase(Locale.ROOT).contains("index survey_grade"));
        assertThat(reasons(vacancy, Request.dropColumn("survey", "note")))
                .anyMatch(reason -> reason.contains("the rule book names it") && reason.contains("note"));
        assertThat(reasons(vacancy, Request.dropColumn("survey", "seen"))).contains("column seen is part of a key");
        assertThat(reasons(vacancy, Request.dropColumn("survey", "boat_id")))
                .contains("survey.boat_id: the foreign key has to go first");
        Outcome outcome = Bench.done(vacancy, Request.drop("boat"));
        assertThat(outcome.state()).isEqualTo(Outcome.State.BLOCKED);
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(vacancy.history().page(1).entries().get(0).ending()).isEqualTo(TrailEntry.Ending.BLOCKED);
    }

    private static List<String> reasons(Vacancy vacancy, Request request) {
        Preview preview = vacancy.preview(request);
        assertThat(preview.state()).isEqualTo(State.BLOCKED);
        return preview.blockers().stream()
                .map(blocker -> (blocker.relation() == null ? "" : blocker.relation() + ": ") + blocker.reason())
                .toList();
    }

    @OnEveryEngine
    void heldRowsKeepTheirTable(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        vacancy.archive().holdRow("survey", 2, "case 7");

        for (Request request : List.of(Request.drop("survey"), Request.truncate("survey"))) {
            Preview preview = vacancy.preview(request);
            assertThat(preview.state()).isEqualTo(State.BLOCKED);
            assertThat(preview.blockers())
                    .extracting(Blocker::rows, Blocker::reason)
                    .containsExactly(tuple(1L, "held by Mira Holm: case 7"));
        }
    }

    @OnEveryEngine
    void anEmptyTableIsDroppedAndToldSo(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run("DELETE FROM survey");
        Vacancy vacancy = bench.vacancy();

        Outcome outcome = Bench.done(vacancy, Request.drop("survey"));

        Receipt receipt = outcome.receiptOrThrow();
        assertThat(receipt.archived()).isFalse();
        assertThat(outcome.message()).startsWith("Dropped table survey with its 0 rows; receipt ");
        assertThat(vacancy.schema().tables()).hasSize(1);
    }

    @OnEveryEngine
    void onlyItsNameIsAnAnswerAndOnlyWhatWasShownGoes(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Preview preview = vacancy.preview(Request.drop("survey"));

        assertThat(vacancy.execute(preview, preview.question().answer("yes")).state())
                .isEqualTo(Outcome.State.DECLINED);
        bench.database().run("DELETE FROM survey WHERE id = 1");
        assertThat(vacancy.execute(preview, preview.question().answer("survey")).state())
                .isEqualTo(Outcome.State.CHANGED);
        assertThat(bench.count("survey")).isEqualTo(2);
        assertThatThrownBy(() -> vacancy.preview(Request.drop("surveys")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("survey");
        assertThatThrownBy(() -> vacancy.preview(Request.dropColumn("survey", "grad")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("grade");
    }

    @OnEveryEngine
    void nothingThatIsCommittedBesideItIsLost(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Set<Integer> written = ConcurrentHashMap.newKeySet();
        AtomicBoolean goOn = new AtomicBoolean(true);
        Thread writer = new Thread(() -> {
            int id = 100;
            try (Connection connection = bench.database().connect();
                    Statement statement = connection.createStatement()) {
                while (goOn.get()) {
                    id++;
                    statement.executeUpdate("INSERT INTO survey VALUES (" + id + ", NULL, 'C', '2026-01-01', NULL)");
                    written.add(id);
                    Thread.sleep(25);
                }
            } catch (SQLException | InterruptedException gone) {
                goOn.set(false);
            }
        });
        writer.start();
        while (goOn.get() && written.size() < 2) {
            Thread.sleep(1);
        }
        Outcome outcome = null;
        for (int attempt = 0; attempt < 200 && !(outcome instanceof Outcome.Done); attempt++) {
            Thread.sleep(20);
            outcome = vacancy.execute(
                    Request.drop("survey").lockTimeout(Duration.ofSeconds(5)).withoutConfirmation("a test"));
        }
        goOn.set(false);
        writer.join();

        Receipt receipt = outcome.receiptOrThrow();
        assertThat(written).hasSizeGreaterThan(1);
        assertThat(receipt.totals()).isEqualTo(Map.of(Action.DROP, written.size() + 3L));
        try (Stream<ArchivedRows> lines = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(lines.mapToLong(ArchivedRows::left).sum()).isEqualTo(written.size() + 3);
        }
    }

    @OnEveryEngine
    void whoeverIsThereIsNotRunOver(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        try (Connection other = bench.database().connect();
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            statement.executeUpdate("UPDATE survey SET note = 'new' WHERE id = 1");
            CountDownLatch ended = new CountDownLatch(1);
            Outcome[] outcome = new Outcome[1];
            Thread dropping = new Thread(() -> {
                outcome[0] = vacancy.execute(Request.drop("survey")
                        .lockTimeout(Duration.ofSeconds(1))
                        .withoutConfirmation("a test"));
                ended.countDown();
            });
            dropping.start();
            assertThat(ended.await(60, TimeUnit.SECONDS)).isTrue();
            assertThat(outcome[0].state()).isEqualTo(Outcome.State.BUSY);
            other.rollback();
        }
        assertThat(bench.count("survey")).isEqualTo(3);
        try (Stream<ArchivedRows> lines = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(lines).isEmpty();
        }
        assertThat(Bench.done(vacancy, Request.drop("survey")).state()).isEqualTo(Outcome.State.DONE);
    }

    @OnEveryEngine
    void itIsDoneAlone(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = bench.vacancy().within(connection);
            assertThatThrownBy(() -> within.execute(Request.drop("survey").withoutConfirmation("a test")))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("not dropped within a transaction");
            connection.rollback();
        }
        assertThat(bench.count("survey")).isEqualTo(3);
    }

    @OnEveryEngine
    void withoutAnArchiveItIsGone(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Request request = Request.drop("survey").withoutArchive();

        assertThat(vacancy.preview(request).question().consequences())
                .contains("No copy is archived, so what it holds cannot be restored.");
        Receipt receipt = Bench.done(vacancy, request).receiptOrThrow();

        assertThat(receipt.archived()).isFalse();
        try (Stream<ArchivedRows> lines = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(lines).isEmpty();
        }
    }

    @OnEveryEngine
    void whatTheDatabaseRefusesIsAsItWas(Engine engine) {
        String stored = engine == Engine.H2 ? "" : " STORED";
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE tide (id INTEGER NOT NULL PRIMARY KEY, feet INTEGER, cm INTEGER GENERATED ALWAYS AS (feet * 30)"
                        + stored + ")",
                "INSERT INTO tide (id, feet) VALUES (1, 4), (2, 7)");
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();

        Outcome outcome = Bench.done(vacancy, Request.dropColumn("tide", "feet"));

        assertThat(outcome.state()).isEqualTo(Outcome.State.REFUSED);
        assertThat(bench.count("tide WHERE feet > 0 AND cm > 0")).isEqualTo(2);
        try (Stream<ArchivedRows> lines = vacancy.archive().rows(ArchiveQuery.all())) {
            assertThat(lines).isEmpty();
        }
        assertThat(vacancy.history().page(5).entries())
                .extracting(TrailEntry::ending)
                .startsWith(TrailEntry.Ending.REFUSED);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void whatIsArchivedOfItIsThereWithoutTheTable(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(vacancy, Request.drop("survey")).receiptOrThrow();

        try (Stream<ArchivedRows> lines =
                vacancy.archive().rows(ArchiveQuery.all().of("survey"))) {
            assertThat(lines).extracting(ArchivedRows::left).containsExactly(3L);
        }
        assertThat(vacancy.history().of("survey").page(5).entries()).isNotEmpty();
        assertThatThrownBy(() -> vacancy.preview(Request.restore(receipt.id())))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("survey, of which rows are archived under receipt " + receipt.id());
        Receipt purged = Bench.done(vacancy, Request.purge(receipt.id())).receiptOrThrow();
        assertThat(purged.totals()).isEqualTo(Map.of(Action.PURGE, 3L));
        assertThat(Bench.done(vacancy, Request.purge("survey").everyRow()).state())
                .isEqualTo(Outcome.State.NOTHING);
        assertThat(vacancy.trail().verify().verified()).isTrue();
    }

    @OnEveryEngine
    void whereTheLineIsLostNobodySaysWhatNobodyKnows(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy sure = bench.vacancy();
        sure.archive().setUp();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(losing(bench.database().source(), "DROP TABLE")))
                .actor(() -> "Mira Holm")
                .open();

        Request request = Request.drop("survey").withoutConfirmation("a test");
        if (engine == Engine.H2 || engine == Engine.MARIADB) {
            ReceiptId begun = ((Outcome.InDoubt) vacancy.execute(request)).receipt();
            assertThat(sure.history().page(5).entries().get(0).ending()).isEqualTo(TrailEntry.Ending.BEGUN);
            assertThat(sure.receipt(begun).orElseThrow().effects()).isEmpty();
            assertThat(sure.receipt(begun).orElseThrow().warnings())
                    .containsExactly("It was begun, and it is not known to have been carried out.");
            assertThat(Bench.done(sure, Request.purge(begun)).receiptOrThrow().totals())
                    .isEqualTo(Map.of(Action.PURGE, 3L));
        } else {
            // A transaction that was never committed is none.
            assertThatCode(() -> assertThat(vacancy.execute(request).state()).isEqualTo(Outcome.State.REFUSED))
                    .satisfiesAnyOf(failed -> assertThat(failed).isNull(), failed -> assertThat(failed)
                            .isInstanceOf(StoreException.class)
                            .hasMessageEndingWith("Nothing was changed."));
            try (Stream<ArchivedRows> lines = sure.archive().rows(ArchiveQuery.all())) {
                assertThat(lines).isEmpty();
            }
        }
        assertThat(bench.count("survey")).isEqualTo(3);
        assertThat(Bench.done(sure, Request.drop("survey")).state()).isEqualTo(Outcome.State.DONE);
        assertThat(sure.trail().verify().verified()).isTrue();
    }

    /** Loses the connection before a statement with these words. */
    private static DataSource losing(DataSource source, String words) {
        return proxy(DataSource.class, source, (method, arguments) -> {
            Object result = method.invoke(source, arguments);
            return result instanceof Connection connection
                    ? proxy(Connection.class, connection, (call, given) -> {
                        if (call.getName().equals("prepareStatement") && ((String) given[0]).contains(words)) {
                            connection.close();
                            throw new SQLNonTransientConnectionException("the line is lost", "08006");
                        }
                        return call.invoke(connection, given);
                    })
                    : result;
        });
    }

    private interface Call {
        @Nullable
        Object on(Method method, Object @Nullable [] arguments) throws Throwable;
    }

    private static <T> T proxy(Class<T> type, T of, Call call) {
        return type.cast(Proxy.newProxyInstance(type.getClassLoader(), new Class<?>[] {type}, (self, method, given) -> {
            try {
                return call.on(method, given);
            } catch (InvocationTargetException failed) {
                throw failed.getCause();
            }
        }));
    }

    @OnEveryEngine
    void madeAgainItIsTheSameTable(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.database().run(inTheWaysOf(engine));
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();
        List<String> before = vacancy.preview(Request.drop("tide")).impact().definition();
        Set<Row> rows = held(vacancy, "tide");

        Receipt receipt = Bench.done(vacancy, Request.drop("tide")).receiptOrThrow();
        bench.database().run(receipt.definition().toArray(String[]::new));
        vacancy.refresh();
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();

        assertThat(withoutCounters(
                        vacancy.preview(Request.drop("tide")).impact().definition()))
                .isEqualTo(withoutCounters(before));
        assertThat(String.join(" ", before).toLowerCase(Locale.ROOT))
                .contains("tide_mark", "1.50", "> 0", "on delete cascade");
        assertThat(held(vacancy, "tide")).isEqualTo(rows);
        // What numbers its rows goes on behind them.
        bench.database().run("INSERT INTO tide (feet) VALUES (9)");
        assertThat(bench.count("tide")).isEqualTo(3);
    }

    /** Where counters stand is no part of what a table is. */
    private static List<String> withoutCounters(List<String> definition) {
        return definition.stream()
                .map(statement -> statement
                        .replaceAll("(?i) AUTO_INCREMENT=\\d+|RESTART WITH \\d+", "")
                        .replace("FEET", "feet"))
                .toList();
    }

    private static String[] inTheWaysOf(Engine engine) {
        String columns =
                " feet INTEGER NOT NULL, price DECIMAL(8,2) DEFAULT 1.50, boat_id INTEGER, seen TIMESTAMP NULL,"
                        + " CONSTRAINT high CHECK (feet > 0), CONSTRAINT once UNIQUE (feet, boat_id),"
                        + " CONSTRAINT of_boat FOREIGN KEY (boat_id) REFERENCES boat (id) ON DELETE CASCADE)";
        String index = "CREATE INDEX tide_mark ON tide (boat_id, price)";
        String rows = "INSERT INTO tide (feet, price, boat_id) VALUES (3, 2.25, 1), (4, NULL, NULL)";
        return switch (engine) {
            case SQLITE ->
                new String[] {
                    "CREATE TABLE tide (id INTEGER PRIMARY KEY AUTOINCREMENT," + columns,
                    index,
                    "CREATE TRIGGER tide_told AFTER INSERT ON tide BEGIN SELECT 1; END",
                    rows
                };
            case H2 ->
                new String[] {
                    "CREATE TABLE tide (id INTEGER GENERATED BY DEFAULT AS IDENTITY PRIMARY KEY," + columns, index, rows
                };
            case POSTGRESQL ->
                new String[] {
                    "CREATE TABLE tide (id SERIAL PRIMARY KEY, other BIGINT GENERATED BY DEFAULT AS IDENTITY,"
                            + " name TEXT COLLATE \"C\" DEFAULT 'low', twice INTEGER GENERATED ALWAYS AS (feet * 2) STORED,"
                            + columns,
                    index,
                    "CREATE UNIQUE INDEX tide_few ON tide (lower(name)) WHERE feet > 100",
                    rows
                };
            case MARIADB, OTHER ->
                new String[] {
                    "CREATE TABLE tide (id INTEGER AUTO_INCREMENT PRIMARY KEY, name VARCHAR(20) DEFAULT 'low',"
                            + " twice INTEGER AS (feet * 2) PERSISTENT,"
                            + columns,
                    index,
                    "CREATE TRIGGER tide_told BEFORE INSERT ON tide FOR EACH ROW SET NEW.seen = NULL",
                    rows
                };
        };
    }

    @OnEveryEngine
    void aSecondPersonApprovesIt(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        bench.vacancy().archive().setUp();
        String rules = "version: 1\napprovals: [{operation: drop}]\n";
        Vacancy asker = bench.with(rules);
        Vacancy approver = Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(rules, "rules"))
                .actor(() -> "Mira Holm")
                .open();
        Preview preview = asker.preview(Request.dropColumn("boat", "length_cm"));
        QuestionId question = asker.questions().open(preview).id();

        assertThat(asker.questions().answer(question, "boat.length_cm")).get().isInstanceOf(Outcome.Waiting.class);
        assertThat(asker.schema().table("boat").has("length_cm")).isTrue();
        Outcome outcome =
                approver.questions().approve(question, "boat.length_cm").orElseThrow();

        assertThat(outcome.receiptOrThrow().by()).isEqualTo("Tavi Orn");
        assertThat(approver.schema().table("boat").has("length_cm")).isFalse();
    }

    @OnEveryEngine
    void whoSeesAPartOfItDropsNothing(Engine engine) {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy scoped = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Tavi Orn")
                .scope(() -> Scope.where("grade", "A").open("boat"))
                .open();

        Outcome outcome = scoped.execute(Request.drop("survey").withoutConfirmation("a test"));

        assertThat(outcome.message())
                .startsWith("Neither table survey nor a column of it can be dropped by somebody who may not see all");
        assertThat(bench.count("survey")).isEqualTo(3);
        Vacancy never = bench.with("version: 1\ntables: {boat: {never-deleted: true}}\n");
        assertThat(never.preview(Request.dropColumn("boat", "length_cm")).refusal())
                .isEqualTo("Rows of boat are never deleted.");
    }

    @OnEveryEngine
    void rowsThatReferToOthersOfTheirTableGoWithIt(Engine engine) {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE reply (id INTEGER NOT NULL PRIMARY KEY, answers INTEGER,"
                        + " FOREIGN KEY (answers) REFERENCES reply (id))",
                "INSERT INTO reply VALUES (1, NULL), (2, 1), (3, 2)");
        Vacancy vacancy = bench.vacancy();
        vacancy.archive().setUp();

        Receipt receipt = Bench.done(vacancy, Request.drop("reply")).receiptOrThrow();
        bench.database().run(receipt.definition().toArray(String[]::new));
        vacancy.refresh();
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();

        assertThat(bench.count("reply WHERE answers IS NOT NULL")).isEqualTo(2);
    }

    @Test
    void whatCouldNotBeMadeAgainStays() {
        Bench bench = Bench.of(
                Engine.POSTGRESQL,
                "CREATE TABLE catch (id INTEGER, season INTEGER) PARTITION BY LIST (season)",
                "CREATE TABLE catch_26 PARTITION OF catch FOR VALUES IN (2026)",
                "INSERT INTO catch VALUES (1, 2026)");

        assertThat(reasons(bench.vacancy(), Request.drop("catch")))
                .containsExactly("it has partitions, which nothing here could make again");
    }

    @Test
    void whoMayNotHaveOthersWaitDropsNothing() {
        Bench bench = Bench.of(Engine.H2, TABLES);
        bench.database().run("CREATE USER clerk PASSWORD 'mooring'", "GRANT ALL ON SCHEMA PUBLIC TO clerk");
        JdbcDataSource source = new JdbcDataSource();
        source.setURL(bench.database().url().replaceAll(";DB_CLOSE_DELAY=[^;]*", ""));
        source.setUser("clerk");
        source.setPassword("mooring");
        Vacancy clerk = Vacancy.on(JdbcStore.of(source)).actor(() -> "Tavi Orn").open();

        assertThat(reasons(clerk, Request.drop("survey")))
                .containsExactly("only an administrator of H2 can have all others wait meanwhile");
    }

    @Test
    void aRequestToDropIsReadAsItIsWritten() {
        for (Request request : List.of(
                Request.drop("survey").because("old"),
                Request.dropColumn("survey", "grade").withoutArchive().expect(3))) {
            String written = new JsonWriter().write(request);
            assertThat(new JsonWriter().write(JsonReader.request(written))).isEqualTo(written);
        }
        assertThatThrownBy(() -> JsonReader.request(
                        "{\"version\": 1, \"operation\": \"erase\", \"table\": \"a\", \"column\": \"b\"}"))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("\"column\"");
        assertThatThrownBy(() -> Request.drop("survey").plus(Request.drop("boat")))
                .isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Request.drop("survey").limit(1)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> Request.dropColumn("survey", " ")).isInstanceOf(MisuseException.class);
    }
}
