// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import static io.vacancy.condition.ColumnRef.column;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.micrometer.core.instrument.MeterRegistry;
import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import io.vacancy.Vacancy;
import io.vacancy.access.Scope;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.MisuseException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.meters.JobMeters;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.watch.Job;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jobs.watch.Notifier;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.question.Answer;
import io.vacancy.request.Request;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.concurrent.CopyOnWriteArrayList;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.boot.actuate.health.Status;
import org.springframework.boot.autoconfigure.AutoConfigurations;
import org.springframework.boot.autoconfigure.aop.AopAutoConfiguration;
import org.springframework.boot.autoconfigure.jdbc.DataSourceAutoConfiguration;
import org.springframework.boot.autoconfigure.jdbc.DataSourceTransactionManagerAutoConfiguration;
import org.springframework.boot.autoconfigure.sql.init.SqlInitializationAutoConfiguration;
import org.springframework.boot.autoconfigure.transaction.TransactionAutoConfiguration;
import org.springframework.boot.diagnostics.FailureAnalysis;
import org.springframework.boot.test.context.FilteredClassLoader;
import org.springframework.boot.test.context.runner.ApplicationContextRunner;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.event.EventListener;
import org.springframework.mock.web.MockHttpServletRequest;
import org.springframework.security.authentication.TestingAuthenticationToken;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

class VacancyAutoConfigurationTest {

    private final List<Database> open = new ArrayList<>();

