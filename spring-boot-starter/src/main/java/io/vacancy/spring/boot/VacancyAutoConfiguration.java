// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.micrometer.core.instrument.MeterRegistry;
import io.vacancy.Vacancy;
import io.vacancy.access.Permission;
import io.vacancy.failure.MisuseException;
import io.vacancy.jdbc.JdbcStore;
import io.vacancy.jobs.Jobs;
import io.vacancy.jobs.meters.JobMeters;
import io.vacancy.jobs.pace.LoadProbe;
import io.vacancy.jobs.watch.JobListener;
import io.vacancy.jobs.watch.Notifier;
import io.vacancy.listener.Listener;
import io.vacancy.outcome.Outcome;
import io.vacancy.request.Request;
import io.vacancy.rulebook.RuleBookFile;
import io.vacancy.rules.RuleBook;
import io.vacancy.spring.SpringTransactions;
import io.vacancy.web.DeletionApi;
import io.vacancy.web.DeletionPages;
import io.vacancy.web.Exposure;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.util.List;
import java.util.Map;
import javax.sql.DataSource;
import org.springframework.beans.factory.BeanFactory;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.actuate.health.HealthIndicator;
import org.springframework.boot.autoconfigure.AutoConfiguration;
import org.springframework.boot.autoconfigure.condition.ConditionalOnBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnClass;
import org.springframework.boot.autoconfigure.condition.ConditionalOnMissingBean;
import org.springframework.boot.autoconfigure.condition.ConditionalOnProperty;
import org.springframework.boot.context.properties.EnableConfigurationProperties;
import org.springframework.boot.sql.init.dependency.DependsOnDatabaseInitialization;
import org.springframework.boot.web.servlet.ServletRegistrationBean;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.context.SmartLifecycle;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.core.io.Resource;
import org.springframework.core.io.ResourceLoader;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.context.request.RequestAttributes;
import org.springframework.web.context.request.RequestContextHolder;
import org.springframework.web.context.request.ServletRequestAttributes;

/**
 * Opens Vacancy on the application's data source, after whatever migrates its tables. Any bean of the application's own takes
 * the place of the one here.
 */
@AutoConfiguration(
        afterName = {
            "org.springframework.boot.autoconfigure.jdbc.DataSourceAutoConfiguration",
            "org.springframework.boot.jdbc.autoconfigure.DataSourceAutoConfiguration",
            "org.springframework.boot.flyway.autoconfigure.FlywayAutoConfiguration",
            "org.springframework.boot.liquibase.autoconfigure.LiquibaseAutoConfiguration",
            "org.springframework.boot.hibernate.autoconfigure.HibernateJpaAutoConfiguration",
            "org.springframework.boot.micrometer.metrics.autoconfigure.CompositeMeterRegistryAutoConfiguration",
            "org.springframework.boot.autoconfigure.flyway.FlywayAutoConfiguration",
            "org.springframework.boot.autoconfigure.liquibase.LiquibaseAutoConfiguration",
            "org.springframework.boot.autoconfigure.orm.jpa.HibernateJpaAutoConfiguration",
            "org.springframework.boot.actuate.autoconfigure.metrics.export.simple.SimpleMetricsExportAutoConfiguration",
            "org.springframework.boot.actuate.autoconfigure.metrics.CompositeMeterRegistryAutoConfiguration"
        })
@ConditionalOnBean(DataSource.class)
@EnableConfigurationProperties(VacancyProperties.class)
public class VacancyAutoConfiguration {

    private static final String JOBS = "vacancyJobs";
    private static final String USUAL_RULES = "classpath:vacancy.yaml";

    /** The data source that Vacancy works on, as it was found. */
    record Source(DataSource dataSource) {}

    @Bean
    @ConditionalOnMissingBean
    Source vacancySource(VacancyProperties properties, BeanFactory beans) {
        String name = properties.dataSource();
        return new Source(name == null ? beans.getBean(DataSource.class) : beans.getBean(name, DataSource.class));
    }

    @Bean
    @ConditionalOnMissingBean
    @DependsOnDatabaseInitialization
    JdbcStore vacancyStore(Source source) {
        return JdbcStore.of(SpringTransactions.ownConnections(source.dataSource()));
    }

    @Bean
    @ConditionalOnMissingBean
    SpringTransactions vacancyTransactions(Source source) {
        return new SpringTransactions(source.dataSource());
    }

