// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot;

import io.vacancy.Vacancy;
import io.vacancy.failure.VacancyException;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Supplier;

/**
 * Whether Vacancy can work: its tables are there, the rule book fits the database as it is now, and jobs get on. Health
 * indicators of each line of Spring Boot tell what it finds. For all threads.
 */
public final class VacancyHealthCheck {

    private final Vacancy vacancy;
    private final OwnTablesMode ownTables;
    private final Supplier<List<String>> findings;

    /** @param findings what is to be looked at of jobs */
    public VacancyHealthCheck(Vacancy vacancy, OwnTablesMode ownTables, Supplier<List<String>> findings) {
        this.vacancy = Objects.requireNonNull(vacancy, "vacancy");
        this.ownTables = Objects.requireNonNull(ownTables, "ownTables");
        this.findings = Objects.requireNonNull(findings, "findings");
    }

    /**
     * What was found.
     *
     * @param sound whether there is nothing to be looked at
     * @param details by name
     */
    public record Found(boolean sound, Map<String, Object> details) {

        public Found {
            details = Map.copyOf(details);
        }
    }

    /**
     * Looks, which asks the database.
     *
     * @throws VacancyException if the database does not answer
     */
    public Found look() {
        Map<String, Object> details = new LinkedHashMap<>();
        boolean ready = vacancy.archive().ready();
        boolean sound = ready || ownTables == OwnTablesMode.NEVER;
        details.put("ownTables", ready);
        try {
            vacancy.refresh();
        } catch (VacancyException misfit) {
            details.put("rules", String.valueOf(misfit.getMessage()));
            sound = false;
        }
        List<String> jobs = ready ? findings.get() : List.of();
        if (!jobs.isEmpty()) {
            details.put("jobs", jobs);
            sound = false;
        }
        return new Found(sound, details);
    }
}
