// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.failure.NotDoneException;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.pace.Throttling;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.timing.Recurrence;
import io.vacancy.jobs.timing.Window;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.request.DeletionSchedule;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.atomic.AtomicReference;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;

/** Jobs that are held back, put down, ended, and done again. */
class SteeringTest {

    private static final BatchSize ONE_BY_ONE = BatchSize.USUAL.selecting(5);

    private static JobOrder season(Quay quay, int boats) {
        return JobOrder.of(quay.vacancy()
                        .preview(Request.erase("boat")
                                .where(column("id").atMost(boats))
                                .withoutConfirmation("end of the season")))
                .batches(ONE_BY_ONE);
    }

    private static Job now(Jobs jobs, String name) {
        return jobs.find(name).orElseThrow();
    }

    @Test
    void isPausedResumedAndSlowedDown() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 60)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            String name = jobs.submit(season(quay, 50).pace(Throttling.rowsPerSecond(200)))
                    .jobOrThrow()
                    .name();
            Quay.until(() -> now(jobs, name).progress().batches() >= 2);

            jobs.pause(name);
            Quay.until(() -> now(jobs, name).state() == JobState.PAUSED);
            Thread.sleep(300);
            Job paused = now(jobs, name);
            Thread.sleep(300);

            assertThat(now(jobs, name).progress().handled())
                    .isEqualTo(paused.progress().handled())
                    .isLessThan(50);
            assertThat(paused.message()).contains("is paused: ");
            assertThat(quay.database.count("boat"))
                    .isEqualTo(60 - paused.progress().handled());

            jobs.resume(name);
            jobs.pace(name, Throttling.FULL);
            Job job = Quay.over(jobs, name);
            assertThat(job.state()).isEqualTo(JobState.DONE);
            assertThat(job.progress().rows()).isEqualTo(500);
            assertThatThrownBy(() -> jobs.pause(name))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("is over: done");
        }
    }

    @Test
    void whatHasNotBegunKeepsItsTimeWhenItIsResumed() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 10)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            Instant time = Instant.now().plusSeconds(3600).truncatedTo(ChronoUnit.SECONDS);
            String name = jobs.submit(season(quay, 5).at(time)).jobOrThrow().name();
            assertThat(jobs.pause(name).state()).isEqualTo(JobState.PAUSED);

            assertThat(jobs.resume(name).state()).isEqualTo(JobState.SCHEDULED);

            Thread.sleep(300);
            assertThat(now(jobs, name).dueAt()).isEqualTo(time);
            assertThat(quay.database.count("boat")).isEqualTo(10);
        }
    }

    @Test
    void keepsToItsPace() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 30)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            long start = System.nanoTime();
            Job job = Quay.over(
                    jobs,
                    jobs.submit(season(quay, 30).pace(Throttling.rowsPerSecond(200)))
                            .jobOrThrow()
                            .name());
            // 300 rows, of which the last batch is not waited for.
            assertThat(job.progress().rows()).isEqualTo(300);
            assertThat(Duration.ofNanos(System.nanoTime() - start))
                    .isBetween(Duration.ofMillis(1_200), Duration.ofSeconds(5));
        }
    }

    @Test
    void isCancelledAndRestored() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 60)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            String name = jobs.submit(season(quay, 50).pace(Throttling.rowsPerSecond(200)))
                    .jobOrThrow()
                    .name();
            Quay.until(() -> now(jobs, name).progress().batches() >= 2);

            jobs.cancel(name);
            Quay.until(() -> now(jobs, name).state() == JobState.CANCELLED);
            Job job = now(jobs, name);

            long gone = job.progress().handled();
            assertThat(gone).isBetween(10L, 49L);
            assertThat(job.message()).contains("What was committed stays", (50 - gone) + " selected rows are left");
            assertThat(quay.database.count("boat")).isEqualTo(60 - gone);
            quay.vacancy().execute(Request.restore(job.receipt()).withoutConfirmation("a mistake"));
            assertThat(quay.database.count("reading")).isEqualTo(360);
        }
    }

    @Test
    void whatHasNotBegunIsCancelledWithoutANode() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 10)) {
            Jobs jobs = quay.jobs();
            String name = jobs.submit(season(quay, 5)).jobOrThrow().name();
            assertThat(jobs.cancel(name).message()).isEqualTo("Job " + name + " was cancelled. Nothing was changed.");
            jobs.start();
            Thread.sleep(300);
            assertThat(quay.database.count("boat")).isEqualTo(10);
            assertThatThrownBy(() -> jobs.cancel("nothing-of-the-kind"))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("There is no job nothing-of-the-kind");
        }
    }

    @Test
    void beginsAtItsTimeAndWorksInItsWindow() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 60)) {
            quay.clock.set(Instant.parse("2026-11-26T18:00:00Z"));
            Jobs jobs = quay.node(UnaryOperator.identity());
            Window nights = Window.daily(LocalTime.of(22, 0), LocalTime.of(4, 0), ZoneOffset.UTC);
            String name = jobs.submit(season(quay, 50)
                            .at(Instant.parse("2026-11-26T20:00:00Z"))
                            .within(nights)
                            .pace(Throttling.rowsPerSecond(200)))
                    .jobOrThrow()
                    .name();
            Thread.sleep(200);
            assertThat(now(jobs, name).state()).isEqualTo(JobState.SCHEDULED);

            quay.clock.set(Instant.parse("2026-11-26T20:00:01Z"));
            Quay.until(() -> now(jobs, name).state() == JobState.WAITING);
            assertThat(now(jobs, name).dueAt()).isEqualTo(Instant.parse("2026-11-26T22:00:00Z"));

            quay.clock.set(Instant.parse("2026-11-26T22:00:01Z"));
            Quay.until(() -> now(jobs, name).progress().batches() >= 2);
            quay.clock.set(Instant.parse("2026-11-27T04:00:01Z"));
            Quay.until(() -> now(jobs, name).state() == JobState.WAITING);
            assertThat(now(jobs, name).progress().handled()).isLessThan(50);

            quay.clock.set(Instant.parse("2026-11-27T22:00:01Z"));
            assertThat(Quay.over(jobs, name).progress().rows()).isEqualTo(500);
        }
    }

    @Test
    void recursWithWhatMatchesThen() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 20)) {
            quay.clock.set(Instant.parse("2026-11-26T18:00:00Z"));
            Jobs jobs = quay.node(UnaryOperator.identity());
            Request request = Request.erase("boat")
                    .where(column("left_on").before("2024-06-01"))
                    .withoutConfirmation("retention");
            JobOrder order = JobOrder.of(request).named("old-boats").every(Recurrence.read("03:00", ZoneOffset.UTC));
            String name = jobs.submit(order).jobOrThrow().name();
            quay.database.run("UPDATE boat SET left_on = '2024-01-01' WHERE id <= 4");

            quay.clock.set(Instant.parse("2026-11-27T03:00:01Z"));
            Quay.until(() ->
                    Instant.parse("2026-11-28T03:00:00Z").equals(now(jobs, name).dueAt()));
            Job first = now(jobs, name);
            quay.database.run("UPDATE boat SET left_on = '2024-01-01' WHERE id BETWEEN 5 AND 7");
            quay.clock.set(Instant.parse("2026-11-28T03:00:01Z"));
            Quay.until(() -> jobs.runs(name).size() == 3);

            assertThat(first.state()).isEqualTo(JobState.SCHEDULED);
            assertThat(first.progress().rows()).isEqualTo(40);
            assertThat(jobs.runs(name).stream().map(run -> run.progress().rows()))
                    .containsExactly(0L, 30L, 40L);
            assertThat(jobs.runs(name).stream().map(Job::receipt).distinct()).hasSize(3);
            assertThat(quay.database.count("boat")).isEqualTo(13);
            assertThat(jobs.cancel(name).state()).isEqualTo(JobState.CANCELLED);
            assertThatThrownBy(() -> season(quay, 3).every(Recurrence.read("03:00", ZoneOffset.UTC)))
                    .isInstanceOf(MisuseException.class);
        }
    }

    @Test
    void whatMatchesIsJudgedAgainWhenItIsRemoved() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 40)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            Request request =
                    Request.erase("boat").where(column("name").like("Boat%")).withoutConfirmation("a test");
            String name = jobs.submit(JobOrder.of(request).batches(ONE_BY_ONE).pace(Throttling.rowsPerSecond(200)))
                    .jobOrThrow()
                    .name();
            Quay.until(() -> now(jobs, name).progress().batches() >= 1);
            quay.database.run("UPDATE boat SET name = 'Kept' WHERE id > 30");

            Job job = Quay.over(jobs, name);

            assertThat(job.progress().missing()).isEqualTo(10);
            assertThat(quay.database.count("boat WHERE name = 'Kept'")).isEqualTo(10);
            assertThat(quay.database.count("boat")).isEqualTo(10);
        }
    }

    @Test
    void anotherNodeGoesOnWhereOneIsClosed() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 60)) {
            Jobs north = quay.node(builder -> builder.node("north"));
            String name = north.submit(season(quay, 50).pace(Throttling.rowsPerSecond(300)))
                    .jobOrThrow()
                    .name();
            Quay.until(() -> now(north, name).progress().batches() >= 2);
            north.close();
            long handled = now(north, name).progress().handled();
            Jobs south = quay.node(builder -> builder.node("south"));

            Job job = Quay.over(south, name);

            assertThat(handled).isBetween(10L, 49L);
            assertThat(job.progress().rows()).isEqualTo(500);
            assertThat(quay.vacancy().receipt(job.receipt()).orElseThrow().rows())
                    .isEqualTo(50);
        }
    }

    @Test
    void waitsForANodeWithItsRulesAndEndsWhereTheTablesAreOthers() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 20)) {
            Jobs jobs = quay.jobs();
            String rules = jobs.submit(season(quay, 10)).jobOrThrow().name();
            Vacancy other = quay.vacancy(RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
                    .relation("reading.mooring_id", Rule.block("kept"))));
            Jobs node = quay.jobs(other, builder -> builder.node("upgraded"));
            node.start();
            Quay.until(() -> now(jobs, rules).state() == JobState.WAITING);
            assertThat(now(jobs, rules).message())
                    .contains("0 of 10 selected rows handled", "The rules on node upgraded are others");
            node.close();

            quay.clock.advance(Duration.ofSeconds(11));
            Jobs fit = quay.node(builder -> builder.node("as before"));
            assertThat(Quay.over(fit, rules).message()).contains("is done: 10 of 10");

            fit.close();
            String columns = jobs.submit(season(quay, 15)).jobOrThrow().name();
            quay.database.run("ALTER TABLE reading ADD COLUMN note VARCHAR(20)");
            quay.store.refresh();
            jobs.start();
            assertThat(Quay.over(jobs, columns).reason()).contains("The tables are others");
            assertThat(quay.database.count("boat")).isEqualTo(10);
        }
    }

    @Test
    void isCarriedOutInTheScopeOfWhoeverOrderedIt() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 20)) {
            Vacancy tenant = Vacancy.on(quay.store)
                    .rules(Quay.RULES)
                    .actor(() -> "Odd Vik")
                    .scope(() -> scope("9"))
                    .clock(quay.clock)
                    .open();
            UnaryOperator<Jobs.Builder> scoped = builder ->
                    builder.scope(job -> scope(job.settings().context().getOrDefault("most", "1")));
            Jobs jobs = quay.jobs(tenant, scoped);
            JobOrder order =
                    JobOrder.of(tenant.preview(Request.erase("boat").everyRow().withoutConfirmation("a test")));
            String right =
                    jobs.submit(order.context(Map.of("most", "9"))).jobOrThrow().name();
            String wrong = jobs.submit(order).jobOrThrow().name();

            Jobs elsewhere = quay.jobs(
                    Vacancy.on(quay.store)
                            .rules(Quay.RULES)
                            .actor(() -> "Tavi Orn")
                            .scope(() -> scope("3"))
                            .open(),
                    scoped);
            assertThat(elsewhere.list()).isEmpty();
            assertThat(elsewhere.find(right)).isEmpty();
            assertThatThrownBy(() -> elsewhere.cancel(right)).hasMessageContaining("There is no job");
            assertThat(quay.jobs().list()).hasSize(2);

            jobs.start();

            assertThat(Quay.over(jobs, wrong).reason()).contains("another scope");
            Job job = Quay.over(jobs, right);
            assertThat(job.progress().handled()).isEqualTo(9);
            assertThat(job.by()).isEqualTo("Odd Vik");
            assertThat(quay.database.count("boat")).isEqualTo(11);
        }
    }

    private static Scope scope(String most) {
        return table -> table.name().name().equals("boat") ? column("id").atMost(Integer.valueOf(most)) : null;
    }

    @Test
    void holdsBackWhileAProbeSaysSo() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 20)) {
            AtomicReference<@Nullable String> reason = new AtomicReference<>("the replica lags");
            List<Job> heard = new CopyOnWriteArrayList<>();
            List<Job> ended = new CopyOnWriteArrayList<>();
            Jobs jobs = quay.node(
                    builder -> builder.probe(reason::get).listener(heard::add).notifier(ended::add));
            String name =
                    jobs.submit(season(quay, 10).tell("office")).jobOrThrow().name();
            Quay.until(() -> now(jobs, name).state() == JobState.RUNNING);
            Thread.sleep(300);
            assertThat(quay.database.count("boat")).isEqualTo(20);

            reason.set(null);

            assertThat(Quay.over(jobs, name).state()).isEqualTo(JobState.DONE);
            Quay.until(() -> !ended.isEmpty());
            assertThat(ended).singleElement().satisfies(job -> {
                assertThat(job.settings().recipients()).containsExactly("office");
                assertThat(job.state()).isEqualTo(JobState.DONE);
                assertThat(job.progress().rows()).isEqualTo(100);
            });
            assertThat(heard).extracting(Job::state).contains(JobState.RUNNING, JobState.DONE);
        }
    }

    @Test
    void deletionsOfTheRuleBookRecurByThemselves() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 20)) {
            quay.clock.set(Instant.parse("2026-11-26T18:00:00Z"));
            RuleBook rules = RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
                    .relation("reading.mooring_id", Rule.cascade())
                    .deletion("long-gone", d -> d.from("boat")
                            .where(column("left_on").before("2024-06-01"))
                            .atMost(5)
                            .schedule(new DeletionSchedule("03:00 UTC", "02:00-04:00 UTC", 50L))));
            Jobs jobs = quay.jobs(quay.vacancy(rules), UnaryOperator.identity());
            jobs.start();
            quay.database.run("UPDATE boat SET left_on = '2024-01-01' WHERE id <= 4");
            assertThat(jobs.list()).singleElement().satisfies(job -> {
                assertThat(job.name()).isEqualTo("long-gone");
                assertThat(job.dueAt()).isEqualTo(Instant.parse("2026-11-27T03:00:00Z"));
                assertThat(job.settings().batches().mostRows()).isEqualTo(50);
            });

            quay.clock.set(Instant.parse("2026-11-27T03:00:01Z"));
            Quay.until(() -> jobs.runs("long-gone").size() == 2);
            assertThat(quay.database.count("boat")).isEqualTo(16);
            quay.database.run("UPDATE boat SET left_on = '2024-01-01'");
            quay.clock.set(Instant.parse("2026-11-28T03:00:01Z"));
            Quay.until(() -> jobs.runs("long-gone").size() == 3);

            // What a limit refuses in all is not done in part.
            assertThat(now(jobs, "long-gone").reason()).contains("16", "5");
            assertThat(now(jobs, "long-gone").state()).isEqualTo(JobState.SCHEDULED);
            assertThat(quay.database.count("boat")).isEqualTo(16);
        }
    }

    @Test
    void upkeepRecurs() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 20)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            Job seal = Quay.over(
                    jobs,
                    jobs.submit(JobOrder.of(JobOrder.Upkeep.SEAL)).jobOrThrow().name());
            Job purge = Quay.over(
                    jobs,
                    jobs.submit(JobOrder.of(JobOrder.Upkeep.PURGE_DUE).named("purge"))
                            .jobOrThrow()
                            .name());

            assertThat(seal.state()).isEqualTo(JobState.DONE);
            assertThat(purge.message()).isEqualTo("Job purge is done: 0 selected rows handled, 0 rows in all.");
        }
    }

    @Test
    void whatIsRejectedGivesNoJob() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 5)) {
            Jobs jobs = quay.jobs();
            Submission nothing = jobs.submit(season(quay, 0).onChange(ChangePolicy.STOP));
            assertThatThrownBy(nothing::jobOrThrow).isInstanceOf(NotDoneException.class);
            assertThat(jobs.find("nothing")).isEmpty();
        }
    }
}