    @Bean
    @ConditionalOnMissingBean
    RuleBook vacancyRules(VacancyProperties properties, ResourceLoader resources) {
        Resource written = properties.rules();
        Resource found = written == null ? resources.getResource(USUAL_RULES) : written;
        if (written == null && !found.exists()) {
            return RuleBook.build(book -> {});
        }
        try {
            return RuleBookFile.read(
                    found.getContentAsString(StandardCharsets.UTF_8), String.valueOf(found.getFilename()));
        } catch (IOException failed) {
            throw new UncheckedIOException("The rule book cannot be read from " + found.getDescription(), failed);
        }
    }

    @Bean
    @ConditionalOnMissingBean
    Vacancy vacancy(
            JdbcStore store,
            SpringTransactions transactions,
            RuleBook rules,
            VacancyProperties properties,
            ObjectProvider<CurrentActor> actor,
            ObjectProvider<CurrentScope> scope,
            ObjectProvider<CurrentOrigin> origin,
            ObjectProvider<Permission> permission,
            ObjectProvider<Clock> clock,
            ObjectProvider<Listener> listeners,
            ObjectProvider<VacancyCustomizer> customizers) {
        CurrentActor who = actor.getIfAvailable();
        if (who == null) {
            throw new NoActorException();
        }
        Vacancy.Builder builder = Vacancy.on(store)
                .rules(rules)
                .joining(transactions)
                .actor(who::name)
                .listener(new Listeners(listeners.orderedStream().toList()));
        scope.ifAvailable(current -> builder.scope(current::scope));
        origin.ifAvailable(current -> builder.origin(current::origin));
        permission.ifAvailable(builder::permission);
        clock.ifAvailable(builder::clock);
        String seal = properties.sealKey();
        if (seal != null) {
            builder.sealKey(seal.getBytes(StandardCharsets.UTF_8));
        }
        String personal = properties.personalKey();
        if (personal != null) {
            builder.personalKey(personal.getBytes(StandardCharsets.UTF_8));
        }
        if (properties.sealEvery() != null) {
            builder.sealEvery(properties.sealEvery());
        }
        if (properties.lockTimeout() != null) {
            builder.lockTimeout(properties.lockTimeout());
        }
        if (properties.questionLifetime() != null) {
            builder.questionLifetime(properties.questionLifetime());
        }
        customizers.orderedStream().forEach(customizer -> customizer.customize(builder));
        Vacancy vacancy = builder.open();
        ownTables(vacancy, properties.ownTables());
        return vacancy;
    }

    private static void ownTables(Vacancy vacancy, OwnTablesMode mode) {
        if (mode == OwnTablesMode.CREATE) {
            vacancy.archive().setUp();
        }
        if (mode == OwnTablesMode.VALIDATE && !vacancy.archive().ready()) {
            throw new MisuseException(
                    "Vacancy's own tables are not in this database, or older than this version.",
                    "Set vacancy.own-tables=create to have them made at start-up, or make them by a migration from what"
                            + " archive().script() or `vacancy setup print` prints; vacancy.own-tables=never does"
                            + " without them, and nothing can be restored then.");
        }
    }

    /** Publishes {@link RequestEnded}. */
    @Bean
    Listener vacancyEvents(ApplicationEventPublisher events) {
        return new Listener() {
            @Override
            public void ended(Request request, Outcome outcome) {
                events.publishEvent(new RequestEnded(request, outcome));
            }
        };
    }

