// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Effect;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.Relation;
import io.vacancy.schema.Row;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Tables that others designed, loaded as they are, with every relation a cascade. */
class SchemasOfOthersTest {

    private static final int INSTANCES = 30;

    @OnEveryEngine
    void theJobTablesOfABatchFramework(Engine engine) {
        Database database = engine.fresh();
        String script = "org/springframework/batch/core/schema-" + engine.name().toLowerCase(Locale.ROOT) + ".sql";
        database.run(statements(script));
        for (int i = 1; i <= INSTANCES; i++) {
            // Every third instance is of the job that goes; each ran twice, in three steps.
            database.run("INSERT INTO BATCH_JOB_INSTANCE (JOB_INSTANCE_ID, VERSION, JOB_NAME, JOB_KEY) VALUES (" + i
                    + ", 0, '" + (i % 3 == 0 ? "tides" : "fees") + "', 'k" + i + "')");
            for (int run = 2 * i - 1; run <= 2 * i; run++) {
                database.run(
                        "INSERT INTO BATCH_JOB_EXECUTION (JOB_EXECUTION_ID, JOB_INSTANCE_ID, CREATE_TIME) VALUES ("
                                + run + ", " + i + ", '2026-05-01 04:00:00')",
                        "INSERT INTO BATCH_JOB_EXECUTION_PARAMS VALUES (" + run
                                + ", 'day', 'java.lang.String', '1', 'Y')",
                        "INSERT INTO BATCH_JOB_EXECUTION_PARAMS VALUES (" + run
                                + ", 'pier', 'java.lang.String', 'A', 'N')",
                        "INSERT INTO BATCH_JOB_EXECUTION_CONTEXT VALUES (" + run + ", '{}', NULL)");
                for (int step = 3 * run - 2; step <= 3 * run; step++) {
                    database.run(
                            "INSERT INTO BATCH_STEP_EXECUTION (STEP_EXECUTION_ID, VERSION, STEP_NAME, JOB_EXECUTION_ID,"
                                    + " CREATE_TIME) VALUES (" + step + ", 0, 'step', " + run
                                    + ", '2026-05-01 04:00:00')",
                            "INSERT INTO BATCH_STEP_EXECUTION_CONTEXT VALUES (" + step + ", '{}', NULL)");
                }
            }
        }
        Vacancy vacancy = cascading(database);
        Request tides = Request.delete("BATCH_JOB_INSTANCE")
                .where(column("JOB_NAME").equalTo("tides"))
                .expect(INSTANCES / 3);
        if (engine == Engine.MARIADB) {
            // The parameters have no key, and this engine no row id by which to tell them apart.
            Preview blocked = vacancy.preview(tides);
            assertThat(blocked.state()).isEqualTo(State.BLOCKED);
            assertThat(blocked.blockers()).singleElement().satisfies(blocker -> assertThat(blocker.table())
                    .hasToString("BATCH_JOB_EXECUTION_PARAMS"));
            database.run("ALTER TABLE BATCH_JOB_EXECUTION_PARAMS ADD PRIMARY KEY (JOB_EXECUTION_ID, PARAMETER_NAME)");
            vacancy = cascading(database);
        }

        List<String> before = contents(vacancy);
        Receipt receipt = vacancy.execute(tides).receiptOrThrow();

        assertThat(byTable(receipt))
                .containsOnly(
                        Map.entry("batch_job_instance", 10L),
                        Map.entry("batch_job_execution", 20L),
                        Map.entry("batch_job_execution_params", 40L),
                        Map.entry("batch_job_execution_context", 20L),
                        Map.entry("batch_step_execution", 60L),
                        Map.entry("batch_step_execution_context", 60L));
        assertThat(database.count("BATCH_STEP_EXECUTION_CONTEXT")).isEqualTo(120);
        assertThat(database.count("BATCH_JOB_EXECUTION_PARAMS")).isEqualTo(80);
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(contents(vacancy)).isEqualTo(before);
    }

