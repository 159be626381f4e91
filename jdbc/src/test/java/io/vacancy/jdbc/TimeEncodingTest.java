// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.condition.ColumnRef;
import io.vacancy.condition.RelativeTime;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.RuleBookException;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleBook;
import io.vacancy.schema.TimeEncoding;
import java.time.Clock;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.junit.jupiter.api.Test;

/** Dates and times that are kept as texts or numbers are markers, stamps, ends of retention and parts of conditions. */
class TimeEncodingTest {

    private static final Clock NOON = Clock.fixed(Instant.parse("2026-06-15T12:00:00Z"), ZoneOffset.UTC);

    private static final Map<TimeEncoding, String> TYPES = Map.of(
            TimeEncoding.ISO_DATE, "VARCHAR(40)",
            TimeEncoding.ISO_TIMESTAMP, "VARCHAR(40)",
            TimeEncoding.SQL_TIMESTAMP, "VARCHAR(40)",
            TimeEncoding.EPOCH_SECONDS, "BIGINT",
            TimeEncoding.EPOCH_MILLISECONDS, "BIGINT",
            TimeEncoding.JULIAN_DAY, "DOUBLE PRECISION");

    /** Noon of the clock, and a day in 2025, as the application keeps them. */
    private static final Map<TimeEncoding, List<String>> KEPT = Map.of(
            TimeEncoding.ISO_DATE, List.of("'2026-06-15'", "'2025-03-01'"),
            TimeEncoding.ISO_TIMESTAMP, List.of("'2026-06-15T12:00:00'", "'2025-03-01T08:30:00'"),
            TimeEncoding.SQL_TIMESTAMP, List.of("'2026-06-15 12:00:00'", "'2025-03-01 08:30:00'"),
            TimeEncoding.EPOCH_SECONDS, List.of("1781524800", "1740817800"),
            TimeEncoding.EPOCH_MILLISECONDS, List.of("1781524800000", "1740817800000"),
            TimeEncoding.JULIAN_DAY, List.of("2461207.0", "2460735.8541666665"));

    private static Vacancy open(Database database, TimeEncoding encoding) {
        Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                .rules(RuleBook.build(book -> book.table("boat", t -> t.times("left_at", encoding)
                        .times("changed_at", encoding)
                        .marker(Marker.date("left_at"))
                        .auditColumns("changed_by", "changed_at")
                        .retention(Retention.UNLIMITED.softDeleted(Period.ofDays(90))))))
                .actor(() -> "Mira Holm")
                .clock(NOON)
                .open();
        vacancy.archive().setUp();
        return vacancy;
    }

    @OnEveryEngine
    void everyWayOfKeepingThem(Engine engine) {
        for (TimeEncoding encoding : TimeEncoding.values()) {
            Database database = engine.fresh();
            String type = Objects.requireNonNull(TYPES.get(encoding));
            String noon = Objects.requireNonNull(KEPT.get(encoding)).get(0);
            String earlier = Objects.requireNonNull(KEPT.get(encoding)).get(1);
            database.run(
                    "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, left_at " + type
                            + ", changed_by VARCHAR(40), changed_at " + type + ")",
                    "INSERT INTO boat VALUES (1, NULL, NULL, NULL)",
                    "INSERT INTO boat VALUES (2, " + earlier + ", NULL, " + earlier + ")",
                    "INSERT INTO boat VALUES (3, NULL, NULL, " + noon + ")");
            Vacancy vacancy = open(database, encoding);
            String what = encoding + " on " + engine;

            Receipt gone =
                    vacancy.execute(Request.softDelete("boat").key(1).expect(1)).receiptOrThrow();
            assertThat(database.count("boat WHERE id = 1 AND left_at = " + noon + " AND changed_at = " + noon))
                    .describedAs(what)
                    .isEqualTo(1);
            assertThat(vacancy.execute(Request.restore(gone.id()).withoutConfirmation("test"))
                            .receiptOrThrow()
                            .rows())
                    .isEqualTo(1);
            assertThat(database.count("boat WHERE id = 1 AND left_at IS NULL")).isEqualTo(1);

            Preview before = vacancy.preview(Request.erase("boat")
                    .where(ColumnRef.column("changed_at").before(RelativeTime.today()))
                    .includingMarked());
            assertThat(before.records()).describedAs(what).hasSize(1);
            assertThat(String.valueOf(before.records().get(0).get("left_at"))).startsWith("2025-03-01");

            for (Request due : vacancy.archive().due()) {
                vacancy.execute(due.withoutConfirmation("its retention has expired"));
            }
            assertThat(database.count("boat")).describedAs(what).isEqualTo(2);
            assertThat(database.count("boat WHERE id = 2")).isZero();
        }
    }

    @Test
    void viewsOfActiveRowsUseTheClockOfSqlite() {
        for (TimeEncoding encoding : TimeEncoding.values()) {
            Database database = Engine.SQLITE.fresh();
            List<String> kept = Objects.requireNonNull(KEPT.get(encoding));
            database.run(
                    "CREATE TABLE boat (id INTEGER NOT NULL, since " + TYPES.get(encoding) + ", until "
                            + TYPES.get(encoding) + ", PRIMARY KEY (id, since))",
                    "INSERT INTO boat VALUES (1, " + kept.get(1) + ", NULL)",
                    "INSERT INTO boat VALUES (2, " + kept.get(1) + ", " + kept.get(1) + ")");
            Vacancy vacancy = Vacancy.on(JdbcStore.of(database.source()))
                    .rules(RuleBook.build(book -> book.table("boat", t -> t.times("since", encoding)
                            .times("until", encoding)
                            .marker(Marker.versions(List.of("id"), "since", "until")))))
                    .actor(() -> "Mira Holm")
                    .open();
            database.run(vacancy.tables().activeView("boat", "active_boat"));
            assertThat(database.count("active_boat"))
                    .describedAs("%s", encoding)
                    .isEqualTo(1);
        }
    }

    @Test
    void whatCannotBeSoIsTold() {
        Database database = Engine.SQLITE.fresh();
        database.run("CREATE TABLE boat (id INTEGER PRIMARY KEY, left_at TEXT, seen INTEGER)");
        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(database.source()))
                        .rules(RuleBook.build(book -> book.table("boat", t -> t.marker(Marker.date("left_at")))))
                        .actor(() -> "Mira Holm")
                        .open())
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("Column left_at of boat holds TEXT, which is neither a date nor a time."
                        + " If it keeps them as texts, say how in the rule book: times: {left_at: iso-date}.");
        assertThatThrownBy(() -> Vacancy.on(JdbcStore.of(database.source()))
                        .rules(RuleBook.build(book -> book.table("boat", t -> t.times("seen", TimeEncoding.ISO_DATE))))
                        .actor(() -> "Mira Holm")
                        .open())
                .isInstanceOf(RuleBookException.class)
                .hasMessageContaining("Column seen of boat holds INTEGER, and iso-date is kept as a text.");
    }
}
