// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot.test;

import io.vacancy.spring.boot.EntitiesAutoConfiguration;
import io.vacancy.spring.boot.VacancyAutoConfiguration;
import java.lang.annotation.Documented;
import java.lang.annotation.ElementType;
import java.lang.annotation.Inherited;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;
import org.springframework.boot.autoconfigure.ImportAutoConfiguration;
import org.springframework.test.context.TestPropertySource;

/**
 * Has Vacancy in a test of a slice of an application, such as one with {@code @DataJpaTest} or {@code @JdbcTest}: opened on the
 * slice's data source, joined to the test's transaction, with its own tables created. Where the slice has no
 * {@link io.vacancy.spring.boot.CurrentActor}, the actor is {@code test}. No node of jobs is started.
 */
@Documented
@Inherited
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.TYPE)
@ImportAutoConfiguration({TestActor.class, EntitiesAutoConfiguration.class, VacancyAutoConfiguration.class})
@TestPropertySource(properties = {"vacancy.own-tables=create", "vacancy.jobs.node=false"})
public @interface WithVacancy {}
