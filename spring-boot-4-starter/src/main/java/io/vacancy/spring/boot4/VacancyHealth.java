// SPDX-License-Identifier: Apache-2.0
package io.vacancy.spring.boot4;

import io.vacancy.spring.boot.VacancyHealthCheck;
import org.springframework.boot.health.contributor.AbstractHealthIndicator;
import org.springframework.boot.health.contributor.Health;

/** Tells the actuator what the check finds. */
final class VacancyHealth extends AbstractHealthIndicator {

    private final VacancyHealthCheck check;

    VacancyHealth(VacancyHealthCheck check) {
        super("Vacancy's health cannot be told");
        this.check = check;
    }

    @Override
    protected void doHealthCheck(Health.Builder builder) {
        VacancyHealthCheck.Found found = check.look();
        (found.sound() ? builder.up() : builder.down()).withDetails(found.details());
    }
}
