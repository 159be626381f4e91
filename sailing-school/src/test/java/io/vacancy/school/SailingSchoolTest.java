// SPDX-License-Identifier: Apache-2.0
package io.vacancy.school;

import static io.vacancy.jpa.AttributeRef.attribute;
import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vacancy.Vacancy;
import io.vacancy.archive.ReceiptId;
import io.vacancy.engines.Database;
import io.vacancy.engines.Engine;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.submit.Submission;
import io.vacancy.jobs.watch.JobState;
import io.vacancy.jpa.Entities;
import io.vacancy.outcome.Outcome;
import io.vacancy.preview.Preview;
import io.vacancy.request.Request;
import jakarta.persistence.EntityManager;
import java.time.Duration;
import java.time.LocalDate;
import java.util.List;
import javax.sql.DataSource;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.springframework.boot.builder.SpringApplicationBuilder;
import org.springframework.context.ConfigurableApplicationContext;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.support.GenericApplicationContext;
import org.springframework.dao.OptimisticLockingFailureException;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.datasource.DataSourceTransactionManager;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionDefinition;
import org.springframework.transaction.support.TransactionTemplate;

/** Each way in which an application of Spring Boot and JPA gets a deletion wrong, on H2 as it comes and on PostgreSQL. */
class SailingSchoolTest {

    private Database database;
    private ConfigurableApplicationContext school;

    /** The ledger is another database, whose transactions are none of Vacancy's. */
    @Configuration(proxyBeanMethods = false)
    static class Ledger {

        @Bean(defaultCandidate = false)
        DataSource ledger() {
            return Engine.H2.fresh().source();
        }
    }

    @BeforeEach
    void none() {
        school = null;
    }

    private void open(String engine, Class<?>... more) {
        database = engine.equals("H2")
                ? Engine.h2AsItComes()
                : Engine.valueOf(engine).fresh();
        school = new SpringApplicationBuilder(SailingSchool.class)
                .sources(more)
                .initializers(context -> ((GenericApplicationContext) context)
                        .registerBean("dataSource", DataSource.class, database::source))
                .properties(
                        "server.port=0",
                        "vacancy.jobs.poll-every=50ms",
                        "spring.jpa.properties.hibernate.cache.use_second_level_cache=true",
                        "spring.jpa.properties.hibernate.cache.use_query_cache=true",
                        "spring.jpa.properties.hibernate.cache.region.factory_class=jcache",
                        "spring.jpa.properties.hibernate.javax.cache.missing_cache_strategy=create",
                        "spring.jpa.properties.jakarta.persistence.sharedCache.mode=ALL",
                        "logging.level.io.vacancy=warn",
                        "logging.level.com.github.benmanes=error",
                        "spring.main.banner-mode=off")
                .run();
    }

    @AfterEach
    void close() {
        if (school != null) {
            school.close();
        }
        database.drop();
    }

    private <T> T the(Class<T> type) {
        return school.getBean(type);
    }

    private TransactionTemplate transaction() {
        return new TransactionTemplate(the(PlatformTransactionManager.class));
    }

    private Course course(String title) {
        return the(Courses.class).findAll().stream()
                .filter(each -> each.title.equals(title))
                .findFirst()
                .orElseThrow();
    }

