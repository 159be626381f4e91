// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.Vacancy;
import io.vacancy.failure.VacancyException;
import java.util.List;
import java.util.function.Supplier;
import org.springframework.boot.actuate.health.AbstractHealthIndicator;
import org.springframework.boot.actuate.health.Health;

/** Whether Vacancy can work: its tables are there, the rule book fits the database as it is now, and jobs get on. */
final class VacancyHealth extends AbstractHealthIndicator {

    private final Vacancy vacancy;
    private final OwnTablesMode ownTables;
    private final Supplier<List<String>> findings;

    /** @param findings what is to be looked at of jobs */
    VacancyHealth(Vacancy vacancy, OwnTablesMode ownTables, Supplier<List<String>> findings) {
        super("Vacancy's health cannot be told");
        this.vacancy = vacancy;
        this.ownTables = ownTables;
        this.findings = findings;
    }

    @Override
    protected void doHealthCheck(Health.Builder builder) {
        boolean ready = vacancy.archive().ready();
        List<String> jobs = ready ? findings.get() : List.of();
        try {
            vacancy.refresh();
            builder.up();
        } catch (VacancyException misfit) {
            builder.down().withDetail("rules", String.valueOf(misfit.getMessage()));
        }
        builder.withDetail("ownTables", ready);
        if (!jobs.isEmpty()) {
            builder.down().withDetail("jobs", jobs);
        }
        if (!ready && ownTables != OwnTablesMode.NEVER) {
            builder.down();
        }
    }
}
