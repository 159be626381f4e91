// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.Vacancy;
import io.vacancy.failure.Problem;
import io.vacancy.failure.RuleBookException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jpa.Entities;
import io.vacancy.jpa.check.MappingCheck;
import io.vacancy.jpa.rules.EntityRules;
import io.vacancy.rules.CombinedRules;
import io.vacancy.rules.RuleBook;
import io.vacancy.spring.SpringTransactions;
import io.vacancy.spring.boot.VacancyAutoConfiguration.Source;
import io.vacancy.spring.jpa.BoundEntityManagers;
import jakarta.persistence.EntityManagerFactory;
import java.util.List;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.SmartInitializingSingleton;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnClass;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnSingleCandidate;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.context.annotation.Bean;
import org.springframework.core.Ordered;
import org.springframework.core.annotation.Order;
import org.springframework.orm.jpa.EntityManagerFactoryInfo;

/**
 * Requests by entity, rules on entities, and entity managers that stay true, where the module is there and the entities are rows
 * of Vacancy's own data source.
 */
@AutoConfiguration(
        before = VacancyAutoConfiguration.class,
        afterName = {
            "org.springframework.boot.autoconfigure.orm.jpa.HibernateJpaAutoConfiguration",
            "org.springframework.boot.hibernate.autoconfigure.HibernateJpaAutoConfiguration"
        })
@ConditionalOnClass({Entities.class, EntityManagerFactory.class, EntityManagerFactoryInfo.class})
@ConditionalOnSingleCandidate(EntityManagerFactory.class)
@EnableConfigurationProperties(VacancyProperties.class)
public class EntitiesAutoConfiguration {

    private static final Logger LOG = LoggerFactory.getLogger(EntitiesAutoConfiguration.class);

    @Bean
    @ConditionalOnMissingBean
    Entities vacancyEntities(EntityManagerFactory factory) {
        return Entities.of(factory);
    }

    @Bean
    @ConditionalOnMissingBean
    EntityRules vacancyEntityRules(EntityManagerFactory factory) {
        return EntityRules.of(factory);
    }

    /** The first to have a word, so that customizers of the application have the last. */
    @Bean
    @Order(Ordered.HIGHEST_PRECEDENCE)
    VacancyCustomizer vacancyEntitiesCustomizer(
            EntityManagerFactory factory,
            EntityRules entityRules,
            RuleBook rules,
            JdbcStore store,
            Source source,
            SpringTransactions transactions,
            VacancyProperties properties) {
        return builder -> {
            if (!BoundEntityManagers.areOf(factory, source.dataSource())) {
                return;
            }
            builder.joining(BoundEntityManagers.of(factory, transactions));
            if (properties.entities().rules()) {
                CombinedRules combined = entityRules.under(rules, store.schema());
                combined.contradictions().forEach(each -> LOG.warn("The rule book and the entities differ. {}", each));
                builder.rules(combined.book());
            }
        };
    }

    /** Holds the mapping against the rules once all is there. */
    @Bean
    SmartInitializingSingleton vacancyMappingCheck(
            EntityManagerFactory factory, Vacancy vacancy, Source source, VacancyProperties properties) {
        return () -> {
            MappingCheckMode mode = properties.entities().check();
            if (mode == MappingCheckMode.NEVER || !BoundEntityManagers.areOf(factory, source.dataSource())) {
                return;
            }
            List<Problem> problems = MappingCheck.problems(factory, vacancy.rules());
            List<Problem> errors = problems.stream().filter(Problem::error).toList();
            if (mode == MappingCheckMode.FAIL && !errors.isEmpty()) {
                throw new RuleBookException(
                        "The mapping of entities and the rules do not fit: "
                                + String.join(
                                        " ",
                                        errors.stream().map(Problem::message).toList()),
                        "Correct it, or have it only logged: vacancy.entities.check=warn.");
            }
            errors.forEach(each -> LOG.warn("{}", each));
            problems.stream().filter(each -> !each.error()).forEach(each -> LOG.info("{}", each));
        };
    }
}