    private Course again(Course course) {
        return the(Courses.class).findById(course.id).orElseThrow();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void aStaleDetachedEntityDoesNotUndoADeletion(String engine) {
        open(engine);
        Course stale = course("Knots");
        the(Office.class).cancel(stale.id, "no wind").receiptOrThrow();
        stale.title = "Knots and bends";
        assertThatThrownBy(() -> the(Courses.class).save(stale)).isInstanceOf(OptimisticLockingFailureException.class);
        assertThat(again(stale).cancelledOn).isNotNull();
        assertThat(again(stale).title).isEqualTo("Knots (cancelled)");
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void aManagedEntityThatIsChangedAfterwardsKeepsTheMarker(String engine) {
        open(engine);
        Course knots = course("Knots");
        transaction().executeWithoutResult(status -> {
            Course managed = again(knots);
            List<Booking> bookings = List.copyOf(managed.bookings);
            the(Courses.class).delete(knots.id, "no wind").receiptOrThrow();
            assertThat(managed.cancelledBy).isEqualTo("Mira Holm");
            assertThat(managed.cancelledBecause).isEqualTo("no wind");
            assertThat(bookings).isNotEmpty().allMatch(each -> each.cancelledOn != null);
            managed.title = "Bends";
            bookings.get(0).paid = true;
        });
        assertThat(again(knots).cancelledOn).isNotNull();
        assertThat(again(knots).title).isEqualTo("Bends");
        assertThat(the(Bookings.class).findAll().stream()
                        .filter(each -> each.course.id.equals(knots.id))
                        .toList())
                .allMatch(each -> each.cancelledOn != null);
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void aChildThatIsNotInsertedYetIsDeletedWithItsParent(String engine) {
        open(engine);
        Course radio = course("Radio");
        Student student = the(Students.class).findAll().get(0);
        transaction().executeWithoutResult(status -> {
            Booking pending = the(Office.class).book(radio.id, student.id);
            Preview shown = the(Courses.class).previewDeletion(radio.id, "no radio");
            long before =
                    shown.totals().values().stream().mapToLong(Long::longValue).sum();
            assertThat(the(Courses.class)
                            .delete(radio.id, "no radio")
                            .receiptOrThrow()
                            .totals()
                            .values())
                    .containsExactly(before);
            assertThat(pending.cancelledOn).isNotNull();
        });
        assertThat(the(JdbcTemplate.class)
                        .queryForObject(
                                "SELECT COUNT(*) FROM booking WHERE course_id = ? AND cancelled_on IS NULL",
                                Long.class,
                                radio.id))
                .isZero();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void anOuterRollbackTakesBackWhatWasDone(String engine) {
        open(engine);
        Course knots = course("Knots");
        transaction().executeWithoutResult(status -> {
            assertThat(the(Office.class).cancel(knots.id, "no wind")).isInstanceOf(Outcome.Done.class);
            status.setRollbackOnly();
        });
        assertThat(again(knots).cancelledOn).isNull();
        assertThat(again(knots).title).isEqualTo("Knots");
        assertThat(the(Vacancy.class).history().of("course", knots.id).page(10).entries())
                .isEmpty();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void nestedCallsAreOneTransactionOrAnother(String engine) {
        open(engine);
        Course knots = course("Knots");
        Course radio = course("Radio");
        TransactionTemplate another = transaction();
        another.setPropagationBehavior(TransactionDefinition.PROPAGATION_REQUIRES_NEW);
        transaction().executeWithoutResult(outer -> {
            the(Office.class).cancel(knots.id, "no wind").receiptOrThrow();
            another.executeWithoutResult(
                    inner -> the(Office.class).cancel(radio.id, "no radio").receiptOrThrow());
            outer.setRollbackOnly();
        });
        assertThat(again(knots).cancelledOn).isNull();
        assertThat(again(radio).cancelledOn).isNotNull();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void aTransactionOfAnotherDataSourceIsNone(String engine) {
        open(engine, Ledger.class);
        Course knots = course("Knots");
        DataSource ledger = school.getBean("ledger", DataSource.class);
        new JdbcTemplate(ledger).execute("CREATE TABLE refund (course BIGINT)");
        new TransactionTemplate(new DataSourceTransactionManager(ledger)).executeWithoutResult(status -> {
            new JdbcTemplate(ledger).update("INSERT INTO refund VALUES (?)", knots.id);
            the(Courses.class).delete(knots.id, "no wind").receiptOrThrow();
            status.setRollbackOnly();
        });
        assertThat(again(knots).cancelledOn).isNotNull();
        assertThat(new JdbcTemplate(ledger).queryForObject("SELECT COUNT(*) FROM refund", Long.class))
                .isZero();
    }

    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void queriesAndCachesTellWhatIsThere(String engine) {
        open(engine);
        EntityManager manager = the(EntityManager.class);
        Student una = the(Students.class).findAllByOrderByName().get(4);
        long all = cached(manager);
        transaction().executeWithoutResult(status -> {
            the(Vacancy.class)
                    .execute(the(Entities.class)
                            .erase(Booking.class)
                            .where(attribute(Booking.class, "student").equalTo(una))
                            .withoutConfirmation("a test"))
                    .receiptOrThrow();
            Preview shown = the(Students.class).previewDeletion(una.id, "left");
            the(Students.class)
                    .delete(una.id, "left", shown.question().answer("Una Berg"))
                    .receiptOrThrow();
            assertThat(manager.createNativeQuery("SELECT COUNT(*) FROM student").getSingleResult())
                    .hasToString(String.valueOf(all - 1));
            assertThat(manager.find(Student.class, una.id)).isNull();
            assertThat(cached(manager)).isEqualTo(all - 1);
        });
        assertThat(the(Students.class).findById(una.id)).isEmpty();
        assertThat(cached(manager)).isEqualTo(all - 1);
        the(Vacancy.class)
                .execute(the(Entities.class).restore(Student.class).key(una.id).withoutConfirmation("came back"))
                .receiptOrThrow();
        assertThat(the(Students.class).findById(una.id)).isPresent();
        assertThat(cached(manager)).isEqualTo(all);
    }

    private long cached(EntityManager manager) {
        return manager.createQuery("select count(s) from Student s", Long.class)
                .setHint("org.hibernate.cacheable", true)
                .getSingleResult();
    }

    /** What the pages and the season's end do, without a browser. */
    @ParameterizedTest
    @ValueSource(strings = {"H2", "POSTGRESQL"})
    void aJobEndsTheSeasonAndIsTakenBack(String engine) throws Exception {
        open(engine);
        LocalDate day = LocalDate.of(2026, 6, 20);
        Preview shown = the(Office.class).seasonEnd(day);
        assertThat(shown.skipped().rows()).isOne();
        Submission refused = the(Office.class).endSeason(day, shown.question().answer("no"));
        assertThat(refused).isInstanceOf(Submission.Rejected.class);
        String name = the(Office.class)
                .endSeason(day, shown.question().answer("yes"))
                .jobOrThrow()
                .name();
        Jobs jobs = the(Jobs.class);
        assertThat(jobs.await(name, Duration.ofSeconds(30)).state()).isEqualTo(JobState.DONE);
        assertThat(the(Courses.class).count()).isEqualTo(6);

        ReceiptId receipt = jobs.find(name).orElseThrow().receipt();
        the(Vacancy.class)
                .execute(Request.restore(receipt).withoutConfirmation("too early"))
                .receiptOrThrow();
        assertThat(the(Courses.class).count()).isEqualTo(12);
        assertThat(the(Vacancy.class).trail().verify().verified()).isTrue();
    }
}
