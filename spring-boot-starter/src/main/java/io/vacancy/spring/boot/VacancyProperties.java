// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import java.time.Duration;
import org.jspecify.annotations.Nullable;
import org.springframework.boot.context.properties.ConfigurationProperties;
import org.springframework.boot.context.properties.bind.DefaultValue;
import org.springframework.core.io.Resource;

/**
 * What can be configured.
 *
 * @param rules where the rule book is; classpath:vacancy.yaml if that is there
 * @param ownTables what is done about Vacancy's own tables at start-up
 * @param dataSource the name of the bean, among several data sources
 * @param sealKey the secret that seals the audit history, from the environment
 * @param personalKey the secret by which personal values are found again in the audit history, from the environment
 * @param sealEvery how often the audit history is sealed by those who write it, at most
 * @param questionLifetime how long a question that was asked can be answered
 * @param lockTimeout how long requests that do not say so wait for rows that somebody else holds; as long as the database does
 *     unless set
 * @param entities rules and checks of entities
 * @param jobs large deletions in the background
 * @param web questions over HTTP, once a bean of type Exposure opens tables
 */
@ConfigurationProperties("vacancy")
public record VacancyProperties(
        @Nullable Resource rules,
        @DefaultValue("validate") OwnTablesMode ownTables,
        @Nullable String dataSource,
        @Nullable String sealKey,
        @Nullable String personalKey,
        @Nullable Duration sealEvery,
        @Nullable Duration questionLifetime,
        @Nullable Duration lockTimeout,
        @DefaultValue Entities entities,
        @DefaultValue Jobs jobs,
        @DefaultValue Web web) {

    /**
     * Rules and checks of entities.
     *
     * @param rules whether annotations on entities join the rule book, which prevails
     * @param check what happens at start-up where the mapping and the rules do not fit
     */
    public record Entities(
            @DefaultValue("true") boolean rules,
            @DefaultValue("warn") MappingCheckMode check) {}

    /**
     * Questions over HTTP, once a bean of type Exposure opens tables.
     *
     * @param api the path of the resources in JSON
     * @param pages the path of the pages that ask people
     * @param formKey the secret of the pages' form tokens, the same on all nodes; one that is made at start-up unless set
     */
    public record Web(
            @DefaultValue("/vacancy/api") String api,
            @DefaultValue("/vacancy/pages") String pages,
            @Nullable String formKey) {}

    /**
     * Large deletions in the background.
     *
     * @param node whether this process carries jobs out; it can order and watch them either way
     * @param threads on how many lanes of jobs it works at once
     * @param pollEvery how often it looks for work
     * @param heartbeatEvery how often it says that it is alive
     * @param purgeDue when what has expired is removed for good: a time of day such as 03:00, the five fields of crontab, or a
     *     duration; never unless set
     * @param seal when the audit history is sealed, in the same words
     * @param passOn when the events of the outbox are passed on, in the same words
     */
    public record Jobs(
            @DefaultValue("true") boolean node,
            @DefaultValue("4") int threads,
            @DefaultValue("1s") Duration pollEvery,
            @DefaultValue("5s") Duration heartbeatEvery,
            @Nullable String purgeDue,
            @Nullable String seal,
            @Nullable String passOn) {}
}
