// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Engine;
import io.vacancy.failure.BusyException;
import io.vacancy.failure.MisuseException;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.trail.ChainHead;
import io.vacancy.trail.TrailEntry;
import io.vacancy.trail.TrailEntry.Ending;
import io.vacancy.trail.Verification;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.Random;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicLong;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Many at a time: what is committed is told once, what is told is committed, and the chain is whole. */
class TrailRaceTest {

    private static final int THREADS = 8;
    private static final int BERTHS = 60;
    private static final Duration TIME = Duration.ofSeconds(Integer.getInteger("vacancy.race.seconds", 4));

    private static Vacancy open(Bench bench) {
        return Vacancy.on(JdbcStore.of(bench.database().source()))
                .rules(RuleBook.build(book -> book.table("berth", t -> t.marker(Marker.date("left_on")))
                        .whenSoftDeleted("reading.berth_id", Rule.leave())))
                .actor(() -> Thread.currentThread().getName())
                .sealEvery(Duration.ofMillis(20))
                .open();
    }

    @OnEveryEngine
    void everyActHasOneEntry(Engine engine) throws Exception {
        Bench bench = Bench.of(
                engine,
                "CREATE TABLE berth (id INTEGER NOT NULL PRIMARY KEY, left_on DATE)",
                "CREATE TABLE reading (id INTEGER NOT NULL PRIMARY KEY, berth_id INTEGER NOT NULL,"
                        + " FOREIGN KEY (berth_id) REFERENCES berth (id) ON DELETE CASCADE)");
        for (int i = 0; i < BERTHS; i++) {
            bench.database().run("INSERT INTO berth VALUES (" + i + ", NULL)");
            bench.database().run("INSERT INTO reading VALUES (" + i + ", " + i + ")");
        }
        bench.vacancy().archive().setUp();
        // Two instances, as of two processes, that do not know of each other's sealing.
        List<Vacancy> instances = List.of(open(bench), open(bench));
        Map<String, String> done = new ConcurrentHashMap<>();
        Queue<String> gone = new ConcurrentLinkedQueue<>();
        AtomicLong stopped = new AtomicLong();
        long end = System.nanoTime() + TIME.toNanos();
        ExecutorService threads = Executors.newFixedThreadPool(THREADS);
        List<Future<?>> working = new ArrayList<>();
        for (int i = 0; i < THREADS; i++) {
            int number = i;
            working.add(threads.submit(() -> {
                Random random = new Random(number);
                Vacancy vacancy = instances.get(number % 2);
                while (System.nanoTime() < end) {
                    try {
                        Outcome outcome = act(vacancy, random, gone);
                        if (outcome instanceof Outcome.Done act) {
                            Receipt receipt = act.receipt();
                            done.put(receipt.id().value(), receipt.operation().word());
                            if (receipt.archived()) {
                                gone.add(receipt.id().value());
                            }
                        } else if (List.of(Outcome.State.BLOCKED, Outcome.State.REFUSED, Outcome.State.DECLINED)
                                .contains(outcome.state())) {
                            stopped.incrementAndGet();
                        }
                    } catch (BusyException nothingWasChanged) {
                        Thread.onSpinWait();
                    }
                }
            }));
        }
        threads.shutdown();
        assertThat(threads.awaitTermination(TIME.toSeconds() + 120, TimeUnit.SECONDS))
                .isTrue();
        for (Future<?> each : working) {
            each.get();
        }

        Vacancy vacancy = instances.get(0);
        List<TrailEntry> entries;
        try (Stream<TrailEntry> all = vacancy.history().open()) {
            entries = all.toList();
        }
        Map<String, String> told = entries.stream()
                .filter(entry -> entry.ending() == Ending.DONE)
                .collect(Collectors.toMap(entry -> String.valueOf(entry.receipt()), entry -> entry.kind()
                        .word()));
        assertThat(told).isEqualTo(done).hasSizeGreaterThan(THREADS);
        assertThat(done.values()).contains("erase", "soft-delete", "restore");
        assertThat(entries.size() - told.size()).isEqualTo(stopped.intValue());
        assertThat(bench.count("vacancy_receipt")).isEqualTo(done.size());
        ChainHead head = vacancy.trail().seal();
        assertThat(head.position()).isEqualTo(entries.size());
        assertThat(vacancy.trail().verify(head))
                .returns(true, Verification::verified)
                .returns(0L, Verification::unsealed);
    }

    private static Outcome act(Vacancy vacancy, Random random, Queue<String> gone) {
        int berth = random.nextInt(BERTHS);
        switch (random.nextInt(4)) {
            case 0:
                return vacancy.execute(
                        Request.erase("berth").key(berth).includingMarked().withoutConfirmation("a test"));
            case 1:
                return vacancy.execute(Request.softDelete("berth").key(berth).withoutConfirmation("a test"));
            case 2:
                return vacancy.execute(Request.restore("berth").key(berth).withoutConfirmation("a test"));
            default:
                String receipt = gone.poll();
                if (receipt == null) {
                    return vacancy.execute(
                            Request.softDelete("berth").key(berth).withoutConfirmation("a test"));
                }
                Preview back;
                try {
                    back = vacancy.preview(Request.restore(ReceiptId.of(receipt)));
                } catch (MisuseException restoredByKeyMeanwhile) {
                    return vacancy.execute(
                            Request.softDelete("berth").key(berth).withoutConfirmation("a test"));
                }
                return vacancy.execute(
                        back, back.question().answer(back.question().awaited()));
        }
    }
}
