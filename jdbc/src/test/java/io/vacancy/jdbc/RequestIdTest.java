// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.condition.ColumnRef;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.SQLException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;

/** A request with an identity is carried out once, however often, by whomever and from wherever it is executed. */
class RequestIdTest {

    private static Vacancy on(Bench bench, String actor, RuleBook rules) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(rules)
                .actor(() -> actor)
                .open();
    }

    @OnEveryEngine
    void theSecondTimeGivesTheFirstReceiptAndChangesNothing(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Request request = Request.erase("boat").key(1).id("form-1").expect(1);
        Outcome first = bench.vacancy().execute(request.because("sold"));
        bench.database().run("INSERT INTO boat VALUES (1, 'Osprey II', 1)");
        // The text 1 means the same key, and a reason may be another one; another process has an instance of its own.
        Request same = Request.erase("boat")
                .key("1")
                .id("form-1")
                .because("sold again")
                .expect(1);
        Outcome second = on(bench, "Mira Holm", RuleBook.empty()).execute(same);

        assertThat(first.receiptOrThrow()).isEqualTo(second.receiptOrThrow());
        assertThat(((Outcome.Done) first).repeated()).isFalse();
        assertThat(((Outcome.Done) second).repeated()).isTrue();
        assertThat(second.message()).startsWith("It was done before");
        assertThat(bench.count("boat WHERE id = 1")).isEqualTo(1);
        assertThat(bench.count("vacancy_trail")).isEqualTo(1);
    }

    @OnEveryEngine
    void manyAtOnceDoItOnce(Engine engine) throws Exception {
        Bench bench = ArchiveTest.bench(engine);
        int many = 6;
        ExecutorService threads = Executors.newFixedThreadPool(many);
        CyclicBarrier start = new CyclicBarrier(many);
        List<Future<Outcome>> all = new ArrayList<>();
        for (int i = 0; i < many; i++) {
            Vacancy node = i % 2 == 0 ? bench.vacancy() : on(bench, "Mira Holm", RuleBook.empty());
            all.add(threads.submit(() -> {
                start.await();
                return node.execute(Request.erase("boat")
                        .where(ColumnRef.column("id").lessThan(3))
                        .id("nightly")
                        .withoutConfirmation("clean-up"));
            }));
        }
        Set<ReceiptId> receipts = new HashSet<>();
        int done = 0;
        for (Future<Outcome> each : all) {
            Outcome outcome = each.get(90, TimeUnit.SECONDS);
            if (outcome instanceof Outcome.Done) {
                receipts.add(outcome.receiptOrThrow().id());
                done++;
            } else {
                // One writer at a time may have made it wait for too long.
                assertThat(outcome).as(outcome.message()).isInstanceOf(Outcome.Busy.class);
            }
        }
        threads.shutdown();
        assertThat(done).isPositive();
        assertThat(receipts).hasSize(1);
        assertThat(bench.count("vacancy_receipt")).isEqualTo(1);
        assertThat(bench.count("boat")).isEqualTo(1);
    }

    @OnEveryEngine
    void anotherRequestOrActorIsMisuseThatTellsNothing(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        bench.vacancy()
                .execute(Request.erase("boat").key(1).id("form-1").expect(1))
                .receiptOrThrow();
        List<Request> others = List.of(
                Request.erase("boat").key(2).id("form-1").expect(1),
                Request.delete("boat").key(1).id("form-1").expect(1),
                Request.erase("boat").key(1).id("form-1").expect(2),
                Request.erase("boat").key(1).id("form-1").expect(1).withoutArchive(),
                Request.erase("boat").key(1).id("form-1").expect(1).onBlocked(OnBlocked.SKIP),
                Request.erase("boat")
                        .key(1)
                        .and(ColumnRef.column("id").equalTo(1))
                        .id("form-1")
                        .expect(1),
                Request.restore("boat").key(1).id("form-1").expect(1));
        String told = null;
        for (Request other : others) {
            try {
                bench.vacancy().execute(other);
                throw new AssertionError("accepted " + other);
            } catch (MisuseException refused) {
                assertThat(told == null || told.equals(refused.getMessage())).isTrue();
                told = refused.getMessage();
            }
        }
        assertThatThrownBy(() -> on(bench, "Jonas Reik", RuleBook.empty())
                        .execute(Request.erase("boat").key(1).id("form-1").expect(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessage(told)
                .message()
                .doesNotContain("Mira", "boat", "Osprey");
        assertThat(bench.count("boat")).isEqualTo(2);
    }

    @OnEveryEngine
    void onlyAReceiptUsesItUp(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        RuleBook blocks = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.block("paid for")));
        Request request = Request.erase("boat").key(1).id("form-2");
        Vacancy blocked = on(bench, "Mira Holm", blocks);
        assertThat(blocked.execute(request.withoutConfirmation("a test")).state())
                .isEqualTo(Outcome.State.BLOCKED);
        Vacancy free = on(bench, "Mira Holm", RuleBook.empty());
        Preview seen = free.preview(request);
        assertThat(free.execute(seen, seen.question().answer("no")).state()).isEqualTo(Outcome.State.DECLINED);
        Receipt receipt = free.execute(seen, seen.question().answer("yes")).receiptOrThrow();
        Outcome again = free.execute(seen, seen.question().answer("no"));
        assertThat(again.receiptOrThrow()).isEqualTo(receipt);
        assertThat(bench.count("boat")).isEqualTo(2);
    }

    @OnEveryEngine
    void itIsPartOfTheCallersTransaction(Engine engine) throws SQLException {
        Bench bench = ArchiveTest.bench(engine);
        Request request = Request.erase("boat").key(1).id("form-3").expect(1);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            bench.vacancy().within(connection).execute(request).receiptOrThrow();
            connection.rollback();
        }
        assertThat(bench.count("boat")).isEqualTo(3);
        try (Connection connection = bench.database().connect()) {
            connection.setAutoCommit(false);
            Vacancy within = bench.vacancy().within(connection);
            Receipt first = within.execute(request).receiptOrThrow();
            assertThat(within.execute(request).receiptOrThrow().id()).isEqualTo(first.id());
            connection.commit();
        }
        assertThat(bench.count("boat")).isEqualTo(2);
        assertThat(((Outcome.Done) bench.vacancy().execute(request)).repeated()).isTrue();
    }

    @OnEveryEngine
    void restoringAndPurgingAreRepeatedAsWell(Engine engine) {
        Bench bench = ArchiveTest.bench(engine);
        Vacancy vacancy = bench.vacancy();
        Receipt gone = vacancy.execute(Request.erase("boat").key(1).expect(1)).receiptOrThrow();
        Request back = Request.restore(gone.id()).id("back").withoutConfirmation("a test");
        Request forGood =
                Request.purge(gone.id()).id(UUID.randomUUID().toString()).withoutConfirmation("a test");
        for (Request request : List.of(back, forGood)) {
            Receipt first = vacancy.execute(request).receiptOrThrow();
            assertThat(vacancy.execute(request).receiptOrThrow()).isEqualTo(first);
        }
        assertThat(bench.count("boat")).isEqualTo(3);
    }

    @OnEveryEngine
    void itWantsOwnTablesAndIsNotTooLong(Engine engine) {
        Bench bench = Bench.harbour(engine);
        assertThatThrownBy(() -> bench.vacancy()
                        .execute(Request.erase("boat").key(17).id("form-4").expect(1)))
                .isInstanceOf(MisuseException.class)
                .hasMessageContaining("no place to keep it");
        assertThat(bench.count("boat WHERE id = 17")).isEqualTo(1);
        assertThatThrownBy(() -> Request.erase("boat").key(17).id("x".repeat(65)))
                .hasMessageContaining("64");
        assertThatThrownBy(() -> Request.erase("boat").key(17).id(" ")).hasMessageContaining("blank");
    }
}