    /** The user of Spring Security is who works. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass(SecurityContextHolder.class)
    static class WithSecurity {

        @Bean
        @ConditionalOnMissingBean
        CurrentActor vacancyActor() {
            return () -> {
                Authentication user = SecurityContextHolder.getContext().getAuthentication();
                return user == null || !user.isAuthenticated() ? "" : user.getName();
            };
        }
    }

    /** The HTTP request is where a call comes from. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass({RequestContextHolder.class, HttpServletRequest.class})
    static class WithRequests {

        @Bean
        @ConditionalOnMissingBean
        CurrentOrigin vacancyOrigin() {
            return () -> {
                RequestAttributes now = RequestContextHolder.getRequestAttributes();
                if (!(now instanceof ServletRequestAttributes attributes)) {
                    return Map.of();
                }
                HttpServletRequest request = attributes.getRequest();
                return Map.of(
                        "method", request.getMethod(),
                        "path", request.getRequestURI(),
                        "address", request.getRemoteAddr());
            };
        }
    }

    /** Figures, where somebody takes them. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass(MeterRegistry.class)
    static class WithMeters {

        @Bean
        @ConditionalOnBean(MeterRegistry.class)
        Listener vacancyMeters(MeterRegistry registry) {
            return new VacancyMeters(registry);
        }
    }

    /** Jobs, where the module is there. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass(Jobs.class)
    static class WithJobs {

        @Bean(name = JOBS, destroyMethod = "")
        @ConditionalOnMissingBean
        Jobs vacancyJobs(
                Vacancy vacancy,
                JdbcStore store,
                Source source,
                VacancyProperties properties,
                ObjectProvider<JobScope> scope,
                ObjectProvider<OutboxReader> reader,
                ObjectProvider<LoadProbe> probes,
                ObjectProvider<JobListener> listeners,
                ObjectProvider<Notifier> notifiers) {
            Jobs.Builder jobs = Jobs.on(vacancy, store, SpringTransactions.ownConnections(source.dataSource()))
                    .threads(properties.jobs().threads())
                    .pollEvery(properties.jobs().pollEvery())
                    .heartbeatEvery(properties.jobs().heartbeatEvery());
            scope.ifAvailable(said -> jobs.scope(said::of));
            reader.ifAvailable(said -> jobs.events(said::take));
            probes.orderedStream().forEach(jobs::probe);
            listeners.orderedStream().forEach(jobs::listener);
            notifiers.orderedStream().forEach(jobs::notifier);
            return jobs.open();
        }

        /** Figures of jobs, where somebody takes them. */
        @Configuration(proxyBeanMethods = false)
        @ConditionalOnClass(MeterRegistry.class)
        static class Figures {

            @Bean
            @ConditionalOnBean(MeterRegistry.class)
            @ConditionalOnMissingBean
            JobMeters vacancyJobMeters(ObjectProvider<Jobs> jobs) {
                return new JobMeters(() -> jobs.getObject().list());
            }
        }

        /** From when the application is up until it goes down. */
        @Bean
        @ConditionalOnProperty(name = "vacancy.jobs.node", matchIfMissing = true)
        SmartLifecycle vacancyNode(
                Jobs jobs,
                Vacancy vacancy,
                JdbcStore store,
                Source source,
                VacancyProperties properties,
                @Value("${spring.application.name:application}") String name) {
            UpkeepSchedules upkeep = UpkeepSchedules.of(properties.jobs(), vacancy, name, own -> Jobs.on(
                            own, store, SpringTransactions.ownConnections(source.dataSource()))
                    .open());
            return new NodeLifecycle(jobs, properties.ownTables(), upkeep);
        }
    }

    /** Pages and resources, where the module is there and the application opens tables. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass({DeletionApi.class, HttpServletRequest.class})
    @ConditionalOnBean(Exposure.class)
    static class WithWeb {

        @Bean
        @ConditionalOnMissingBean(name = "vacancyApi")
        ServletRegistrationBean<DeletionApi> vacancyApi(
                Vacancy vacancy, Exposure exposure, VacancyProperties properties) {
            return new ServletRegistrationBean<>(
                    DeletionApi.of(vacancy, exposure), properties.web().api() + "/*");
        }

        @Bean
        @ConditionalOnMissingBean
        DeletionPages vacancyDeletionPages(
                Vacancy vacancy, Exposure exposure, CurrentActor actor, VacancyProperties properties) {
            DeletionPages pages = DeletionPages.of(vacancy, actor::name, exposure);
            String key = properties.web().formKey();
            return key == null ? pages : pages.formKey(key.getBytes(StandardCharsets.UTF_8));
        }

        @Bean
        @ConditionalOnMissingBean(name = "vacancyPages")
        ServletRegistrationBean<DeletionPages> vacancyPages(DeletionPages pages, VacancyProperties properties) {
            return new ServletRegistrationBean<>(pages, properties.web().pages() + "/*");
        }
    }

    @Bean
    @ConditionalOnMissingBean
    VacancyHealthCheck vacancyHealthCheck(Vacancy vacancy, VacancyProperties properties, BeanFactory beans) {
        return new VacancyHealthCheck(
                vacancy,
                properties.ownTables(),
                () -> beans.containsBean(JOBS)
                        ? beans.getBean(JOBS, Jobs.class).health().findings()
                        : List.of());
    }

    /** Health, where the actuator of this line of Spring Boot is there. */
    @Configuration(proxyBeanMethods = false)
    @ConditionalOnClass(HealthIndicator.class)
    @ConditionalOnProperty(name = "management.health.vacancy.enabled", matchIfMissing = true)
    static class WithHealth {

        @Bean
        @ConditionalOnMissingBean(name = "vacancyHealthIndicator")
        HealthIndicator vacancyHealthIndicator(VacancyHealthCheck check) {
            return new VacancyHealth(check);
        }
    }
}
