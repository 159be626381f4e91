// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import static io.vacancy.jpa.AttributeRef.attribute;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.failure.NotDoneException;
import io.vacancy.failure.RuleBookException;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.order.JobOrder;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jpa.Entities;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.rules.Marker;
import io.vacancy.rules.Rule;
import io.vacancy.rules.RuleBook;
import io.vacancy.spring.boot.quay.Boat;
import io.vacancy.spring.boot.quay.Boats;
import io.vacancy.spring.boot.quay.Mooring;
import io.vacancy.spring.boot.quay.Moorings;
import io.vacancy.spring.boot.quay.Quay;
import jakarta.persistence.EntityManager;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.boot.autoconfigure.AutoConfigurations;
import org.springframework.boot.autoconfigure.data.jpa.JpaRepositoriesAutoConfiguration;
import org.springframework.boot.autoconfigure.jdbc.DataSourceAutoConfiguration;
import org.springframework.boot.autoconfigure.orm.jpa.HibernateJpaAutoConfiguration;
import org.springframework.boot.autoconfigure.transaction.TransactionAutoConfiguration;
import org.springframework.boot.test.context.runner.ApplicationContextRunner;
import org.springframework.context.ApplicationContext;
import org.springframework.dao.OptimisticLockingFailureException;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.support.TransactionTemplate;

class EntitiesAutoConfigurationTest {

    private final List<Database> open = new ArrayList<>();

    @AfterEach
    void drop() {
        open.forEach(Database::drop);
    }

    /** H2 as it comes keeps names in upper case; the rules are the same. */
    private ApplicationContextRunner application(String database) {
        Database fresh =
                switch (database) {
                    case "H2_UPPER" -> Engine.h2AsItComes();
                    default -> Engine.valueOf(database).fresh();
                };
        open.add(fresh);
        return new ApplicationContextRunner()
                .withConfiguration(AutoConfigurations.of(
                        DataSourceAutoConfiguration.class,
                        HibernateJpaAutoConfiguration.class,
                        JpaRepositoriesAutoConfiguration.class,
                        TransactionAutoConfiguration.class,
                        EntitiesAutoConfiguration.class,
                        VacancyAutoConfiguration.class))
                .withBean(DataSource.class, fresh::source)
                .withBean(CurrentActor.class, () -> () -> "Mira Holm")
                .withUserConfiguration(Quay.class)
                .withPropertyValues(
                        "spring.jpa.hibernate.ddl-auto=create", "vacancy.own-tables=create", "vacancy.jobs.node=false");
    }

    private static TransactionTemplate template(ApplicationContext context) {
        return new TransactionTemplate(context.getBean(PlatformTransactionManager.class));
    }

