// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedColumn;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.FilePersonKeys;
import io.vacancy.archive.PersonKeys;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.schema.Row;
import io.vacancy.trail.TrailEntry;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.Statement;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;

/** What is archived of persons is encrypted by their keys, and gone with them. */
class PersonKeysTest {

    private static final String[] TABLES = {
        "CREATE TABLE skipper (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(40), born DATE, weight DECIMAL(5,1))",
        "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, skipper_id INTEGER, nickname VARCHAR(40), length_cm INTEGER,"
                + " FOREIGN KEY (skipper_id) REFERENCES skipper (id))",
        "CREATE TABLE log (id INTEGER NOT NULL PRIMARY KEY, boat_id INTEGER, words VARCHAR(80),"
                + " FOREIGN KEY (boat_id) REFERENCES boat (id))",
        "INSERT INTO skipper VALUES (1, 'Tavi Orn', '1980-02-03', 81.5), (2, 'Mira Holm', NULL, NULL)",
        "INSERT INTO boat VALUES (10, 1, 'Tavis pride', 900), (11, 1, NULL, 700), (20, NULL, 'ownerless', 500)",
        "INSERT INTO log VALUES (100, 10, 'Tavi came late'), (101, 11, 'all is well with Tavi')"
    };

    private static final String RULES = """
            version: 1
            tables:
              skipper: {personal: [name, born, weight], blank: {name: "skipper {id}"}, person: true, forget: erase}
              boat: {personal: [nickname], forget: erase}
              log: {personal: [words], forget: erase}
            relations:
              boat.skipper_id: cascade
              log.boat_id: cascade
            """;

    @TempDir
    Path folder;

