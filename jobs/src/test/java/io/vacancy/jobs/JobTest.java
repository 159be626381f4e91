// SPDX-License-Identifier: Apache-2.0
package io.vacancy.jobs;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.order.ChangePolicy;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.pace.BatchSize;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.outcome.Outcome;
import io.vacancy.outcome.Receipt;
import io.vacancy.preview.Action;
import io.vacancy.preview.Preview;
import io.vacancy.request.OnBlocked;
import io.vacancy.request.Request;
import io.vacancy.rules.ApprovalEntry;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.sql.Connection;
import java.sql.Statement;
import java.time.Duration;
import java.util.Map;
import java.util.function.UnaryOperator;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Jobs from their order to their receipt. */
class JobTest {

    private static final BatchSize SMALL = BatchSize.USUAL.selecting(20);

    private static Request boatsUpTo(int id) {
        return Request.erase("boat").where(column("id").atMost(id));
    }

    private static JobOrder order(Quay quay, Request request) {
        Preview shown = quay.vacancy().preview(request.withoutConfirmation("end of the season"));
        return JobOrder.of(shown).batches(SMALL);
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatWasShownIsRemovedInBatchesUnderOneReceipt(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 200)) {
            Vacancy vacancy = quay.vacancy();
            Jobs jobs = quay.node(UnaryOperator.identity());
            Preview shown = vacancy.preview(boatsUpTo(150));

            Submission submission = jobs.submit(
                    JobOrder.of(shown).batches(SMALL), shown.question().answer("yes"));
            Job ordered = submission.jobOrThrow();
            Job job = Quay.over(jobs, ordered.name());

            assertThat(ordered.message()).endsWith("nothing is done yet.");
            assertThat(job.message()).contains("is done: 150 of 150 selected rows handled, 1,500 rows in all");
            assertThat(job.progress().tables()).isEqualTo(Map.of("boat", 150L, "mooring", 450L, "reading", 900L));
            assertThat(quay.database.count("boat")).isEqualTo(50);
            assertThat(quay.database.count("reading")).isEqualTo(300);
            Receipt receipt = vacancy.receipt(job.receipt()).orElseThrow();
            assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 1500L));
            assertThat(receipt.by()).isEqualTo("Mira Holm");
            assertThat(receipt.withoutConfirmation()).contains(job.name(), "confirmed by \"yes\"", shown.fingerprint());
            assertThat(vacancy.archive().documents(receipt.id()))
                    .hasSize((int) job.progress().batches());
            assertThat(job.progress().batches()).isBetween(7L, 20L);
            assertThat(vacancy.trail().verify().verified()).isTrue();

            vacancy.execute(Request.restore(receipt.id()).withoutConfirmation("a mistake"))
                    .receiptOrThrow();
            assertThat(quay.database.count("boat")).isEqualTo(200);
            assertThat(quay.database.count("reading")).isEqualTo(1200);
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void severalLanesAddToOneReceipt(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 6_500)) {
            Jobs one = quay.node(builder -> builder.node("north"));
            quay.node(builder -> builder.node("south"));
            JobOrder order = JobOrder.of(quay.vacancy().preview(boatsUpTo(6_000).withoutConfirmation("a test")))
                    .batches(BatchSize.USUAL.selecting(1000))
                    .lanes(3);

            Job job = Quay.over(one, one.submit(order).jobOrThrow().name());

            assertThat(job.message()).contains("is done: 6,000 of 6,000 selected rows handled, 60,000 rows in all");
            assertThat(quay.database.count("boat")).isEqualTo(500);
            Receipt receipt = quay.vacancy().receipt(job.receipt()).orElseThrow();
            assertThat(receipt.totals()).isEqualTo(Map.of(Action.DELETE, 60_000L));
            assertThat(quay.vacancy().trail().verify().verified()).isTrue();
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void rowsThatChangedSinceTheyWereShownAreLeftOut(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 60)) {
            Jobs jobs = quay.jobs();
            String name = jobs.submit(order(quay, boatsUpTo(50))).jobOrThrow().name();
            quay.database.run(
                    "UPDATE boat SET name = 'Renamed' WHERE id = 3",
                    "DELETE FROM reading WHERE mooring_id IN (SELECT id FROM mooring WHERE boat_id = 5)",
                    "DELETE FROM mooring WHERE boat_id = 5",
                    "DELETE FROM boat WHERE id = 5",
                    "INSERT INTO boat (id, name) VALUES (0, 'Newcomer')");

            jobs.start();
            Job job = Quay.over(jobs, name);

            assertThat(job.message())
                    .contains("50 of 50 selected rows handled, 480 rows", "1 changed since", "1 gone already");
            assertThat(quay.database.count("boat WHERE id <= 50")).isEqualTo(2);
            assertThat(quay.database.count("boat WHERE id IN (0, 3)")).isEqualTo(2);
        }
    }

    @Test
    void aJobThatStopsAtChangesSaysWhatIsLeft() throws Exception {
        try (Quay quay = Quay.of(Engine.POSTGRESQL, 60)) {
            Jobs jobs = quay.jobs();
            String name = jobs.submit(order(quay, boatsUpTo(50)).onChange(ChangePolicy.STOP))
                    .jobOrThrow()
                    .name();
            quay.database.run("UPDATE boat SET name = 'Renamed' WHERE id = 35");

            jobs.start();
            Job job = Quay.over(jobs, name);

            assertThat(job.state()).isEqualTo(JobState.FAILED);
            assertThat(job.reason()).contains("0 are gone and 1 are different now");
            assertThat(job.message())
                    .contains("What was committed stays", job.progress().handled() + " of 50 selected rows");
            assertThat(quay.database.count("boat"))
                    .isEqualTo(60 - job.progress().handled());
        }
    }

    @Test
    void aJobThatStopsAtChangesRemovesNoMoreThanWasShown() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 60)) {
            Jobs jobs = quay.jobs();
            String name = jobs.submit(order(quay, boatsUpTo(50)).onChange(ChangePolicy.STOP))
                    .jobOrThrow()
                    .name();
            quay.database.run("INSERT INTO reading VALUES (9999, 1, 0)");

            jobs.start();
            Job job = Quay.over(jobs, name);

            assertThat(job.state()).isEqualTo(JobState.FAILED);
            assertThat(job.reason()).contains("501 instead of 500");
            assertThat(quay.database.count("boat")).isPositive();
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatBlocksOneAnotherGoesInOrderOrTogether(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 100)) {
            // Each is towed by the one before, so that the later ones have to go first; and two tow one another.
            quay.database.run(
                    "UPDATE boat SET towed_by = id - 1 WHERE id BETWEEN 2 AND 70",
                    "UPDATE boat SET towed_by = 82 WHERE id = 81",
                    "UPDATE boat SET towed_by = 81 WHERE id = 82");
            Jobs jobs = quay.node(UnaryOperator.identity());

            Job job = Quay.over(
                    jobs, jobs.submit(order(quay, boatsUpTo(90))).jobOrThrow().name());

            assertThat(job.message()).contains("is done: 90 of 90 selected rows handled, 900 rows in all.");
            assertThat(quay.database.count("boat")).isEqualTo(10);
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatIsBlockedIsSkippedOrEndsTheJob(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 400)) {
            Jobs jobs = quay.jobs();
            quay.database.run("UPDATE boat SET towed_by = 7 WHERE id = 398");
            Request skipping = boatsUpTo(30).onBlocked(OnBlocked.SKIP);
            Preview refused = quay.vacancy().preview(boatsUpTo(30).withoutConfirmation("a test"));
            assertThat(jobs.submit(JobOrder.of(refused)))
                    .isInstanceOfSatisfying(Submission.Rejected.class, rejected -> assertThat(rejected.outcome())
                            .isInstanceOf(Outcome.Blocked.class));
            String skips = jobs.submit(order(quay, skipping)).jobOrThrow().name();
            String ends = jobs.submit(order(
                            quay,
                            Request.erase("boat")
                                    .where(column("id")
                                            .atLeast(31)
                                            .and(column("id").atMost(50)))))
                    .jobOrThrow()
                    .name();
            quay.database.run("UPDATE boat SET towed_by = 40 WHERE id = 399");

            jobs.start();

            assertThat(Quay.over(jobs, skips).message())
                    .contains("is done: 30 of 30 selected rows handled", "1 skipped because something blocks them");
            Job ended = Quay.over(jobs, ends);
            assertThat(ended.state()).isEqualTo(JobState.FAILED);
            assertThat(ended.message())
                    .contains("it tows another boat", "What was committed stays", "1 selected rows are left");
            assertThat(quay.database.count("boat WHERE id IN (7, 40)")).isEqualTo(2);
            assertThat(quay.database.count("boat")).isEqualTo(352);
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void rowsThatSomebodyHoldsArePutOff(Engine engine) throws Exception {
        if (engine == Engine.SQLITE) {
            // Holds the whole database or nothing.
            return;
        }
        // Enough boats that no engine looks at all of them to find some.
        try (Quay quay = Quay.of(engine, 400);
                Connection other = quay.database.connect();
                Statement statement = other.createStatement()) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            other.setAutoCommit(false);
            statement.executeUpdate("UPDATE mooring SET boat_id = 12 WHERE id = 36");
            Preview shown = quay.vacancy()
                    .preview(boatsUpTo(40).withoutConfirmation("a test").lockTimeout(Duration.ofMillis(100)));
            String name = jobs.submit(JobOrder.of(shown)).jobOrThrow().name();
            for (int i = 0; quay.database.count("boat") > 361 && i < 600; i++) {
                Thread.sleep(50);
            }
            Job held = jobs.find(name).orElseThrow();
            other.rollback();

            assertThat(held.progress().handled()).isEqualTo(39);
            assertThat(held.state()).isEqualTo(JobState.RUNNING);
            assertThat(Quay.over(jobs, name).message()).contains("is done: 40 of 40 selected rows handled, 400 rows");
            assertThat(quay.database.count("boat")).isEqualTo(360);
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void whatDependsOnOneRowIsRemovedLeavesFirstWhereItIsMoreThanABatchMayHave(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 150)) {
            // The first boat has 303 moorings by now, the readings of which are 606; boats tow one another in a chain.
            quay.database.run(
                    "UPDATE mooring SET boat_id = 1 WHERE boat_id <= 100",
                    "UPDATE boat SET towed_by = id - 1 WHERE id > 145");
            Jobs jobs = quay.node(UnaryOperator.identity());
            Preview shown = quay.vacancy().preview(boatsUpTo(5).withoutConfirmation("a test"));
            JobOrder order = JobOrder.of(shown).batches(BatchSize.USUAL.atMost(70));

            Job job = Quay.over(jobs, jobs.submit(order).jobOrThrow().name());

            assertThat(job.message()).contains("is done: 5 of 5 selected rows handled, 905 rows in all.");
            assertThat(job.progress().batches()).isGreaterThan(13);
            assertThat(quay.database.number("SELECT MAX(rows_archived) FROM vacancy_line"))
                    .isBetween(35L, 70L);
            assertThat(quay.vacancy().trail().verify().verified()).isTrue();
            quay.vacancy()
                    .execute(Request.restore(job.receipt()).withoutConfirmation("a mistake"))
                    .receiptOrThrow();
            assertThat(quay.database.count("reading")).isEqualTo(900);
            assertThat(quay.database.count("mooring WHERE boat_id = 1")).isEqualTo(300);
        }
    }

    @Test
    void theSameRequestIsOneJob() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 30)) {
            Jobs jobs = quay.node(UnaryOperator.identity());
            Request request = boatsUpTo(10).withoutConfirmation("a test").id("order-4711");
            Job first =
                    jobs.submit(JobOrder.of(quay.vacancy().preview(request))).jobOrThrow();
            Quay.over(jobs, first.name());

            Submission second = jobs.submit(JobOrder.of(request).named("other"));

            assertThat(second).isInstanceOfSatisfying(Submission.Accepted.class, again -> {
                assertThat(again.repeated()).isTrue();
                assertThat(again.job().name()).isEqualTo(first.name());
            });
            assertThatThrownBy(() -> jobs.submit(JobOrder.of(
                            boatsUpTo(11).withoutConfirmation("a test").id("order-4711"))))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("stands for another one");
            quay.actor = "Odd Vik";
            assertThatThrownBy(() -> jobs.submit(JobOrder.of(request))).isInstanceOf(MisuseException.class);
        }
    }

    @Test
    void namesNeverClash() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 30)) {
            Jobs jobs = quay.jobs();
            JobOrder order = order(quay, boatsUpTo(10)).named("season-end");

            assertThat(jobs.submit(order).jobOrThrow().name()).isEqualTo("season-end");
            assertThat(jobs.submit(order).jobOrThrow().name()).isEqualTo("season-end-2");
            assertThat(jobs.submit(order(quay, boatsUpTo(10))).jobOrThrow().name())
                    .startsWith("erase-");
            assertThat(jobs.list()).hasSize(3);
            assertThatThrownBy(() -> order.named("../etc")).isInstanceOf(MisuseException.class);
        }
    }

    @Test
    void whatIsNotDividedIsRefusedAtOnce() throws Exception {
        try (Quay quay = Quay.of(Engine.SQLITE, 3)) {
            Jobs jobs = quay.jobs();
            Vacancy vacancy = quay.vacancy();
            assertThatThrownBy(() ->
                            jobs.submit(JobOrder.of(Request.truncate("reading").withoutConfirmation("a test"))))
                    .isInstanceOf(MisuseException.class)
                    .hasMessageContaining("only what is deleted is divided");
            Request several =
                    Request.delete("boat").key(1).plus(Request.delete("mooring").key(1));
            assertThatThrownBy(() -> jobs.submit(JobOrder.of(several)))
                    .hasMessageContaining("A job divides the rows of one table");
            Preview shown = vacancy.preview(boatsUpTo(2));
            assertThat(jobs.submit(JobOrder.of(shown), shown.question().answer("no")))
                    .isInstanceOfSatisfying(Submission.Rejected.class, rejected -> assertThat(rejected.outcome())
                            .isInstanceOf(Outcome.Declined.class));
            quay.database.run("UPDATE boat SET name = 'Renamed' WHERE id = 2");
            assertThat(jobs.submit(JobOrder.of(shown), shown.question().answer("yes")))
                    .isInstanceOfSatisfying(Submission.Rejected.class, rejected -> assertThat(rejected.outcome())
                            .isInstanceOf(Outcome.Changed.class));
            assertThat(jobs.list()).isEmpty();
        }
    }

    @ParameterizedTest
    @MethodSource("io.vacancy.engines.Engine#all")
    void noBatchHasMoreBytesThanItMay(Engine engine) throws Exception {
        try (Quay quay = Quay.of(engine, 60)) {
            quay.database.run("UPDATE boat SET name = '" + "x".repeat(40) + "'");
            quay.database.run("UPDATE boat SET left_on = '2025-01-01'");
            Jobs jobs = quay.node(UnaryOperator.identity());
            Job job = Quay.over(
                    jobs,
                    jobs.submit(JobOrder.of(Request.erase("boat")
                                            .where(column("id").atMost(50))
                                            .withoutConfirmation("a test"))
                                    .batches(BatchSize.USUAL.atMostBytes(2_500)))
                            .jobOrThrow()
                            .name());

            assertThat(job.message()).contains("50 selected rows handled, 500 rows in all.");
            // 52 to 56 bytes of a boat, so 44 to 48 rows, which are 4 boats with theirs.
            assertThat(job.progress().batches()).isBetween(13L, 30L);
            assertThat(quay.database.number("SELECT MAX(rows_of_part) FROM (SELECT SUM(rows_archived) AS rows_of_part"
                            + " FROM vacancy_line GROUP BY part) parts"))
                    .isLessThanOrEqualTo(48);
        }
    }

    @Test
    void aJobGoesNotRoundWhatSomebodyElseHasToApprove() throws Exception {
        try (Quay quay = Quay.of(Engine.H2, 20)) {
            Vacancy vacancy = quay.vacancy(RuleBook.build(book -> book.relation("mooring.boat_id", Rule.cascade())
                    .relation("reading.mooring_id", Rule.cascade())
                    .approval(ApprovalEntry.ANY.table("boat").above(50))));
            Jobs jobs = quay.jobs(vacancy, UnaryOperator.identity());
            jobs.start();
            // Ten rows of each of six boats.
            Preview shown = vacancy.preview(boatsUpTo(6));
            assertThat(jobs.submit(
                            JobOrder.of(shown).batches(SMALL), shown.question().answer("yes")))
                    .isInstanceOfSatisfying(Submission.Rejected.class, rejected -> assertThat(rejected.outcome())
                            .isInstanceOf(Outcome.Waiting.class));

            // What was small enough when it was ordered, and is not when it is carried out.
            JobOrder order = JobOrder.of(vacancy.preview(boatsUpTo(5)))
                    .onChange(ChangePolicy.MATCHING)
                    .batches(SMALL)
                    .at(quay.clock.instant().plus(Duration.ofHours(1)));
            String name = jobs.submit(
                            order, vacancy.preview(boatsUpTo(5)).question().answer("yes"))
                    .jobOrThrow()
                    .name();
            quay.database.run("INSERT INTO reading SELECT 1000 + x, 1, 1 FROM SYSTEM_RANGE(1, 60) AS r(x)");
            quay.clock.advance(Duration.ofHours(2));

            Job job = Quay.over(jobs, name);
            assertThat(job.state()).isEqualTo(JobState.FAILED);
            assertThat(job.message()).contains("Somebody else has to approve it first (boat, more than 50 rows).");
            assertThat(quay.database.count("boat WHERE id = 1")).isEqualTo(1);
        }
    }
}