    @OnEveryEngine
    void theTablesOfASchedulerWithCompositeKeys(Engine engine) {
        Database database = engine.fresh();
        String script =
                switch (engine) {
                    case H2 -> "tables_h2.sql";
                    case MARIADB -> "tables_mysql_innodb.sql";
                    case POSTGRESQL, SQLITE, OTHER -> "tables_postgres.sql";
                };
        database.run(statements("org/quartz/impl/jdbcjobstore/" + script));
        String no = engine == Engine.MARIADB ? "'0'" : "FALSE";
        for (int job = 1; job <= 12; job++) {
            String name = "'north', 'job" + job + "'";
            database.run("INSERT INTO QRTZ_JOB_DETAILS (SCHED_NAME, JOB_NAME, JOB_GROUP, JOB_CLASS_NAME, IS_DURABLE,"
                    + " IS_NONCONCURRENT, IS_UPDATE_DATA, REQUESTS_RECOVERY) VALUES (" + name + ", 'harbour', 'Tide', "
                    + no + ", " + no + ", " + no + ", " + no + ")");
            for (int trigger = 1; trigger <= job % 4; trigger++) {
                String key = "'north', 'trigger" + job + "_" + trigger + "', 'harbour'";
                database.run("INSERT INTO QRTZ_TRIGGERS (SCHED_NAME, TRIGGER_NAME, TRIGGER_GROUP, JOB_NAME, JOB_GROUP,"
                        + " TRIGGER_STATE, TRIGGER_TYPE, START_TIME) VALUES (" + key + ", 'job" + job
                        + "', 'harbour', 'WAITING', 'CRON', 0)");
                database.run("INSERT INTO QRTZ_CRON_TRIGGERS (SCHED_NAME, TRIGGER_NAME, TRIGGER_GROUP,"
                        + " CRON_EXPRESSION) VALUES (" + key + ", '0 0 4 * * ?')");
            }
        }
        Vacancy vacancy = cascading(database);
        List<String> before = contents(vacancy);

        Receipt receipt = vacancy.execute(Request.delete("QRTZ_JOB_DETAILS")
                        .keys(Stream.of(3, 7, 8)
                                .map(job -> "SCHED_NAME=north,JOB_NAME=job" + job + ",JOB_GROUP=harbour")
                                .toList())
                        .expect(3))
                .receiptOrThrow();

        assertThat(byTable(receipt))
                .containsOnly(
                        Map.entry("qrtz_job_details", 3L),
                        Map.entry("qrtz_triggers", 6L),
                        Map.entry("qrtz_cron_triggers", 6L));
        assertThat(database.count("QRTZ_CRON_TRIGGERS")).isEqualTo(12);
        assertThat(database.count("QRTZ_JOB_DETAILS")).isEqualTo(9);
        vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a test"))
                .receiptOrThrow();
        assertThat(contents(vacancy)).isEqualTo(before);
    }

    private static Vacancy cascading(Database database) {
        JdbcStore store = JdbcStore.of(database.source());
        RuleBook rules = RuleBook.build(book -> {
            for (Relation relation : store.schema().relations()) {
                book.relation(relation.name(), Rule.cascade());
            }
        });
        Vacancy vacancy =
                Vacancy.on(store).rules(rules).actor(() -> "Mira Holm").open();
        vacancy.archive().setUp();
        return vacancy;
    }

    private static List<String> contents(Vacancy vacancy) {
        List<String> contents = new ArrayList<>();
        vacancy.schema().tables().forEach(table -> {
            try (Stream<Row> rows = vacancy.rows(Request.erase(table.toString()).everyRow())) {
                rows.map(row -> table + " " + row.values()).sorted().forEach(contents::add);
            }
        });
        return contents;
    }

    private static Map<String, Long> byTable(Receipt receipt) {
        return receipt.effects().stream()
                .collect(Collectors.toMap(
                        effect -> effect.table().toString().toLowerCase(Locale.ROOT), Effect::rows, Long::sum));
    }

    /** What is no statement of this engine's, such as a setting of another's, is left out. */
    private static String[] statements(String resource) {
        try (InputStream in = SchemasOfOthersTest.class.getClassLoader().getResourceAsStream(resource)) {
            String script = new String(in.readAllBytes(), StandardCharsets.UTF_8).replaceAll("(?m)^\\s*(--|#).*$", "");
            return Stream.of(script.split(";"))
                    .map(String::strip)
                    .filter(statement -> statement.matches("(?is)(CREATE|ALTER)\\b.*"))
                    .toArray(String[]::new);
        } catch (IOException failed) {
            throw new UncheckedIOException(failed);
        }
    }
}
