// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jdbc;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.CancelledException;
import io.vacancy.harbour.BigHarbour;
import io.vacancy.listener.Cancellation;
import io.vacancy.listener.Listener;
import io.vacancy.listener.Progress;
import io.vacancy.listener.Progress.Step;
import io.vacancy.listener.RowHandler;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import io.vacancy.schema.Row;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;

/** What takes long: progress, giving up, and rows that somebody else holds. */
class LongWorkTest {

    /** Boats with ten moorings each and a hundred power readings, of which half go; enough to take a while. */
    private static Bench big(Engine engine) throws SQLException {
        int boats = boats(engine);
        Database database = engine.fresh();
        try (Connection connection = database.connect()) {
            connection.setAutoCommit(false);
            BigHarbour.build(connection, boats);
            connection.commit();
        }
        return Bench.on(database);
    }

    private static int boats(Engine engine) {
        return engine == Engine.SQLITE || engine == Engine.POSTGRESQL ? 6_000 : 1_500;
    }

    private static final Request LEFT =
            Request.delete("boat").where(column("left_on").isNotNull());

    /** However fast the machine is, the work has taken a second before the first row goes, and so is told of. */
    private static final class SlowToBegin implements RowHandler {

        @Override
        public void begin() {
            try {
                Thread.sleep(1_100);
            } catch (InterruptedException given) {
                Thread.currentThread().interrupt();
            }
        }

        @Override
        public void take(Row row) {}
    }

    @OnEveryEngine
    void progressGoesForwardToTheEndAndTheCountsAreRight(Engine engine) throws SQLException {
        Bench bench = big(engine);
        long gone = boats(engine) / 2 * 111L;
        List<Progress> told = new ArrayList<>();
        Vacancy vacancy = Vacancy.on(JdbcStore.of(bench.database().source()))
                .actor(() -> "Mira Holm")
                .listener(new Listener() {
                    @Override
                    public void progress(Request request, Progress progress) {
                        told.add(progress);
                    }
                })
                .open()
                .onEachRow(new SlowToBegin());

        Preview seen = vacancy.preview(LEFT);
        Outcome outcome = vacancy.execute(seen, seen.question().answer("yes"));

        assertThat(outcome.receiptOrThrow().totals().values()).containsExactly(gone);
        assertThat(bench.count("power_reading")).isEqualTo(boats(engine) * 50L);
        assertThat(bench.count("mooring")).isEqualTo(boats(engine) * 5L);
        List<Progress> removing = told.stream()
                .filter(progress -> progress.step() == Step.REMOVING)
                .toList();
        assertThat(removing).isNotEmpty().allSatisfy(progress -> {
            assertThat(progress.expected()).isEqualTo(gone);
            assertThat(progress.done()).isLessThanOrEqualTo(gone);
        });
        assertThat(removing).extracting(Progress::done).isSorted();
    }

    @OnEveryEngine
    void givingUpFromAnotherThreadRollsEverythingBack(Engine engine) throws Exception {
        Bench bench = big(engine);
        Cancellation cancellation = new Cancellation();
        Vacancy vacancy = bench.vacancy().cancelledBy(cancellation);
        Preview seen = vacancy.preview(LEFT);
        Thread other = new Thread(() -> {
            try {
                Thread.sleep(60);
            } catch (InterruptedException given) {
                Thread.currentThread().interrupt();
            }
            cancellation.cancel();
        });

        other.start();
        assertThatThrownBy(() -> vacancy.execute(seen, seen.question().answer("yes")))
                .isInstanceOf(CancelledException.class)
                .hasMessageContaining("Nothing was changed");
        other.join();

        assertThat(bench.count("boat")).isEqualTo(boats(engine));
        assertThat(bench.count("power_reading")).isEqualTo(boats(engine) * 100L);
        assertThatThrownBy(() -> vacancy.preview(LEFT)).isInstanceOf(CancelledException.class);
        assertThat(bench.vacancy().preview(LEFT).fingerprint()).isEqualTo(seen.fingerprint());
    }

    @OnEveryEngine
    void oneLockedRowFailsEveryRowWhole(Engine engine) throws SQLException {
        Bench bench = Bench.harbour(engine);
        long messages = bench.count("radio_message");
        try (Connection other = bench.database().connect();
                Statement statement = other.createStatement()) {
            other.setAutoCommit(false);
            statement.execute("UPDATE radio_message SET words = 'still talking' WHERE call_sign = 'VQ14'");

            Outcome outcome = bench.vacancy()
                    .execute(Request.truncate("radio_message")
                            .withoutConfirmation("spring cleaning")
                            .lockTimeout(Duration.ofMillis(300)));

            assertThat(outcome).isInstanceOf(Outcome.Busy.class);
            other.rollback();
        }
        assertThat(bench.count("radio_message")).isEqualTo(messages);
    }
}