    /** The tables are made by a script of the application, as a migration would. */
    private ApplicationContextRunner application(Engine engine) {
        Database database = engine.fresh();
        open.add(database);
        return new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(
                        DataSourceTransactionManagerAutoConfiguration.class,
                        TransactionAutoConfiguration.class,
                        SqlInitializationAutoConfiguration.class,
                        VacancyAutoConfiguration.class))
                .withBean(DataSource.class, database::source)
                .withPropertyValues(
                        "spring.sql.init.mode=always",
                        "spring.sql.init.schema-locations=classpath:harbour.sql",
                        "vacancy.rules=classpath:harbour.yaml",
                        "vacancy.own-tables=create",
                        "vacancy.jobs.poll-every=50ms");
    }

    @AfterEach
    void drop() {
        SecurityContextHolder.clearContext();
        RequestContextHolder.resetRequestAttributes();
        open.forEach(Database::drop);
    }

    @Configuration(proxyBeanMethods = false)
    static class Office {

        @Bean
        CurrentActor actor() {
            return () -> "Mira Holm";
        }
    }

    /** Hears what is published. */
    @Component
    static class Heard {
        final List<String> events = new ArrayList<>();

        @EventListener
        void ended(RequestEnded event) {
            events.add(event.outcome().state().word());
        }
    }

    private static Request boat(int id) {
        return Request.softDelete("boat").key(id).withoutConfirmation("sold");
    }

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"H2", "POSTGRESQL"})
    void isThereWithRulesTransactionsAndEvents(Engine engine) {
        application(engine).withUserConfiguration(Office.class, Heard.class).run(context -> {
            Vacancy vacancy = context.getBean(Vacancy.class);
            Heard heard = context.getBean(Heard.class);
            TransactionTemplate template = new TransactionTemplate(context.getBean(PlatformTransactionManager.class));

            template.executeWithoutResult(status -> {
                vacancy.execute(boat(1)).receiptOrThrow();
                status.setRollbackOnly();
            });
            assertThat(heard.events).isEmpty();
            template.executeWithoutResult(status -> {
                vacancy.execute(boat(1)).receiptOrThrow();
                assertThat(heard.events).isEmpty();
            });
            assertThat(heard.events).containsExactly("done");
            assertThat(vacancy.execute(boat(1))).isInstanceOf(Outcome.Nothing.class);
            assertThat(vacancy.history().page(1).entries().get(0).by()).isEqualTo("Mira Holm");

            Jobs jobs = context.getBean(Jobs.class);
            String name = jobs.submit(
                            JobOrder.of(Request.erase("boat").everyRow().withoutConfirmation("the season is over")))
                    .jobOrThrow()
                    .name();
            Job job = jobs.await(name, Duration.ofSeconds(30));
            assertThat(job.state()).as(job.message()).isEqualTo(JobState.DONE);
            // The soft-deleted boat is none of the season's.
            assertThat(job.progress().rows()).isEqualTo(2);
        });
    }

    /** As the documentation has it. */
    static class Fleet {

        private final Vacancy vacancy;

        Fleet(Vacancy vacancy) {
            this.vacancy = vacancy;
        }

        Preview ask(long boat) {
            return vacancy.preview(Request.softDelete("boat").key(boat).because("sold"));
        }

        @Transactional
        ReceiptId remove(long boat, String fingerprint, String typed) {
            Request request = Request.softDelete("boat").key(boat).because("sold");
            return vacancy.execute(request, new Answer(fingerprint, typed))
                    .receiptOrThrow()
                    .id();
        }

        @Transactional
        void takeBack(ReceiptId receipt) {
            vacancy.execute(Request.restore(receipt).withoutConfirmation("a mistake"))
                    .receiptOrThrow();
        }

        /** Asked and answered, and then something else fails. */
        @Transactional
        void removeAndFail(long boat) {
            Preview shown = ask(boat);
            remove(boat, shown.fingerprint(), "yes");
            throw new IllegalStateException("the printer is out of paper");
        }
    }

    @Test
    void aServiceAsksRemovesAndTakesBack() {
        application(Engine.H2)
                .withUserConfiguration(Office.class, Heard.class)
                .withBean(Fleet.class)
                .withConfiguration(AutoConfigurations.of(AopAutoConfiguration.class))
                .run(context -> {
                    Fleet fleet = context.getBean(Fleet.class);
                    Heard heard = context.getBean(Heard.class);
                    assertThatThrownBy(() -> fleet.removeAndFail(1)).isInstanceOf(IllegalStateException.class);
                    assertThat(heard.events).isEmpty();
                    assertThat(open.get(0).count("boat WHERE left_on IS NULL")).isEqualTo(2);

                    Preview shown = fleet.ask(1);
                    ReceiptId receipt = fleet.remove(1, shown.fingerprint(), "yes");
                    assertThat(open.get(0).count("boat WHERE left_on IS NULL")).isEqualTo(1);
                    fleet.takeBack(receipt);
                    assertThat(open.get(0).count("boat WHERE left_on IS NULL")).isEqualTo(2);
                    assertThat(heard.events).containsExactly("done", "done");
                });
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("management.health.vacancy.enabled=false")
                .run(context -> assertThat(context).doesNotHaveBean(HealthIndicator.class));
    }

    /** The database that Spring Boot makes where nothing is configured has names in upper case. */
    @Test
    void theSameRuleBookFitsUpperCaseNames() {
        new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(
                        DataSourceAutoConfiguration.class,
                        SqlInitializationAutoConfiguration.class,
                        VacancyAutoConfiguration.class))
                .withUserConfiguration(Office.class)
                .withPropertyValues(
                        "spring.sql.init.schema-locations=classpath:harbour.sql",
                        "vacancy.rules=classpath:harbour.yaml",
                        "vacancy.own-tables=create")
                .run(context -> assertThat(context.getBean(Vacancy.class).execute(boat(1)))
                        .isInstanceOf(Outcome.Done.class));
    }

    @Test
    void nobodyIsAStartUpErrorThatSaysWhatToDo() {
        application(Engine.H2)
                .withClassLoader(new FilteredClassLoader(SecurityContextHolder.class))
                .run(context -> {
                    FailureAnalysis told = analysis(context.getStartupFailure());
                    assertThat(told.getDescription()).contains("needs to know who deletes");
                    assertThat(told.getAction()).contains("CurrentActor").contains("Spring Security");
                });
    }

    @Test
    void aRuleBookThatDoesNotFitIsNamedWithItsLine() {
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.rules=classpath:misfit.yaml")
                .run(context -> assertThat(analysis(context.getStartupFailure()).getDescription())
                        .contains("misfit.yaml, line 3", "ship"));
    }

    @Test
    void ownTablesAreWantedUnlessSaidOtherwise() {
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.own-tables=validate")
                .run(context -> {
                    FailureAnalysis told = analysis(context.getStartupFailure());
                    assertThat(told.getDescription()).contains("own tables are not in this database");
                    assertThat(told.getAction()).contains("vacancy.own-tables=create");
                });
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.own-tables=never")
                .run(context -> {
                    assertThat(context).hasNotFailed();
                    assertThat(context.getBean(Vacancy.class).archive().ready()).isFalse();
                    assertThat(context.getBean(HealthIndicator.class).health().getStatus())
                            .isEqualTo(Status.UP);
                });
    }

    private static FailureAnalysis analysis(Throwable failure) {
        return Objects.requireNonNull(
                new StartupFailureAnalyzer().analyze(Objects.requireNonNull(failure, "it started")), "not understood");
    }

    @Test
    void whoIsLoggedInIsWhoDeletesAndTheRequestIsWhereFrom() {
        application(Engine.H2).run(context -> {
            Vacancy vacancy = context.getBean(Vacancy.class);
            assertThatThrownBy(() -> vacancy.execute(boat(1))).isInstanceOf(MisuseException.class);

            TestingAuthenticationToken user = new TestingAuthenticationToken("odd.vik", "secret", "office");
            SecurityContextHolder.getContext().setAuthentication(user);
            RequestContextHolder.setRequestAttributes(
                    new ServletRequestAttributes(new MockHttpServletRequest("POST", "/boats/1/delete")));
            vacancy.execute(boat(1)).receiptOrThrow();

            assertThat(vacancy.history().page(1).entries().get(0)).satisfies(entry -> {
                assertThat(entry.by()).isEqualTo("odd.vik");
                assertThat(entry.origin())
                        .containsEntry("path", "/boats/1/delete")
                        .containsEntry("method", "POST");
            });
        });
    }

    @Test
    void everyPartGivesWayToABeanOfTheApplication() {
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.rules=classpath:misfit.yaml", "vacancy.jobs.node=false")
                .withBean(
                        RuleBook.class,
                        () -> RuleBook.build(book -> book.relation("mooring.boat_id", Rule.block("moored"))))
                .withBean(VacancyCustomizer.class, () -> builder -> builder.actor(() -> "Odd Vik"))
                .run(context -> {
                    Vacancy vacancy = context.getBean(Vacancy.class);
                    assertThat(vacancy.execute(Request.erase("boat").key(1).withoutConfirmation("a test")))
                            .isInstanceOf(Outcome.Blocked.class);
                    assertThat(vacancy.history().page(1).entries().get(0).by()).isEqualTo("Odd Vik");
                    assertThat(context).doesNotHaveBean(NodeLifecycle.class);
                });
        new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(VacancyAutoConfiguration.class))
                .run(context -> assertThat(context).hasNotFailed().doesNotHaveBean(Vacancy.class));
    }

    @Test
    void oneOfSeveralDataSourcesIsNamed() {
        Database other = Engine.H2.fresh();
        Database harbour = Engine.H2.fresh();
        open.addAll(List.of(other, harbour));
        harbour.run("CREATE TABLE boat (id INTEGER PRIMARY KEY)", "INSERT INTO boat VALUES (1)");
        ApplicationContextRunner two = new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(VacancyAutoConfiguration.class))
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.own-tables=create", "vacancy.rules=classpath:empty.yaml")
                .withBean("office", DataSource.class, other::source)
                .withBean("harbour", DataSource.class, harbour::source);

        two.run(context -> assertThat(context).hasFailed());
        two.withPropertyValues("vacancy.data-source=harbour").run(context -> {
            assertThat(context).hasNotFailed();
            assertThat(harbour.count("boat")).isEqualTo(1);
            assertThat(context.getBean(Vacancy.class)
                            .execute(Request.erase("boat").key(1).withoutConfirmation("a test")))
                    .isInstanceOf(Outcome.Done.class);
        });
    }

    @Test
    void jobsHaveWhatTheApplicationGivesThem() {
        List<Job> told = new CopyOnWriteArrayList<>();
        List<String> events = new CopyOnWriteArrayList<>();
        Scope osprey =
                table -> table.name().name().equals("boat") ? column("id").equalTo(1) : null;
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withPropertyValues("vacancy.rules=classpath:outbox.yaml")
                .withBean(MeterRegistry.class, SimpleMeterRegistry::new)
                .withBean(CurrentScope.class, () -> () -> osprey)
                .withBean(JobScope.class, () -> job -> osprey)
                .withBean(OutboxReader.class, () -> event -> events.add(event.content()))
                .withBean(Notifier.class, () -> told::add)
                .run(context -> {
                    Jobs jobs = context.getBean(Jobs.class);
                    MeterRegistry registry = context.getBean(MeterRegistry.class);
                    context.getBean(JobMeters.class).bindTo(registry);
                    Job job = over(
                            jobs, JobOrder.of(Request.erase("boat").everyRow().withoutConfirmation("a test")));
                    assertThat(job.progress().rows()).as(job.message()).isEqualTo(2);
                    assertThat(open.get(0).count("boat")).isEqualTo(1);

                    assertThat(over(jobs, JobOrder.of(JobOrder.Upkeep.PASS_ON)).state())
                            .isEqualTo(JobState.DONE);
                    assertThat(events).singleElement().asString().contains("/harbour/office");
                    assertThat(told).hasSize(2);
                    assertThat(registry.get("vacancy.jobs.runs")
                                    .tag("state", "done")
                                    .counter()
                                    .count())
                            .isEqualTo(2);
                });
    }

    private static Job over(Jobs jobs, JobOrder order) throws InterruptedException {
        String name = jobs.submit(order).jobOrThrow().name();
        Job job = jobs.await(name, Duration.ofSeconds(30));
        // Who is to be told is told right after.
        Thread.sleep(200);
        return job;
    }

    @Test
    void figuresAndHealthAreTold() {
        application(Engine.H2)
                .withUserConfiguration(Office.class)
                .withBean(MeterRegistry.class, SimpleMeterRegistry::new)
                .run(context -> {
                    Vacancy vacancy = context.getBean(Vacancy.class);
                    MeterRegistry registry = context.getBean(MeterRegistry.class);
                    HealthIndicator health = context.getBean(HealthIndicator.class);
                    vacancy.execute(boat(1)).receiptOrThrow();
                    vacancy.execute(boat(99));

                    assertThat(registry.get("vacancy.requests")
                                    .tags("table", "boat", "outcome", "done", "operation", "soft-delete")
                                    .counter()
                                    .count())
                            .isEqualTo(1);
                    assertThat(registry.get("vacancy.requests")
                                    .tag("outcome", "nothing")
                                    .counter()
                                    .count())
                            .isEqualTo(1);
                    assertThat(registry.get("vacancy.rows")
                                    .tags("table", "boat")
                                    .counter()
                                    .count())
                            .isEqualTo(1);
                    assertThat(health.health().getStatus()).isEqualTo(Status.UP);
                    assertThat(health.health().getDetails()).containsEntry("ownTables", true);

                    open.get(0).run("ALTER TABLE boat RENAME COLUMN left_on TO gone_on");
                    assertThat(health.health().getStatus()).isEqualTo(Status.DOWN);
                    assertThat(health.health().getDetails().get("rules"))
                            .asString()
                            .contains("left_on");
                });
    }
}
