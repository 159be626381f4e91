// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ArchiveQuery;
import io.vacancy.archive.ArchivedRows;
import io.vacancy.archive.Hold;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.preview.Preview.State;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Retention;
import io.vacancy.rules.RuleBook;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.Period;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** What is kept goes for good: when its time is over, or when somebody says so, and not while it is held. */
class PurgeTest {

    private static final Instant NOON = Instant.parse("2026-06-15T12:00:00Z");

    private static Vacancy at(Bench bench, Duration later) {
        RuleBook rules = RuleBook.build(book -> book.retention(Retention.UNLIMITED.images(Period.ofDays(30)))
                .table("note", t -> t.retention(Retention.UNLIMITED.images(Period.ofDays(1))))
                .table("berth", t -> t.marker(Marker.date("left_on"))
                        .retention(Retention.UNLIMITED.softDeleted(Period.ofYears(7)))));
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> "Mira Holm")
                .clock(Clock.fixed(NOON.plus(later), ZoneOffset.UTC))
                .open();
    }

    private static Bench bench(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.database()
                .run(
                        "CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, left_on DATE)",
                        "INSERT INTO berth VALUES (1, '2019-06-14'), (2, '2019-06-16'), (3, NULL)");
        return bench;
    }

    private static Outcome carriedOut(Vacancy vacancy, Preview preview) {
        return vacancy.execute(
                preview, preview.question().answer(preview.question().awaited()));
    }

    private static long left(Vacancy vacancy) {
        try (Stream<ArchivedRows> kept = vacancy.archive().rows(ArchiveQuery.all())) {
            return kept.mapToLong(ArchivedRows::left).sum();
        }
    }

    @OnEveryEngine
    void whatIsDueGoesForGood(Engine engine) {
        Bench bench = bench(engine);
        Vacancy now = at(bench, Duration.ZERO);
        Receipt gone = now.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        assertThat(left(now)).isEqualTo(8);
        // One berth left more than seven years ago.
        assertThat(now.archive().due()).extracting(Request::table).containsExactly("berth");

        Vacancy later = at(bench, Duration.ofDays(2));
        List<Request> due = later.archive().due();
        assertThat(due).extracting(Request::table).containsExactly("berth", "note");
        Preview berths = later.preview(due.get(0));
        assertThat(berths.totals()).isEqualTo(Map.of(Action.DELETE, 2L));
        assertThat(carriedOut(later, berths)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("berth")).isEqualTo(1);
        Preview notes = later.preview(due.get(1));
        assertThat(notes.totals()).isEqualTo(Map.of(Action.PURGE, 3L));
        assertThat(notes.question().title()).isEqualTo("Purge 3 archived rows of note?");
        assertThat(carriedOut(later, notes)).isInstanceOf(Outcome.Done.class);
        assertThat(later.archive().due()).extracting(Request::table).containsExactly("berth");
        assertThat(later.preview(later.archive().due().get(0)).state()).isEqualTo(State.NOTHING);
        assertThat(later.preview(Request.restore(gone.id())).totals())
                .isEqualTo(Map.of(Action.RESTORE, 3L, Action.RELINK, 2L));

        Vacancy last = at(bench, Duration.ofDays(31));
        last.archive().due().forEach(request -> last.execute(request.withoutConfirmation("a scheduler")));
        assertThat(left(last)).isZero();
        assertThat(bench.count("vacancy_image")).isZero();
        assertThatThrownBy(() -> last.preview(Request.restore(gone.id()))).isInstanceOf(MisuseException.class);
    }

    @OnEveryEngine
    void somebodysImagesGoAtOnce(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = at(bench, Duration.ZERO);
        Receipt gone =
                vacancy.execute(Request.delete("boat").keys(1, 2).expect(2)).receiptOrThrow();
        // Also of what has been brought back, since the image still tells what it was.
        carriedOut(vacancy, vacancy.preview(Request.restore(gone.id(), "boat").keys(2)));
        Preview purge = vacancy.preview(
                Request.purge("boat").where(ColumnRef.column("name").equalTo("Merlin")));
        assertThat(purge.totals()).isEqualTo(Map.of(Action.PURGE, 1L));
        assertThat(carriedOut(vacancy, purge)).isInstanceOf(Outcome.Done.class);
        assertThat(vacancy.preview(Request.purge("boat").everyRow()).totals()).isEqualTo(Map.of(Action.PURGE, 1L));
        assertThat(vacancy.preview(Request.restore(gone.id())).totals())
                .isEqualTo(Map.of(Action.RESTORE, 6L, Action.RELINK, 2L));

        Preview all = vacancy.preview(Request.purge(gone.id()));
        assertThat(carriedOut(vacancy, all)).isInstanceOf(Outcome.Done.class);
        assertThat(bench.count("vacancy_image")).isZero();
        assertThat(vacancy.archive().documents(gone.id())).hasSize(1);
    }

    @OnEveryEngine
    void whatIsHeldStays(Engine engine) {
        Bench bench = bench(engine);
        Vacancy vacancy = at(bench, Duration.ZERO);
        Receipt gone = vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        Hold receipt = vacancy.archive().holdReceipt(gone.id(), "case 7");
        Request purge = Request.purge(gone.id());
        Preview held = vacancy.preview(purge);
        assertThat(held.state()).isEqualTo(State.BLOCKED);
        vacancy.archive().release(receipt.number());
        assertThat(vacancy.preview(purge).state()).isEqualTo(State.READY);
        assertThatThrownBy(() -> vacancy.archive().release(receipt.number())).isInstanceOf(MisuseException.class);

        Hold row = vacancy.archive().holdRow("note", 2, "evidence");
        assertThat(vacancy.archive().holds()).containsExactly(row);
        Preview one = vacancy.preview(purge);
        assertThat(one.state()).isEqualTo(State.BLOCKED);
        assertThat(one.blockers()).singleElement().satisfies(blocker -> {
            assertThat(blocker.rows()).isEqualTo(1);
            assertThat(blocker.reason()).isEqualTo("held by Mira Holm: evidence");
        });
        carriedOut(vacancy, vacancy.preview(purge.onBlocked(OnBlocked.SKIP)));
        assertThat(bench.count("vacancy_image")).isEqualTo(1);

        Hold boat = vacancy.archive().holdRow("boat", 2, "unpaid");
        assertThat(vacancy.preview(Request.delete("boat").keys(2, 3)).blockers())
                .singleElement()
                .satisfies(blocker -> assertThat(blocker.reason()).isEqualTo("held by Mira Holm: unpaid"));
        Preview skipped = vacancy.preview(Request.delete("boat").keys(2, 3).onBlocked(OnBlocked.SKIP));
        assertThat(skipped.totals()).isEqualTo(Map.of(Action.DELETE, 2L));
        assertThat(skipped.skipped().rows()).isEqualTo(1);
        assertThat(vacancy.execute(Request.delete("boat").key(2).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Blocked.class);
        vacancy.archive().release(boat.number());
        vacancy.archive().holdTable("mooring", "the auditors are here");
        assertThat(vacancy.execute(Request.delete("boat").key(2).withoutConfirmation("a test")))
                .isInstanceOf(Outcome.Blocked.class);
        assertThatThrownBy(() -> vacancy.archive().holdRow("mooring", "x", "no number"))
                .isInstanceOf(MisuseException.class);
        assertThatThrownBy(() -> vacancy.archive().holdTable("mooring", " ")).isInstanceOf(MisuseException.class);
    }

    @OnEveryEngine
    void aReceiptOfSeveralPartsComesBackAsOne(Engine engine) {
        Bench bench = bench(engine);
        Map<String, List<String>> before = ArchiveTest.contents(bench.database(), List.of("boat", "mooring", "note"));
        Vacancy vacancy = at(bench, Duration.ZERO);
        Receipt first = vacancy.execute(Request.delete("boat").key(1).expect(1)).receiptOrThrow();
        Receipt second = vacancy.continuing(first.id())
                .execute(Request.delete("boat").key(2).expect(1))
                .receiptOrThrow();
        assertThat(second.id()).isEqualTo(first.id());
        assertThat(vacancy.archive().documents(first.id())).hasSize(2);
        Receipt whole = vacancy.receipt(first.id()).orElseThrow();
        assertThat(whole.rows()).isEqualTo(first.rows() + second.rows());
        assertThat(whole.records()).hasSize(2);
        Preview back = vacancy.preview(Request.restore(first.id()));
        assertThat(back.totals()).isEqualTo(Map.of(Action.RESTORE, 9L, Action.RELINK, 3L));
        carriedOut(vacancy, back);
        assertThat(ArchiveTest.contents(bench.database(), List.of("boat", "mooring", "note")))
                .isEqualTo(before);
    }
}