    private Vacancy open(Bench bench, PersonKeys keys) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBookFile.read(RULES, "rules"))
                .actor(() -> "Mira Holm")
                .sealKey("a secret of the harbour office".getBytes(StandardCharsets.UTF_8))
                .personKeys(keys)
                .open();
    }

    private static Set<Row> held(Vacancy vacancy, String... tables) {
        return Arrays.stream(tables)
                .flatMap(table -> {
                    try (Stream<Row> rows = vacancy.rows(Request.erase(table).everyRow())) {
                        return rows.toList().stream();
                    }
                })
                .collect(Collectors.toSet());
    }

    /** Everything that stands in the table of images. */
    private static String archive(Bench bench) throws Exception {
        StringBuilder all = new StringBuilder();
        try (Connection connection = bench.database().connect();
                Statement statement = connection.createStatement();
                ResultSet rows = statement.executeQuery("SELECT * FROM vacancy_image")) {
            while (rows.next()) {
                for (int i = 1; i <= rows.getMetaData().getColumnCount(); i++) {
                    Object value = rows.getObject(i);
                    all.append(
                                    value instanceof byte[] bytes
                                            ? new String(bytes, StandardCharsets.UTF_8)
                                            : value instanceof Object[] array
                                                    ? Arrays.toString(array)
                                                    : Objects.toString(rows.getString(i)))
                            .append(' ');
                }
            }
        }
        return all.toString();
    }

    @OnEveryEngine
    void whatIsErasedIsArchivedInSecretAndComesBack(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = open(bench, new FilePersonKeys(folder));
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "skipper", "boat", "log");

        Receipt receipt = Bench.done(vacancy, Request.delete("skipper").key(1)).receiptOrThrow();

        assertThat(archive(bench))
                .doesNotContain("Tavi Orn", "pride", "1980", "81.5")
                .contains("900");
        try (Stream<ArchivedRows> lines =
                vacancy.archive().rows(ArchiveQuery.all().of("skipper"))) {
            assertThat(lines.flatMap(line -> line.columns().stream()).filter(ArchivedColumn::encrypted))
                    .extracting(ArchivedColumn::name)
                    .containsExactly("name", "born", "weight");
        }
        // A row that does not name its person is as it was.
        assertThat(archive(bench)).contains("all is well");
        assertThat(vacancy.trail().verify().verified()).isTrue();
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(held(vacancy, "skipper", "boat", "log")).isEqualTo(before);
    }

    @OnEveryEngine
    void withTheKeyGoesWhatIsArchivedOfAPersonWhoIsForgotten(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = open(bench, new FilePersonKeys(folder));
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "skipper", "boat", "log");
        Receipt first = Bench.done(vacancy, Request.forget("skipper").key(1)).receiptOrThrow();
        assertThat(archive(bench)).doesNotContain("Tavi", "pride", "all is well");
        vacancy.execute(Request.restore(first.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(held(vacancy, "skipper", "boat", "log")).isEqualTo(before);

        Receipt receipt = Bench.done(vacancy, Request.forget("skipper").key(1)).receiptOrThrow();
        assertThat(vacancy.persons().destroyKey("skipper", "1")).isTrue();
        assertThat(vacancy.persons().destroyKey("skipper", 1)).isFalse();

        Preview preview = vacancy.preview(Request.restore(receipt.id()));
        assertThat(preview.state()).isEqualTo(Preview.State.BLOCKED);
        assertThat(preview.blockers())
                .extracting(blocker -> blocker.reason())
                .allMatch(reason -> reason.contains("the person's key was destroyed"));
        assertThat(vacancy.image(receipt.id(), "skipper", 1).orElseThrow().get("name"))
                .isNull();
        TrailEntry entry = vacancy.history().page(3).entries().get(0);
        assertThat(entry.kind()).isEqualTo(TrailEntry.Kind.DESTROY_KEY);
        assertThat(entry.affected().get(0).keys()).containsExactly("1");
        assertThat(vacancy.trail().verify().verified()).isTrue();
        assertThat(Bench.done(vacancy, Request.purge(receipt.id())).state()).isEqualTo(Outcome.State.DONE);
        try (Stream<Path> files = Files.list(folder)) {
            assertThat(files).isEmpty();
        }
    }

    @OnEveryEngine
    void whatIsBlankedIsKeptInSecretToo(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = open(bench, new FilePersonKeys(folder));
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "skipper");

        Receipt receipt =
                Bench.done(vacancy, Request.blank("skipper").everyRow()).receiptOrThrow();

        assertThat(archive(bench)).doesNotContain("Tavi", "Mira", "1980").contains("skipper 1");
        Preview keyless = bench.with(RULES).preview(Request.restore(receipt.id()));
        assertThat(keyless.state()).isEqualTo(Preview.State.BLOCKED);
        assertThat(keyless.blockers()).extracting(blocker -> blocker.rows()).containsExactly(2L);
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(held(vacancy, "skipper")).isEqualTo(before);
    }

    @OnEveryEngine
    void withoutTheKeysNothingComesBackWithHoles(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        Vacancy vacancy = open(bench, new FilePersonKeys(folder));
        vacancy.archive().setUp();
        Receipt receipt = Bench.done(vacancy, Request.delete("skipper").key(1)).receiptOrThrow();
        Vacancy keyless = bench.with(RULES);

        assertThat(keyless.preview(Request.restore(receipt.id())).blockers())
                .extracting(blocker -> blocker.reason())
                .anyMatch(reason -> reason.contains("encrypted by the keys of persons, and none are given here"));
        assertThatThrownBy(() -> keyless.persons().destroyKey("skipper", 1))
                .isInstanceOf(MisuseException.class)
                .hasMessage("No keys of persons are set, so none can be destroyed.");
        assertThatThrownBy(() -> vacancy.persons().destroyKey("boat", 10)).isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> new FilePersonKeys(folder.resolve("elsewhere")))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("is not there");
        Receipt plain = Bench.done(keyless, Request.delete("boat").key(20)).receiptOrThrow();
        assertThat(archive(bench)).contains("ownerless");
        vacancy.execute(Request.restore(plain.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(bench.count("boat WHERE nickname = 'ownerless'")).isEqualTo(1);
    }

    @OnEveryEngine
    void manyRowsOfManyPersons(Engine engine) throws Exception {
        Bench bench = Bench.of(engine, TABLES);
        for (int from = 1_000; from < 2_500; from += 500) {
            StringBuilder rows = new StringBuilder("INSERT INTO skipper (id, name) VALUES ");
            for (int i = from; i < from + 500; i++) {
                rows.append(i == from ? "" : ", ")
                        .append("(")
                        .append(i)
                        .append(", 'person no ")
                        .append(i)
                        .append("')");
            }
            bench.database().run(rows.toString());
        }
        Vacancy vacancy = open(bench, new FilePersonKeys(folder));
        vacancy.archive().setUp();
        Set<Row> before = held(vacancy, "skipper");

        Receipt receipt =
                Bench.done(vacancy, Request.delete("skipper").everyRow()).receiptOrThrow();

        assertThat(archive(bench)).doesNotContain("person no");
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(held(vacancy, "skipper")).isEqualTo(before);
        assertThat(List.of(folder.toFile().list())).hasSize(1_502);
    }
}