    private static long osprey(ApplicationContext context) {
        Boat boat = new Boat("Osprey");
        new Mooring(boat);
        new Mooring(boat);
        return context.getBean(Boats.class).save(boat).id;
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2_UPPER", "POSTGRESQL", "MARIADB"})
    void repositoriesPreviewDeleteAndRestore(String database) {
        application(database).run(context -> {
            Boats boats = context.getBean(Boats.class);
            long id = osprey(context);

            Preview shown = boats.previewDeletion(id, "sold");
            assertThat(shown.question().title()).contains("Osprey");
            Outcome deleted = boats.delete(id, "sold", shown.question().answer("yes"));
            assertThat(deleted.receiptOrThrow().because()).isEqualTo("sold");
            assertThat(boats.findById(id))
                    .hasValueSatisfying(boat -> assertThat(boat.leftOn).isNotNull());
            assertThat(boats.delete(id, "again")).isInstanceOf(Outcome.Nothing.class);
            boats.restore(id, "bought back").receiptOrThrow();
            assertThat(boats.findById(id))
                    .hasValueSatisfying(boat -> assertThat(boat.leftOn).isNull());
            boats.erase(id, "sunk").receiptOrThrow();
            assertThat(boats.count()).isZero();
            assertThat(context.getBean(Moorings.class).count()).isZero();
            boats.restore(id, "raised").receiptOrThrow();
            assertThat(context.getBean(Moorings.class).count()).isEqualTo(2);
            assertThat(context.getBean(Vacancy.class)
                            .preview(boats.deletion()
                                    .where(attribute(Boat.class, "name").like("Os%")))
                            .impact()
                            .effects())
                    .hasSize(1);
        });
    }

    @Test
    void deletionsOfARepositoryAreRouted() {
        application("H2").run(context -> {
            Moorings moorings = context.getBean(Moorings.class);
            osprey(context);
            osprey(context);
            List<Mooring> all = moorings.findAll();
            moorings.deleteById(all.get(0).id);
            moorings.deleteById(9_999L);
            Mooring stale = all.get(1);
            template(context).executeWithoutResult(status -> {
                Mooring now = moorings.findById(stale.id).orElseThrow();
                now.version = 7;
                context.getBean(EntityManager.class)
                        .createQuery("update Mooring m set m.version = 7 where m.id = :id")
                        .setParameter("id", stale.id)
                        .executeUpdate();
                context.getBean(EntityManager.class).clear();
            });
            assertThatThrownBy(() -> moorings.delete(stale)).isInstanceOf(OptimisticLockingFailureException.class);
            moorings.delete(all.get(2));
            assertThat(moorings.count()).isEqualTo(2);
            // Every row of a table is not deleted on one call.
            assertThatThrownBy(moorings::deleteAll).isInstanceOf(NotDoneException.class);
            moorings.deleteAllByIdInBatch(List.of(stale.id, all.get(3).id));
            assertThat(moorings.count()).isZero();
            assertThat(context.getBean(Vacancy.class).history().page(10).entries())
                    .hasSizeGreaterThanOrEqualTo(3);
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2_UPPER", "POSTGRESQL"})
    void theManagerOfTheTransactionStaysTrue(String database) {
        application(database).run(context -> {
            Boats boats = context.getBean(Boats.class);
            Vacancy vacancy = context.getBean(Vacancy.class);
            Entities entities = context.getBean(Entities.class);
            long id = osprey(context);
            template(context).executeWithoutResult(status -> {
                Boat boat = boats.findById(id).orElseThrow();
                new Mooring(boat);
                assertThat(vacancy.preview(entities.erase(Boat.class).key(id))
                                .totals()
                                .values())
                        .containsExactly(4L);
                vacancy.execute(entities.softDelete(Boat.class).key(id).withoutConfirmation("sold"))
                        .receiptOrThrow();
                assertThat(boat.leftOn).isNotNull();
                boat.name = "Sea Osprey";
            });
            assertThat(boats.findById(id)).hasValueSatisfying(boat -> {
                assertThat(boat.leftOn).isNotNull();
                assertThat(boat.name).isEqualTo("Sea Osprey");
            });
        });
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL", "MARIADB"})
    void aJobIsOrderedWithTheTransaction(String database) {
        application(database)
                .withPropertyValues("vacancy.jobs.node=true", "vacancy.jobs.poll-every=50ms")
                .run(context -> {
                    osprey(context);
                    Jobs jobs = context.getBean(Jobs.class);
                    JobOrder order = JobOrder.of(context.getBean(Entities.class)
                            .erase(Mooring.class)
                            .everyRow()
                            .withoutConfirmation("the season is over"));
                    template(context).executeWithoutResult(status -> {
                        String name = jobs.submit(order).jobOrThrow().name();
                        assertThat(jobs.find(name)).isPresent();
                        status.setRollbackOnly();
                    });
                    assertThat(jobs.list()).isEmpty();
                    String name = template(context)
                            .execute(status -> jobs.submit(order).jobOrThrow().name());
                    assertThat(jobs.await(name, Duration.ofSeconds(30)).state()).isEqualTo(JobState.DONE);
                    assertThat(context.getBean(Moorings.class).count()).isZero();
                });
    }

    @Test
    void mappingsThatDoNotFitAreToldOrStopTheStart() {
        RuleBook blocks = RuleBook.build(
                book -> book.table("boat", t -> t.version("version")).relation("mooring.boat_id", Rule.cascade()));
        application("H2")
                .withBean(RuleBook.class, () -> blocks)
                .withPropertyValues("vacancy.entities.check=fail")
                .run(context -> assertThat(context).hasNotFailed());
        application("H2")
                .withPropertyValues("vacancy.entities.check=fail", "vacancy.entities.rules=false")
                .withBean(
                        RuleBook.class,
                        () -> RuleBook.build(book -> book.table("boat", t -> t.marker(Marker.date("left_on")))))
                .run(context -> assertThat(context.getStartupFailure())
                        .isInstanceOf(RuleBookException.class)
                        .hasMessageContaining(
                                "has no version that Vacancy raises. Say audit-columns: {version: version}"));
    }

    @Test
    void lockTimeoutAndUpkeepAreConfigured() {
        application("H2")
                .withPropertyValues(
                        "vacancy.lock-timeout=200ms",
                        "vacancy.jobs.node=true",
                        "vacancy.jobs.purge-due=03:00",
                        "vacancy.jobs.seal=PT10M")
                .run(context -> assertThat(context.getBean(Jobs.class).list())
                        .extracting(job -> job.name() + " " + job.by())
                        .containsExactlyInAnyOrder(
                                "application-purge-due application", "application-seal application"));
    }

    @Test
    void anotherStartWithOtherTimesReplacesThem() {
        ApplicationContextRunner application = application("H2");
        application
                .withPropertyValues("vacancy.jobs.node=true", "vacancy.jobs.purge-due=03:00")
                .run(context -> assertThat(active(context)).containsExactly("03:00"));
        application
                .withPropertyValues(
                        "spring.jpa.hibernate.ddl-auto=none", "vacancy.jobs.node=true", "vacancy.jobs.purge-due=04:00")
                .run(context -> assertThat(active(context)).containsExactly("04:00"));
        application
                .withPropertyValues("spring.jpa.hibernate.ddl-auto=none", "vacancy.jobs.node=true")
                .run(context -> assertThat(active(context)).isEmpty());
    }

    private static List<String> active(ApplicationContext context) {
        return context.getBean(Jobs.class).list().stream()
                .filter(job -> !job.state().over())
                .map(job -> job.settings().every().written().substring(0, 5))
                .toList();
    }
}
