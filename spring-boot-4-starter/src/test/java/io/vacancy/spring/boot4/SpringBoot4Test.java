// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4;

import static org.assertj.core.api.Assertions.assertThat;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.request.Request;
import io.vacancy.spring.boot.CurrentActor;
import io.vacancy.spring.boot.RequestEnded;
import io.vacancy.spring.boot.VacancyAutoConfiguration;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;
import org.springframework.boot.SpringBootVersion;
import org.springframework.boot.autoconfigure.AutoConfigurations;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.boot.health.contributor.Status;
import org.springframework.boot.jdbc.autoconfigure.DataSourceTransactionManagerAutoConfiguration;
import org.springframework.boot.test.context.runner.ApplicationContextRunner;
import org.springframework.boot.transaction.autoconfigure.TransactionAutoConfiguration;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

/** The same as on the other line: what is configured, transactions, events, jobs and health. */
class SpringBoot4Test {

    /** Hears what is published. */
    @Component
    static class Heard {
        final List<String> events = new ArrayList<>();

        @EventListener
        void ended(RequestEnded event) {
            events.add(event.outcome().state().word());
        }
    }

    @ParameterizedTest
    @EnumSource(
            value = Engine.class,
            names = {"H2", "POSTGRESQL"})
    void isThereWithTransactionsEventsJobsAndHealth(Engine engine) {
        assertThat(SpringBootVersion.getVersion()).startsWith("4.");
        Database database = engine.fresh();
        database.run(
                "CREATE TABLE boat (id INTEGER NOT NULL PRIMARY KEY, name VARCHAR(20))",
                "INSERT INTO boat VALUES (1, 'Osprey'), (2, 'Heron')");
        new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(
                        DataSourceTransactionManagerAutoConfiguration.class,
                        TransactionAutoConfiguration.class,
                        VacancyAutoConfiguration.class,
                        VacancyHealthAutoConfiguration.class))
                .withBean(DataSource.class, database::source)
                .withBean(CurrentActor.class, () -> () -> "Mira Holm")
                .withUserConfiguration(Heard.class)
                .withPropertyValues("vacancy.own-tables=create", "vacancy.jobs.poll-every=50ms")
                .run(context -> {
                    Vacancy vacancy = context.getBean(Vacancy.class);
                    Heard heard = context.getBean(Heard.class);
                    Request boat = Request.erase("boat").key(1).withoutConfirmation("sold");
                    TransactionTemplate template =
                            new TransactionTemplate(context.getBean(PlatformTransactionManager.class));

                    template.executeWithoutResult(status -> {
                        vacancy.execute(boat).receiptOrThrow();
                        status.setRollbackOnly();
                    });
                    assertThat(heard.events).isEmpty();
                    assertThat(database.count("boat")).isEqualTo(2);
                    template.executeWithoutResult(
                            status -> vacancy.execute(boat).receiptOrThrow());
                    assertThat(heard.events).containsExactly("done");
                    assertThat(database.count("boat")).isEqualTo(1);

                    Jobs jobs = context.getBean(Jobs.class);
                    String name = jobs.submit(JobOrder.of(
                                    Request.erase("boat").everyRow().withoutConfirmation("the season is over")))
                            .jobOrThrow()
                            .name();
                    assertThat(jobs.await(name, Duration.ofSeconds(30)).state()).isEqualTo(JobState.DONE);
                    HealthIndicator health = context.getBean(HealthIndicator.class);
                    Health found = health.health();
                    assertThat(found.getStatus()).isEqualTo(Status.UP);
                    assertThat(found.getDetails()).containsEntry("ownTables", true);
                });
        database.drop();
    }
}
