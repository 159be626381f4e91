// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.request.Request;
import java.time.Duration;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicLong;
import java.util.concurrent.atomic.AtomicReference;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Two nodes in processes of their own, one of which is killed again and again, and a reader who looks for orphans. */
class NodeDeathTest {

    private static final int BOATS = Integer.getInteger("vacancy.job.boats", 1_500);
    private static final int KILLS = Integer.getInteger("vacancy.job.kills", 3);

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"POSTGRESQL", "MARIADB"})
    void nothingIsDoneTwiceAndNothingIsLeftOut(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, BOATS)) {
            Jobs jobs = quay.jobs();
            Vacancy vacancy = quay.vacancy();
            int gone = BOATS - 100;
            JobOrder order = JobOrder.of(vacancy.preview(Request.erase("boat")
                            .where(column("id").atMost(gone))
                            .withoutConfirmation("a test")))
                    .batches(BatchSize.USUAL.taking(Duration.ofMillis(100)).selecting(Math.max(20, BOATS / 100)))
                    .lanes(2);
            String name = jobs.submit(order).jobOrThrow().name();
            Reader reader = new Reader(quay);
            Process steady = NodeProcess.begin(quay.database.url(), "steady");
            Process mortal = NodeProcess.begin(quay.database.url(), "mortal");
            try (reader) {
                Random random = new Random(17);
                for (int kill = 0; kill < KILLS; kill++) {
                    Thread.sleep(1_500 + random.nextInt(1_500));
                    mortal.destroyForcibly().waitFor();
                    mortal = NodeProcess.begin(quay.database.url(), "mortal");
                    Process other = mortal;
                    mortal = steady;
                    steady = other;
                }
                Job job = jobs.await(name, Duration.ofMinutes(30));

                assertThat(job.message())
                        .contains("is done: " + String.format("%,d of %,d", gone, gone) + " selected rows handled, "
                                + String.format("%,d rows in all.", gone * 10));
                assertThat(job.state()).isEqualTo(JobState.DONE);
                assertThat(quay.database.count("boat")).isEqualTo(100);
                assertThat(quay.database.count("mooring")).isEqualTo(300);
                assertThat(quay.database.count("reading")).isEqualTo(600);
                Receipt receipt = vacancy.receipt(job.receipt()).orElseThrow();
                assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, gone * 10L));
                assertThat(vacancy.archive().documents(receipt.id()))
                        .hasSize((int) job.progress().batches());
                assertThat(quay.database.number("SELECT SUM(rows_archived) FROM vacancy_line"))
                        .isEqualTo(gone * 10L);
                assertThat(vacancy.trail().verify().verified()).isTrue();
                assertThat(reader.orphans.get()).isNull();
                assertThat(reader.looks.get()).isPositive();
            } finally {
                steady.destroyForcibly();
                mortal.destroyForcibly();
            }
        }
    }

    /** Looks all the time, in one statement each, whether a row refers to one that is gone. */
    private static final class Reader implements AutoCloseable {
        final AtomicReference<@Nullable String> orphans = new AtomicReference<>();
        final AtomicLong looks = new AtomicLong();
        private final AtomicBoolean over = new AtomicBoolean();
        private final Thread thread;

        Reader(Quay quay) {
            thread = new Thread(() -> {
                while (!over.get()) {
                    look(quay, "reading r WHERE NOT EXISTS (SELECT 1 FROM mooring m WHERE m.id = r.mooring_id)");
                    look(quay, "mooring m WHERE NOT EXISTS (SELECT 1 FROM boat b WHERE b.id = m.boat_id)");
                    looks.incrementAndGet();
                    pause();
                }
            });
            thread.start();
        }

        /** So that the nodes get on beside it, however large the tables are. */
        private static void pause() {
            try {
                Thread.sleep(BOATS / 20);
            } catch (InterruptedException interrupted) {
                Thread.currentThread().interrupt();
            }
        }

        private void look(Quay quay, String orphaned) {
            if (quay.database.count(orphaned) > 0) {
                orphans.set(orphaned);
            }
        }

        @Override
        public void close() throws InterruptedException {
            over.set(true);
            thread.join();
        }
    }
}
